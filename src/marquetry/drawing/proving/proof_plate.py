"""All proofs of a watch around its face: each a note in the margin, led to the place it speaks of."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from marquetry.core.face.seen import SeenFace
from marquetry.core.proving.ready import ProofState
from marquetry.drawing.face.face_drawing import drawn_face
from marquetry.drawing.plan import Plan
from marquetry.drawing.proving.turned import on_ring
from marquetry.drawing.scene import Box, Cluster, Dot, Label, Line, Mark, Paper, Scene
from marquetry.drawing.sheet import USUAL_TIME
from marquetry.drawing.svg import FACE

WIDTH, HEIGHT = 250.0, 116.0
CENTRE = (WIDTH / 2, HEIGHT / 2)
FACE_HIGH = 104.0
NOTE_WIDE, NOTE_HIGH = 64.0, 17.0
EDGE = 6.0
"""How far notes stand from the edge of the paper, mm."""
SPOTS: dict[str, tuple[float, float]] = {
    "functions": (1.02, 90.0), "sound": (0.0, 0.0), "meeting": (0.32, 305.0), "date": (0.62, 90.0),
    "angle": (0.78, 0.0), "lume": (0.72, 210.0), "dry": (0.9, 135.0), "wrist": (1.0, 180.0), "loupe": (0.85, 250.0),
}  # fmt: skip
"""Where each is seen: share of the case's radius, degrees from twelve."""
STATE_LOOKS: dict[ProofState, str] = {
    "passed": "proof-passed", "failed": "proof-failed", "unsure": "proof-unsure", "begun": "proof-begun",
    "open": "proof-open", "lapsed": "proof-lapsed",
}  # fmt: skip
STATE_TOLD: dict[ProofState, str] = {
    "passed": "passed", "failed": "does not hold", "unsure": "unsure", "begun": "begun", "open": "not yet",
    "lapsed": "lapsed",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class ProofNote:
    """A proof as its note says it, and where the note leads."""

    key: str
    label: str
    state: ProofState
    words: str
    link: str


def proof_plate(face: SeenFace, notes: Sequence[ProofNote], name: str) -> Scene:
    """The face with its proofs; those on the right half of the watch stand to the right."""
    radius = face.case.radius if face.case else 20.0
    scale = FACE_HIGH / (2.0 * max(face.reach, radius))
    plan = Plan(scale, centre=CENTRE)
    marks: list[Mark] = [Cluster(tuple(drawn_face(plan, face, USUAL_TIME, strap=0.0)), FACE)]
    right = [note for note in notes if math.sin(math.radians(SPOTS[note.key][1])) >= 0.0]
    left = [note for note in notes if note not in right]
    while len(right) - len(left) > 1:
        left.append(
            right.pop(
                next(
                    i
                    for i, note in enumerate(right)
                    if SPOTS[note.key][1] in {0.0, 180.0} or i == len(right) - 1
                )
            )
        )
    for column, is_left in ((left, True), (right, False)):
        marks += _column(column, radius * scale, is_left=is_left)
    return Scene(
        WIDTH, HEIGHT, f"{name}: what it is proved by", "Each note leads to its proof.", tuple(marks)
    )


def _column(notes: Sequence[ProofNote], radius: float, *, is_left: bool) -> Iterator[Mark]:
    placed = sorted(notes, key=lambda note: -_spot(note, radius)[1])
    room = HEIGHT / max(len(placed), 1)
    for number, note in enumerate(placed):
        middle = HEIGHT - room * (number + 0.5)
        yield Cluster(
            tuple(_note(note, middle, _spot(note, radius), is_left=is_left)),
            f"proof-note {STATE_LOOKS[note.state]}", link=note.link,
            label=f"{note.label}: {STATE_TOLD[note.state]}, {note.words}",
        )  # fmt: skip


def _spot(note: ProofNote, radius: float) -> Paper:
    share, turn = SPOTS[note.key]
    return on_ring(CENTRE, share * radius, turn)


def _note(note: ProofNote, middle: float, spot: Paper, *, is_left: bool) -> Iterator[Mark]:
    x = EDGE if is_left else WIDTH - NOTE_WIDE - EDGE
    edge = x + NOTE_WIDE if is_left else x
    elbow = edge + (6.0 if is_left else -6.0)
    yield Line(((edge, middle), (elbow, middle), spot), "proof-leader")
    yield Dot(spot, 1.0, "proof-spot")
    yield Box((x, middle - NOTE_HIGH / 2), NOTE_WIDE, NOTE_HIGH, "proof-back")
    yield Line(((edge, middle - NOTE_HIGH / 2), (edge, middle + NOTE_HIGH / 2)), "proof-rule")
    at = x + 5.5
    yield from _seal(note.state, (at, middle + 3.4))
    yield Label((at + 5.0, middle + 1.9), note.label, "display", 5.2)
    yield Label((x + 2.6, middle - 4.6), _said(note), "quiet", 4.0)


def _said(note: ProofNote) -> str:
    told = STATE_TOLD[note.state]
    return told if note.words in {told, "passed"} else f"{told}: {note.words}"[:34]


def _seal(state: ProofState, centre: Paper) -> Iterator[Mark]:
    """The state's mark: a lozenge of veneer, whole where it passed, half where it is begun, barred where not."""
    x, y = centre
    left, top, right, foot = (x - 2.4, y), (x, y + 2.4), (x + 2.4, y), (x, y - 2.4)
    yield Line((left, top, right, foot), "proof-seal", closed=True)
    if state == "begun":
        yield Line((left, right, foot), "proof-half", closed=True)
    if state == "failed":
        yield Line(((x - 1.2, y), (x + 1.2, y)), "proof-bar")
    if state == "unsure":
        yield Label((x, y - 1.3), "?", "proof-query", 3.6, "middle")
