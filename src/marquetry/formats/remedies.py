"""Remedies as JSON and as words: what `marquetry remedies` prints."""

from collections.abc import Iterator

from marquetry.core.fit.model import Model
from marquetry.core.remedies.idea import EFFORT_WORDS
from marquetry.core.remedies.offers import Disagreement, Offers, Remedy
from marquetry.core.sheet.entries import Json


def remedies_of(model: Model, found: Offers) -> list[dict[str, Json]]:
    """Every remedy with its JSON Patch (RFC 6902); at the end, what nothing mends, with an empty patch."""
    return [*map(_as_json, found.remedies), *(_none_as_json(model, d) for d in found.disagreements)]


def _as_json(remedy: Remedy) -> dict[str, Json]:
    return {
        "kind": remedy.idea.kind,
        "title": remedy.idea.title,
        "patch": list(remedy.patch),
        "mends": list(remedy.mends),
        "worsens": list(remedy.worsens),
        "clashes_left": remedy.clashes,
        "effort": EFFORT_WORDS[remedy.idea.effort],
        "can_be_undone": remedy.idea.undo,
        "caution": remedy.idea.caution,
        "makes": remedy.idea.make,
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
    if not found.remedies and not found.disagreements:
        return "Nothing clashes, and nothing that is tight can be made wider."
    return "\n".join(
        [
            *_lines(model, found.remedies),
            *(str(_none_as_json(model, d)["title"]) for d in found.disagreements),
        ]
    )


def _lines(model: Model, remedies: tuple[Remedy, ...]) -> Iterator[str]:
    for number, remedy in enumerate(remedies, 1):
        left = "no clash left" if not remedy.clashes else f"{remedy.clashes} left that clash"
        undo = "" if remedy.idea.undo else "; cannot be undone"
        yield f"{number:2d}. {remedy.idea.title} ({left}; {EFFORT_WORDS[remedy.idea.effort]}{undo})"
        for word, names in (("mends", remedy.mends), ("spoils", remedy.worsens)):
            if names:
                yield f"      {word}: {', '.join(model.title(name) for name in names)}"
