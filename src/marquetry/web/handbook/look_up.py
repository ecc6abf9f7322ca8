"""Search in the handbook: every chapter by its headings, every check, dimension and school by name."""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.fit.model import Model
from marquetry.web.handbook.chapters import chapters
from marquetry.web.handbook.written import Passage, Writer

MOST_FOUND = 40
AROUND = 90
WORD = re.compile(r"\w+")


@dataclass(frozen=True, slots=True)
class PassageFound:
    """A section in which all words stand: what surrounds the first of them, in three pieces."""

    section: Passage
    before: str
    hit: str
    after: str


def every_section(model: Model, writer: Writer) -> Iterator[Passage]:
    """All that there is to be found."""
    for each in chapters():
        yield from writer.sections(each)
    for check in model.checks:
        words = check.words
        text = " ".join([words.means, words.below, words.above, *words.helps])
        yield Passage("checks", check.name, check.title, text)
    for kind in model.anatomy.kinds:
        for path, quantity in kind.quantities():
            whole = f"{kind.prefix}.{path}" if kind.prefix else path
            label = model.anatomy.label_of(whole) if kind.prefix else f"{kind.label}, {quantity.label}"
            text = " ".join([quantity.how.hint, *quantity.how.steps, *quantity.how.slips])
            yield Passage("dimensions", f"{kind.key}.{path}", label, text)
    for school in model.school_list:
        text = " ".join(f"{one.label}: {one.reason}" for one in school.practices)
        yield Passage("schools", school.key, school.label, text)


def search_handbook(sections: Iterable[Passage], asked: str) -> list[PassageFound]:
    """Sections with every word asked for, as the beginning of a word; those with it in their title first."""
    words = WORD.findall(asked.casefold())
    if not words:
        return []
    found: list[tuple[int, int, Passage]] = []
    for section in sections:
        title, text = (WORD.findall(told.casefold()) for told in (section.title, section.text))
        if all(_begins(word, title) or _begins(word, text) for word in words):
            found.append((-sum(_begins(word, title) for word in words), len(found), section))
    return [_shown(section, words) for _, _, section in sorted(found, key=lambda one: one[:2])[:MOST_FOUND]]


def _begins(word: str, held: Sequence[str]) -> bool:
    return any(each.startswith(word) for each in held)


def _shown(section: Passage, words: Sequence[str]) -> PassageFound:
    places = [
        hit for word in words if (hit := re.search(rf"\b{re.escape(word)}\w*", section.text, re.IGNORECASE))
    ]
    if not places:
        return PassageFound(section, section.text[: 2 * AROUND], "", "")
    hit = min(places, key=lambda one: one.start())
    start, end = max(hit.start() - AROUND, 0), hit.end() + AROUND
    return PassageFound(
        section,
        ("…" if start else "") + section.text[start : hit.start()],
        hit[0],
        section.text[hit.end() : end] + ("…" if end < len(section.text) else ""),
    )
