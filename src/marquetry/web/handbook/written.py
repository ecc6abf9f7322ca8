"""A chapter as a page shows it: Markdown to HTML, its figures drawn, its links those of the program.

`[words](page:orders)` leads to a page by its route, `[words](chapter:build)` to a chapter,
`![caption](figure:…)` stands for a drawing.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from html import escape
from typing import TYPE_CHECKING
from urllib.parse import unquote

from markupsafe import Markup

from marquetry.core.fit.model import Model
from marquetry.web.handbook.chapters import BookChapter
from marquetry.web.handbook.figures import figure_scene
from marquetry.web.site.addresses import Address
from marquetry.web.site.drawn import drawn

if TYPE_CHECKING:  # a tenth of a second that a start need not take
    from markdown_it import MarkdownIt
    from markdown_it.token import Token

SLUG = re.compile(r"[^a-z0-9]+")


@dataclass(frozen=True, slots=True)
class Passage:
    """A piece of a chapter below one heading, as a search finds it."""

    chapter: str
    anchor: str
    title: str
    text: str


def slug(words: str) -> str:
    """A heading as an anchor."""
    return SLUG.sub("-", words.lower()).strip("-")


class Writer:
    """Writes chapters; one for an application, since links and figures hang on it."""

    def __init__(self, model: Model, address: Address) -> None:
        self._model, self._address = model, address
        self._done: dict[str, Markup] = {}

    @cached_property
    def _markdown(self) -> "MarkdownIt":
        from markdown_it import MarkdownIt  # noqa: PLC0415  # no page but the handbook's waits for it

        made = MarkdownIt("commonmark", {"html": False, "typographer": False}).enable("table")
        rules = {"image": self._figure, "link_open": self._link, "heading_open": self._heading}
        for name, rule in rules.items():
            made.add_render_rule(name, _of_the_renderer(rule))
        return made

    def html(self, chapter: BookChapter) -> Markup:
        """The chapter's text; worked out once."""
        if chapter.key not in self._done:
            # Shipped with the program, raw HTML in it is escaped, and figures are escaped by svg.py.
            self._done[chapter.key] = Markup(self._markdown.render(chapter.text))  # noqa: S704
        return self._done[chapter.key]

    def sections(self, chapter: BookChapter) -> list[Passage]:
        """The chapter in pieces, its first the lines before any heading."""
        found = [Passage(chapter.key, "", chapter.title, chapter.about)]
        tokens = self._markdown.parse(chapter.text)
        for before, token in zip([None, *tokens], tokens, strict=False):
            if token.type != "inline":
                continue
            words = _plain(token)
            if before is not None and before.type == "heading_open":
                found.append(Passage(chapter.key, slug(words), words, ""))
            else:
                last = found[-1]
                found[-1] = Passage(last.chapter, last.anchor, last.title, f"{last.text} {words}".strip())
        return found

    def _figure(self, tokens: "Sequence[Token]", place: int, *__: object) -> str:
        token = tokens[place]
        told, caption = unquote(str(token.attrs["src"])), escape(token.content)
        if not told.startswith("figure:"):
            return caption
        scene = drawn(figure_scene(self._model, told.removeprefix("figure:")))
        return f'<span class="handbook-figure">{scene}<span class="handbook-caption">{caption}</span></span>'

    def _link(self, tokens: "Sequence[Token]", place: int, *__: object) -> str:
        kind, _sign, name = str(tokens[place].attrs["href"]).partition(":")
        if kind == "page":
            return f'<a href="{escape(str(self._address(name)))}">'
        if kind == "chapter":
            name, sign, anchor = name.partition("#")
            return f'<a href="{escape(str(self._address("chapter", key=name)))}{sign}{escape(anchor)}">'
        return f'<a href="{escape(str(tokens[place].attrs["href"]))}">'

    def _heading(self, tokens: "Sequence[Token]", place: int, *__: object) -> str:  # as the two above
        return f'<{tokens[place].tag} id="{slug(_plain(tokens[place + 1]))}">'


def _of_the_renderer(rule: Callable[..., str]) -> Callable[..., str]:
    """A rule as the renderer binds it: with itself for the first argument, of which ours have no need."""
    return lambda _, *given: rule(*given)


def _plain(token: "Token") -> str:
    """What is read of a line: its words, a caption for a figure."""
    kinds = {"text", "code_inline", "image"}
    held = (
        each.content if each.type in kinds else " " if each.type == "softbreak" else ""
        for each in token.children or ()
    )
    return "".join(held) or token.content
