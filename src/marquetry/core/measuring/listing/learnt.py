"""What a seller's own words mean, as a builder once told: a quantity of a part, a kind, or no part at all."""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from marquetry.core.measuring.listing.beside import BETWEEN
from marquetry.core.measuring.listing.kit import LEAVE, MARKS
from marquetry.core.measuring.listing.lengths import lengths_in
from marquetry.core.measuring.listing.line import ListingLine, plain_words
from marquetry.core.measuring.listing.result import Proposed

HEADS = ""
"""Stands for the kind where words head a part instead of naming a quantity of one."""
LONGEST_LABEL = 40
SIGNS = " :=.-|\t,;(["


@dataclass(frozen=True, slots=True)
class LearntLabel:
    """Words of a seller. `means` is a path below the `kind`; with `HEADS` a kind of part, or `LEAVE`."""

    kind: str
    label: str
    means: str

    def at(self, plain: str) -> re.Match[str] | None:
        """Where the words stand in a line."""
        return re.search(rf"(?<![a-z]){re.escape(plain_words(self.label))}(?![a-z])", plain)


def label_of(words: str) -> str:
    """The words of a line before its first figure, without marks and signs: what a seller calls the figure.

    Of a line without a figure, its first words up to a sign.
    """
    line = ListingLine.of(words)
    marks = MARKS.match(line.plain)
    start = marks.end() if marks else 0
    figure = re.search(r"\d|[ø⌀]", line.plain[start:])
    sign = re.search(r"[:=|\t,;(]|\s-\s", line.plain[start:])
    ends = [found.start() for found in (figure, sign) if found]
    return line.text[start : start + min(ends, default=len(line.text))].strip(SIGNS)[:LONGEST_LABEL].strip()


def heads_learnt(lines: Iterable[ListingLine], learnt: Iterable[LearntLabel]) -> dict[int, str]:
    """What the lines that begin with a learnt word are, by their number: a kind that begins there, or no part."""
    heads = [one for one in learnt if one.kind == HEADS and one.label]
    found: dict[int, str] = {}
    for line in lines:
        marks = MARKS.match(line.plain)
        start = marks.end() if marks else 0
        for one in heads:
            match = one.at(line.plain)
            if match and match.start() <= start:
                found[line.number] = one.means
    return found


def fields_learnt(
    line: ListingLine, number: int, kind: str, learnt: Iterable[LearntLabel]
) -> Iterator[Proposed]:
    """Every figure that stands behind a word which the builder said the meaning of."""
    for one in learnt:
        match = one.at(line.plain) if one.kind == kind and one.means != LEAVE else None
        if match is None:
            continue
        for figure in lengths_in(line.plain):
            if figure.start >= match.end() and BETWEEN.fullmatch(line.plain, match.end(), figure.start):
                length, words = figure.values[0], line.words(match.start(), figure.end)
                at = (number, match.start(), figure.end)
                yield Proposed(one.means, length.value, length.tol, "mm", words, "said", *at)
                break
