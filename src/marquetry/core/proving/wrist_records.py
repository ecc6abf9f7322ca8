"""A reading from the wrist as a record keeps it, and back."""

from marquetry.core.proving.record import Proof, result_number
from marquetry.core.proving.wrist import USUAL_READING_U, WRIST_WAYS, WRIST_WHATS, WristEntry
from marquetry.core.sheet.entries import Json


def wrist_result(entry: WristEntry) -> dict[str, Json]:
    """What a record keeps of a reading; its moment stands in the record itself."""
    return {"what": entry.what, "offset_s": entry.offset, "how": entry.how, "u_s": entry.u}


def wrist_entry(proof: Proof) -> WristEntry | None:
    """The reading of a record; None where it is none."""
    what = next((each for each in WRIST_WHATS if each == proof.result.get("what")), None)
    offset, how = result_number(proof, "offset_s"), str(proof.result.get("how", ""))
    if what is None or offset is None or how not in WRIST_WAYS:
        return None
    return WristEntry(proof.at_ms / 1000.0, what, offset, how, result_number(proof, "u_s") or USUAL_READING_U)
