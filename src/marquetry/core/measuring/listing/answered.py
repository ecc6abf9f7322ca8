"""Doubts that a builder answered: of two values the one that is meant, of a slip what was meant, or neither."""

from collections.abc import Mapping
from dataclasses import replace

from marquetry.core.measuring.listing.result import Doubted, Listing, Proposed

MEANT, NEITHER = "meant", "none"
"""Answers beside the number of a proposal: what the question offers, and that nothing of it is used."""


def with_answers(listing: Listing, answers: Mapping[str, str]) -> Listing:
    """The listing with each answered doubt settled; `answers` by path: a proposal's number, MEANT or NEITHER.

    An answer that names no proposal of its path is no answer: the text may have been split anew since.
    """
    fields: list[Proposed] = []
    for number, proposed in enumerate(listing.fields):
        settled = _settled(listing, number, proposed, answers.get(proposed.path, ""))
        fields += [settled] if settled is not None else []
    still = {proposed.path for proposed in fields if proposed.sure == "ask"}
    of_others = {slip.path for slip in _of_others(listing)} - answers.keys()
    return replace(
        listing, fields=fields, asks=[slip for slip in listing.asks if slip.path in still | of_others]
    )


def told_of_others(listing: Listing, answers: Mapping[str, str]) -> dict[str, str]:
    """What the lines of a part tell of another one and the builder agreed to: path in the watch and words."""
    return {slip.path: str(slip.meant) for slip in _of_others(listing) if answers.get(slip.path) == MEANT}


def _of_others(listing: Listing) -> list[Doubted]:
    own = {proposed.path for proposed in listing.fields}
    return [slip for slip in listing.asks if slip.path not in own]


def _settled(listing: Listing, number: int, proposed: Proposed, answer: str) -> Proposed | None:
    if proposed.sure != "ask" or not answer:
        return proposed
    if answer == NEITHER:
        return None
    if answer == MEANT:
        meant = next((slip.meant for slip in listing.asks if slip.path == proposed.path), None)
        return proposed if meant is None else replace(proposed, value=meant, sure="said")
    if not answer.isdecimal() or not _is_of(listing, int(answer), proposed.path):
        return proposed
    return replace(proposed, sure="said") if int(answer) == number else None


def _is_of(listing: Listing, number: int, path: str) -> bool:
    return number < len(listing.fields) and listing.fields[number].path == path
