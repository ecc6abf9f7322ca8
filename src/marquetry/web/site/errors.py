"""The single mapping from an error to a status and a page; no stack trace ever reaches a reader."""

import logging

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse, Response

from marquetry.core.values.errors import (
    DimensionError,
    MarquetryError,
    NotFoundError,
    SheetError,
    StaleVersionError,
    TakenError,
)
from marquetry.web.site.deps import wants_fragments
from marquetry.web.site.pages import render

STATUS: dict[type[MarquetryError], int] = {
    NotFoundError: 404,
    StaleVersionError: 409,
    TakenError: 409,
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
}
log = logging.getLogger("marquetry")


def add_error_pages(app: FastAPI) -> None:
    """Answer every error with a page, or with JSON where that was asked for."""
    app.add_exception_handler(MarquetryError, _ours)
    app.add_exception_handler(RequestValidationError, _invalid)
    app.add_exception_handler(HTTPException, _http)
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
    return _answer(request, STATUS.get(type(error), 400), str(error))  # type: ignore[arg-type]  # registered for ours


def _invalid(request: Request, error: Exception) -> Response:
    fields = error.errors() if isinstance(error, RequestValidationError) else []
    told = "; ".join(f"{field['loc'][-1]}: {field['msg']}" for field in fields)
    return _answer(request, 422, f"Something in the form cannot be read ({told}). Nothing was changed.")


def _http(request: Request, error: Exception) -> Response:
    status = error.status_code if isinstance(error, HTTPException) else 500
    words = {404: "There is nothing at this address.", 405: "This address does not take that."}
    told = words.get(status) or (str(error.detail) if status == TOO_LARGE else "")  # type: ignore[attr-defined]  # an HTTPException then
    return _answer(request, status, told or "The request could not be answered.")


def _unforeseen(request: Request, error: Exception) -> Response:
    log.error("unforeseen error at %s", request.url.path, exc_info=error)
    words = "The program met something it did not expect. What was saved before is untouched."
    return _answer(request, 500, words)
