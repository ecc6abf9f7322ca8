"""The handbook's pages: its contents with a search, its chapters, and the chapter that helps on a page."""

from typing import Annotated

from fastapi import APIRouter, Query, Request
from starlette.responses import RedirectResponse, Response

from marquetry.web.handbook.chapters import SHELVES, BookChapter, chapter, chapter_for, chapters
from marquetry.web.handbook.look_up import every_section, search_handbook
from marquetry.web.handbook.written import Writer
from marquetry.web.site.deps import Model
from marquetry.web.site.pages import render

router = APIRouter()
MADE_BY_TEMPLATE = {
    "checks": "handbook/templates/_checks.html",
    "dimensions": "handbook/templates/_dimensions.html",
    "schools": "handbook/templates/_schools.html",
    "keys": "site/templates/_keys.html",
}
"""Chapters that end with what the model describes, or with the sheet of keys: read, never written twice."""


@router.get("/handbook", name="handbook")
def contents(request: Request, model: Model, q: Annotated[str, Query(max_length=100)] = "") -> Response:
    """What is in it, or what was found in it."""
    writer: Writer = request.app.state.handbook
    found = search_handbook(every_section(model, writer), q) if q.strip() else []
    context = {"shelves": shelved(), "asked": q.strip(), "found": found}
    return render(request, "handbook/templates/contents.html", context)


@router.get("/handbook/for/{page}", name="handbook_for")
def for_page(request: Request, page: str) -> Response:
    """To the chapter that helps on a page; to the contents where none does."""
    found = chapter_for(page)
    to = request.app.url_path_for("chapter", key=found.key) if found else request.app.url_path_for("handbook")
    return RedirectResponse(to, status_code=303)


@router.get("/handbook/{key}", name="chapter")
def show(request: Request, model: Model, key: str) -> Response:
    """One chapter."""
    writer: Writer = request.app.state.handbook
    shown = chapter(key)
    every = chapters()
    place = every.index(shown)
    context = {
        "chapter": shown,
        "text": writer.html(shown),
        "before": every[place - 1] if place else None,
        "after": every[place + 1] if place + 1 < len(every) else None,
        "shelves": shelved(),
        "more": MADE_BY_TEMPLATE.get(shown.key),
        "model": model,
    }
    return render(request, "handbook/templates/chapter.html", context)


def shelved() -> list[tuple[str, list[BookChapter]]]:
    """The chapters by where they stand."""
    return [(label, [each for each in chapters() if each.shelf == shelf]) for shelf, label in SHELVES]
