"""Readings of lume as records keep them, and the laws through them."""

from collections.abc import Iterable

from marquetry.core.proving.lume_decay import LumeDecay, LumeReading, lume_decay
from marquetry.core.proving.record import Proof, result_number


def lume_readings(proofs: Iterable[Proof]) -> dict[str, list[LumeReading]]:
    """Readings by what glows, of records in their order."""
    found: dict[str, list[LumeReading]] = {}
    for proof in proofs:
        minutes, light = result_number(proof, "minutes"), result_number(proof, "brightness")
        if proof.kind == "lume" and minutes and light and minutes > 0.0 and light > 0.0:
            found.setdefault(proof.item, []).append(LumeReading(minutes, light))
    return found


def decays_in(proofs: Iterable[Proof]) -> dict[str, LumeDecay]:
    """The law of each thing that was read at two moments or more."""
    return {key: law for key, found in lume_readings(proofs).items() if (law := lume_decay(found))}
