"""Remedies as JSON and as words: what `marquetry remedies` prints."""

from collections.abc import Iterator

from marquetry.core.fit.model import Model
from marquetry.core.remedies.idea import EFFORT_WORDS, Idea
from marquetry.core.remedies.offers import Disagreement, Offers, Remedy
from marquetry.core.sheet.entries import Json


def remedies_of(model: Model, found: Offers) -> list[dict[str, Json]]:
    """Every remedy with its JSON Patch (RFC 6902); then what is to be done all the same, and mends nothing.

    At the end what nothing mends, with an empty patch.
    """
    tried = (*found.remedies, *found.errands)
    return [*map(_as_json, tried), *(_none_as_json(model, d) for d in found.disagreements)]


def _as_json(remedy: Remedy) -> dict[str, Json]:
    return {
        **_way_as_json(remedy.idea),
        "patch": list(remedy.patch),
        "mends": list(remedy.mends),
        "worsens": list(remedy.worsens),
        "clashes_left": remedy.clashes,
        "or": [_way_as_json(other) for other in remedy.others],
    }


def _way_as_json(idea: Idea) -> dict[str, Json]:
    return {
        "kind": idea.kind,
        "title": idea.title,
        "effort": EFFORT_WORDS[idea.effort],
        "can_be_undone": idea.undo,
        "caution": idea.caution,
        "makes": idea.make,
    }


def _none_as_json(model: Model, found: Disagreement) -> dict[str, Json]:
    title = f"{model.title(found.check)}: no remedy. {_disagreement(found)}"
    return {"kind": "none", "title": title, "patch": [], "mends": [], "worsens": []}


def _disagreement(found: Disagreement) -> str:
    parts = ", ".join(part.lower() for part in found.parts)
    wanted = "; ".join(found.wanted) or "no single dimension would mend it"
    return f"These cannot both stay: {parts}. A matching part would measure: {wanted}."


def remedies_told(model: Model, found: Offers) -> str:
    """The same for a person to read."""
    if not found.remedies and not found.disagreements and not found.errands:
        return "Nothing clashes, and nothing that is tight can be made wider."
    return "\n".join(
        [
            *_lines(model, found.remedies),
            *(f"    {errand.idea.title} ({EFFORT_WORDS[errand.idea.effort]})" for errand in found.errands),
            *(str(_none_as_json(model, d)["title"]) for d in found.disagreements),
        ]
    )


def _lines(model: Model, remedies: tuple[Remedy, ...]) -> Iterator[str]:
    for number, remedy in enumerate(remedies, 1):
        left = "no clash left" if not remedy.clashes else f"{remedy.clashes} left that clash"
        yield f"{number:2d}. {remedy.idea.title} ({left}; {_effort(remedy.idea)})"
        for other in remedy.others:
            yield f"      or: {other.title} ({_effort(other)})"
        for word, names in (("mends", remedy.mends), ("spoils", remedy.worsens)):
            if names:
                yield f"      {word}: {', '.join(model.title(name) for name in names)}"


def _effort(idea: Idea) -> str:
    return EFFORT_WORDS[idea.effort] + ("" if idea.undo else "; cannot be undone")
