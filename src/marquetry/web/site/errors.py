"""The single mapping from an error to a status and a page; no stack trace ever reaches a reader."""

import logging
import sqlite3

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse, Response

from marquetry.core.values.errors import (
    BusyError,
    DimensionError,
    MarquetryError,
    NotFoundError,
    SheetError,
    StaleVersionError,
    TakenError,
)
from marquetry.web.site.deps import wants_fragments
from marquetry.web.site.guards import HEADERS
from marquetry.web.site.pages import render

STATUS: dict[type[MarquetryError], int] = {
    NotFoundError: 404,
    StaleVersionError: 409,
    TakenError: 409,
    BusyError: 503,
    SheetError: 422,
    DimensionError: 422,
}
TOO_LARGE = 413
TITLES = {
    404: "Not on the bench",
    409: "Changed meanwhile",
    413: "That is too large",
    422: "That cannot be read",
    500: "A fault of ours",
    503: "Busy",
    507: "No room to write",
}
log = logging.getLogger("marquetry")


def add_error_pages(app: FastAPI) -> None:
    """Answer every error with a page, or with JSON where that was asked for."""
    app.add_exception_handler(MarquetryError, _ours)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
    app.add_exception_handler(OverflowError, _too_great)
    app.add_exception_handler(sqlite3.OperationalError, _database)
    app.add_exception_handler(Exception, _unforeseen)


def _answer(request: Request, status: int, words: str) -> Response:
    if "application/json" in request.headers.get("accept", "") or request.url.path.endswith(".json"):
        return JSONResponse({"error": words}, status_code=status)
    title = TITLES.get(status, "That did not work")
    if wants_fragments(request):
        # The page shows the notice in its place; a status of 4xx would only fill the browser's log.
        shown = status if status >= 500 else 200  # noqa: PLR2004  # a fault of ours stays one
        return render(request, "site/templates/_notice.html", {"title": title, "words": words}, shown)
    return render(request, "site/templates/error.html", {"title": title, "words": words}, status)


def _ours(request: Request, error: Exception) -> Response:
    answer = _answer(request, STATUS.get(type(error), 400), str(error))  # type: ignore[arg-type]  # registered for ours
    if isinstance(error, BusyError):
        answer.headers["Retry-After"] = TRY_AGAIN_SECONDS
    return answer


def _invalid(request: Request, error: Exception) -> Response:
    fields = error.errors() if isinstance(error, RequestValidationError) else []
    told = "; ".join(f"{field['loc'][-1]}: {field['msg']}" for field in fields)
    return _answer(request, 422, f"Something in the form cannot be read ({told}). Nothing was changed.")


def _http(request: Request, error: Exception) -> Response:
    status = error.status_code if isinstance(error, HTTPException) else 500
    words = {404: "There is nothing at this address.", 405: "This address does not take that."}
    told = words.get(status) or (str(error.detail) if status == TOO_LARGE else "")  # type: ignore[attr-defined]  # an HTTPException then
    return _answer(request, status, told or "The request could not be answered.")


def _too_great(request: Request, error: Exception) -> Response:  # noqa: ARG001  # a number no row can have
    return _answer(request, 404, "There is nothing of so great a number.")


BUSY = "The workshop is busy with something larger. Nothing was changed; please try again in a few seconds."
TRY_AGAIN_SECONDS = "3"


def _database(request: Request, error: Exception) -> Response:
    """A database that is busy is told with when to try again; one that cannot be written, as what it is."""
    code = getattr(error, "sqlite_errorcode", 0) & 0xFF
    if code not in {sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED}:
        words = {
            sqlite3.SQLITE_FULL: "The disk is full. Nothing was changed.",
            sqlite3.SQLITE_READONLY: "The workshop's file cannot be written. Nothing was changed.",
        }
        if code not in words:
            return _unforeseen(request, error)
        return _answer(request, 507, words[code])
    answer = _answer(request, 503, BUSY)
    answer.headers["Retry-After"] = TRY_AGAIN_SECONDS
    return answer


def _unforeseen(request: Request, error: Exception) -> Response:
    log.error("unforeseen error at %s", request.url.path, exc_info=error)
    words = "The program met something it did not expect. What was saved before is untouched."
    answer = _answer(request, 500, words)
    # Starlette answers this one outside of every middleware: the headers come along here.
    answer.headers.update({**HEADERS, "Cache-Control": "no-store"})
    return answer
