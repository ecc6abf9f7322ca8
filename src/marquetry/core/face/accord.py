"""What on a face may not go together: told as a note, never as a verdict. Taste is the builder's."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.face.dress import Coat, Lume
from marquetry.core.face.night import AFTER
from marquetry.core.face.seen import SeenFace
from marquetry.core.face.shade import contrast, tone
from marquetry.core.values.figures import figure

WARM = (15.0, 65.0)
"""Hues, in degrees, of gold, brass, bronze, copper."""
COLOURED = 0.12
"""How far the channels of a metal lie apart that is not grey, as a share of full light."""
HARD_TO_READ = 1.7
"""Contrast below which hands are lost over a dial."""
METAL_FINISHES = {
    "brushed along": "brushed", "brushed round": "brushed", "polished": "polished", "blasted": "blasted",
    "coated": "coated", "matt": "matt",
}  # fmt: skip
STANDS_OUT = 5.0
"""Contrast above which a window is a hole in its dial."""
UNEVEN = 2.0
"""Two lumes of which one is more than twice as bright as the other are seen as two."""


@dataclass(frozen=True, slots=True)
class FaceNote:
    """What may not go together: the kinds of part it is about, and a sentence."""

    parts: tuple[str, ...]
    words: str


def face_notes(face: SeenFace) -> tuple[FaceNote, ...]:
    """Every note on a face, by day and by night; none about a part of which nothing is told."""
    noted = (_metals, _finishes, _reading, _window, _glow, _unlit)
    return tuple(note for found in noted for note in found(face) if not set(note.parts) & set(face.quiet))


def _outside(face: SeenFace) -> dict[str, tuple[str, Coat]]:
    """The metal parts that are seen beside each other: by key, label and coat."""
    found = {"case": ("case", face.case), "bezel": ("bezel", face.bezel), "crown": ("crown", face.crown)}
    held = {key: (label, part.coat) for key, (label, part) in found.items() if part}
    if face.strap and face.strap.surface in {"links", "mesh"}:
        held["strap"] = ("bracelet", face.strap.coat)
    if face.strap and face.strap.buckle != "none" and face.strap.buckle_coat:
        held["buckle"] = ("buckle" if face.strap.buckle == "pin buckle" else "clasp", face.strap.buckle_coat)
    return held


def is_warm(colour: str) -> bool:
    """Whether a metal of this colour is one of the warm ones: gold, brass, bronze, copper."""
    hue, much = tone(colour)
    return much > COLOURED and WARM[0] <= hue <= WARM[1]


def _metals(face: SeenFace) -> Iterator[FaceNote]:
    parts = _outside(face)
    sides: dict[bool, list[str]] = {True: [], False: []}
    for key, (_, coat) in parts.items():
        sides[is_warm(coat.colour)].append(key)
    if sides[True] and sides[False]:
        warm, cold = (" and ".join(parts[key][0] for key in sides[side]) for side in (True, False))
        yield FaceNote(
            (*sides[True], *sides[False]), f"Metals of two colours: {warm} warm, {cold} white or dark."
        )
    markers = {m.colour for m in face.dial.markers if m.height} if face.dial else set()
    hands = {hand.colour for hand in face.hands if hand.key in {"hour", "minute"}}
    if markers and hands and {is_warm(c) for c in markers} != {is_warm(c) for c in hands}:
        yield FaceNote(("dial", "hands"), "Applied markers and hands are metals of two colours.")


def _finishes(face: SeenFace) -> Iterator[FaceNote]:
    told = {
        key: (label, METAL_FINISHES[coat.finish])
        for key, (label, coat) in _outside(face).items()
        if coat.finish in METAL_FINISHES and coat.finish_is_told and key != "crown"
    }
    if len({finish for _, finish in told.values()}) > 1:
        words = ", ".join(f"{label} {finish}" for label, finish in told.values())
        yield FaceNote(tuple(told), f"Finishes side by side: {words}.")


def _reading(face: SeenFace) -> Iterator[FaceNote]:
    if not face.dial:
        return
    for hand in face.hands:
        if hand.key == "minute":
            seen = (hand.colour, *((hand.lume.day,) if hand.lume else ()))
            ratio = max(contrast(colour, face.dial.coat.colour) for colour in seen)
            if ratio < HARD_TO_READ:
                yield FaceNote(
                    ("hands", "dial"),
                    f"Hands and dial are nearly of one tone (contrast {figure(ratio, 1)} : 1): hard to read.",
                )


def _window(face: SeenFace) -> Iterator[FaceNote]:
    if not face.dial:
        return
    for window in face.dial.windows:
        if contrast(window.disc, face.dial.coat.colour) > STANDS_OUT:
            yield FaceNote(
                ("calendar_disc", "dial"),
                f"The {window.name} disc stands out from the dial: a disc in the dial's colour would not.",
            )


def _pasted(face: SeenFace) -> dict[str, tuple[str, Lume]]:
    """Every part that glows, with its label."""
    found: dict[str, tuple[str, Lume | None]] = {
        "dial": ("dial", next((m.lume for m in face.dial.markers if m.lume), None) if face.dial else None),
        "hands": ("hands", next((hand.lume for hand in face.hands if hand.lume), None)),
        "bezel_insert": ("insert", face.insert.lume if face.insert else None),
        "chapter_ring": ("ring", face.ring.lume if face.ring else None),
    }
    return {key: (label, lume) for key, (label, lume) in found.items() if lume}


def _glow(face: SeenFace) -> Iterator[FaceNote]:
    parts = _pasted(face)
    if len({lume.glow for _, lume in parts.values()}) > 1:
        words = ", ".join(f"{label} {lume.glow}" for label, lume in parts.values())
        yield FaceNote(tuple(parts), f"Glows in different colours: {words}.")
    later = {label: lume.paste.brightness(AFTER[-1]) for label, lume in parts.values()}
    if later and max(later.values()) > UNEVEN * min(later.values()):
        bright, dim = max(later, key=later.__getitem__), min(later, key=later.__getitem__)
        times = figure(later[bright] / later[dim], 1)
        yield FaceNote(tuple(parts), f"After an hour the {bright} is {times} times as bright as the {dim}.")
    if len({lume.day for _, lume in parts.values()}) > 1:
        yield FaceNote(tuple(parts), "By day the lume has different colours on " + _listed(parts) + ".")


def _listed(parts: dict[str, tuple[str, Lume]]) -> str:
    labels = [label for label, _ in parts.values()]
    return ", ".join(labels[:-1]) + f" and {labels[-1]}"


def _unlit(face: SeenFace) -> Iterator[FaceNote]:
    """One of dial and hands glows and the other does not: the time cannot be read at night."""
    parts = _pasted(face)
    if face.dial and face.hands and ("dial" in parts) != ("hands" in parts):
        lit, dark = ("dial", "hands") if "dial" in parts else ("hands", "dial")
        verb = "glow" if lit == "hands" else "glows"
        other = "do" if dark == "hands" else "does"
        yield FaceNote(
            ("dial", "hands"), f"The {lit} {verb}, the {dark} {other} not: no time to be read at night."
        )
