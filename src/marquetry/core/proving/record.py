"""A proof of a watch: what was looked at, when, by what, what came out. Kept for ever; the newest decides.

A record that was a slip is taken back by one that undoes it; nothing is rubbed out.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal, get_args

from marquetry.core.sheet.entries import Json

ProofKind = Literal[
    "functions", "sound", "wrist", "dry", "wet", "meeting", "date", "angle", "lume", "loupe", "opened", "undo"
]
PROOF_KINDS: tuple[ProofKind, ...] = get_args(ProofKind)
ProofVerdict = Literal["passed", "failed", "unsure", ""]
PROOF_VERDICTS: tuple[ProofVerdict, ...] = get_args(ProofVerdict)
LONGEST_PROOF_WORDS = 400


@dataclass(frozen=True, slots=True)
class Proof:
    """One record. `item` is what of its kind it is about: a position, a function, a hand.

    `at_ms` is when it happened, milliseconds since 1970; `means` by what it was read, `by` who did it;
    `result` holds its figures, `undoes` the key of a record that this one takes back. A verdict is empty
    where the record is a reading that others are judged with.
    """

    key: str
    kind: ProofKind
    item: str
    at_ms: int
    verdict: ProofVerdict = ""
    words: str = ""
    means: str = ""
    by: str = ""
    result: Mapping[str, Json] = field(default_factory=dict)
    undoes: str = ""
    photo: int | None = None
    id: int = 0


def proofs_standing(proofs: Iterable[Proof]) -> list[Proof]:
    """What was not taken back, by the time it happened."""
    every = sorted(proofs, key=lambda proof: (proof.at_ms, proof.id))
    undone = {proof.undoes for proof in every if proof.kind == "undo"}
    return [proof for proof in every if proof.kind != "undo" and proof.key not in undone]


def newest(proofs: Iterable[Proof], kind: ProofKind) -> dict[str, Proof]:
    """Of one kind the newest by item."""
    return {proof.item: proof for proof in proofs if proof.kind == kind}


def result_number(proof: Proof, key: str) -> float | None:
    """A figure of a record's result, in the unit its key ends with; None where it has none."""
    found = proof.result.get(key)
    return float(found) if isinstance(found, int | float) and not isinstance(found, bool) else None
