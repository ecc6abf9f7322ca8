"""The handbook's chapters as they are written: `pages/*.md`, each with the pages it helps on."""

import re
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Literal

from marquetry.core.values.errors import NotFoundError

ChapterShelf = Literal["pages", "walks", "reference"]
SHELVES: tuple[tuple[ChapterShelf, str], ...] = (
    ("pages", "At each page"), ("walks", "Fourteen jobs, walked through"), ("reference", "To look up"),
)  # fmt: skip
HEAD = re.compile(r"(\w+): *(.*)")


@dataclass(frozen=True, slots=True)
class BookChapter:
    """One chapter: where it stands, what it is about, the pages (by route) it helps on, its Markdown."""

    key: str
    title: str
    shelf: ChapterShelf
    about: str
    helps_on: tuple[str, ...]
    text: str


@lru_cache(maxsize=1)
def chapters() -> tuple[BookChapter, ...]:
    """Every chapter in the order in which they are read."""
    folder = files("marquetry.web.handbook").joinpath("pages")
    names = sorted(each.name for each in folder.iterdir() if each.name.endswith(".md"))
    return tuple(_read(name, folder.joinpath(name).read_text("utf-8")) for name in names)


def _read(name: str, written: str) -> BookChapter:
    """A file: lines `key: value`, an empty line, then the text."""
    head, _, text = written.partition("\n\n")
    told = {found[1]: found[2] for line in head.splitlines() if (found := HEAD.fullmatch(line))}
    shelf = next(shelf for shelf, _ in SHELVES if shelf == told["shelf"])
    helps_on = tuple(told.get("pages", "").split())
    return BookChapter(name[3:-3], told["title"], shelf, told["about"], helps_on, text)


def chapter(key: str) -> BookChapter:
    """One chapter; NotFoundError where there is none."""
    found = next((each for each in chapters() if each.key == key), None)
    if found is None:
        raise NotFoundError(f"chapter “{key[:40]}” of the handbook")
    return found


def chapter_for(page: str) -> BookChapter | None:
    """The chapter that helps on a page, by its route's name."""
    return next((each for each in chapters() if page in each.helps_on), None)
