"""A face whose lume was measured: each part fades as it was seen to, others as pastes of their colour."""

from collections.abc import Mapping
from dataclasses import replace

from marquetry.core.face.dress import Lume
from marquetry.core.face.night import Paste
from marquetry.core.face.seen import SeenFace

SOURCE = "measured on this watch"
AT_MIN = 10.0
"""Minutes after light at which pastes are compared."""
Decay = tuple[float, float]
"""Brightness over the reference ten minutes after light, and the exponent it falls by."""


def with_proved_light(face: SeenFace, decays: Mapping[str, Decay]) -> SeenFace:
    """The face with what `dial`, `hands` and `insert` were measured to give.

    Photographs tell how bright one is over another, not in candela: the first that was measured is taken to
    be as bright after ten minutes as its colour of paste usually is, and the others by their ratio to it.
    """
    lumes = {key: lume for key, lume in _lumes(face).items() if key in decays}
    if not lumes:
        return face
    anchor = next(iter(lumes))
    usual = lumes[anchor].paste.at_ten / decays[anchor][0]
    made = {
        key: replace(lume, measured=Paste(lume.glow, usual * decays[key][0], decays[key][1], SOURCE))
        for key, lume in lumes.items()
    }
    return _relit(face, made)


def _lumes(face: SeenFace) -> dict[str, Lume]:
    found: dict[str, Lume | None] = {
        "dial": next((m.lume for m in face.dial.markers if m.lume), None) if face.dial else None,
        "hands": next((hand.lume for hand in face.hands if hand.lume), None),
        "insert": face.insert.lume if face.insert else None,
    }
    return {key: lume for key, lume in found.items() if lume}


def _relit(face: SeenFace, made: Mapping[str, Lume]) -> SeenFace:
    dial, insert, hands = face.dial, face.insert, face.hands
    if dial and "dial" in made:
        dial = replace(dial, markers=tuple(replace(m, lume=m.lume and made["dial"]) for m in dial.markers))
    if insert and "insert" in made:
        insert = replace(insert, lume=made["insert"])
    if "hands" in made:
        hands = tuple(replace(hand, lume=hand.lume and made["hands"]) for hand in hands)
    return replace(face, dial=dial, insert=insert, hands=hands)
