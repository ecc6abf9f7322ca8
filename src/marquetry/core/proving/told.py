"""A record of a proof in a line: what was found, as its history and the story tell it."""

from collections.abc import Callable, Mapping

from marquetry.core.proving.meeting import clock_words
from marquetry.core.proving.positions import POSITIONS
from marquetry.core.proving.ready import ALONE
from marquetry.core.proving.record import Proof, ProofKind, result_number
from marquetry.core.proving.rounds import LOUPE
from marquetry.core.proving.wrist import WRIST_WAY_WORDS
from marquetry.core.values.figures import figure

POSITION_LABELS = {position.key: position.label for position in POSITIONS}
LOUPE_LABELS = {each.key: each.label for each in LOUPE}
PASSED = {"passed": "passed", "failed": "no", "unsure": "unsure", "": ""}


def proof_told(proof: Proof) -> str:
    """The record in words."""
    told = TELLERS.get(proof.kind, _tried)(proof)
    return f"{told}. {proof.words}" if proof.words else told


def _tried(proof: Proof) -> str:
    label = LOUPE_LABELS.get(proof.item, proof.item.replace("_", " ").capitalize())
    return f"{label}: {PASSED[proof.verdict]}"


def _sound(proof: Proof) -> str:
    rate, beat, swing = (
        result_number(proof, key) for key in ("rate_s_per_day", "beat_error_ms", "amplitude_deg")
    )
    parts = [
        figure(rate or 0.0, 1, "s/d", signed=True),
        "swing not told" if swing is None else figure(swing, 0, "°"),
        f"beat error {figure(beat or 0.0, 2, 'ms')}",
    ]
    label: Mapping[str, str] = {str(key): words for key, words in POSITION_LABELS.items()}
    return f"{label.get(proof.item, proof.item)}: {', '.join(parts)}"


def _wrist(proof: Proof) -> str:
    what = proof.result.get("what")
    if what in {"wound", "stopped"}:
        return "Fully wound" if what == "wound" else "Stopped"
    offset = figure(result_number(proof, "offset_s") or 0.0, 1, "s", signed=True)
    how = WRIST_WAY_WORDS.get(str(proof.result.get("how")), "")
    return f"Set: {offset}" if what == "set" else f"{offset}, {how}"


def _dry(proof: Proof) -> str:
    held, loss = result_number(proof, "held_bar"), result_number(proof, "loss_per_min")
    told = f"{str(proof.result.get('verdict', '')).capitalize()} at {figure(held or 0.0, 2, 'bar')}"
    if proof.result.get("typed") and not held:
        told = (
            "Damp seen on the warm plate" if proof.verdict == "failed" else "No damp seen on the warm plate"
        )
    if proof.item == ALONE:
        told = f"The case alone: {told[:1].lower()}{told[1:]}"
    if where := proof.result.get("where"):
        told = f"{told}, {'no place found' if where == 'not found' else f'at the {where}'}"
    if minutes := result_number(proof, "hold_s") if proof.result.get("typed") else None:
        told = f"{told}, {figure(minutes / 60.0, 1, 'min')}"
    return told if loss is None else f"{told}, loss {figure(100.0 * loss, 2, '%')} a minute"


def _wet(proof: Proof) -> str:
    bubbles = "no bubbles" if proof.verdict == "passed" else "bubbles"
    return f"Wet test at {figure(result_number(proof, 'bar') or 0.0, 1, 'bar')}: {bubbles}"


def _date(proof: Proof) -> str:
    jump = result_number(proof, "jump_min")
    return f"Jumps {clock_words(round(jump or 0.0))}"


def _angle(proof: Proof) -> str:
    degrees, u = result_number(proof, "degrees"), result_number(proof, "u_degrees")
    turned = figure(degrees or 0.0, 2, "°", signed=True)
    return f"{proof.item.capitalize()}: {turned}, u {figure(u or 0.0, 2, '°')}"


def _lume(proof: Proof) -> str:
    minutes, light = result_number(proof, "minutes"), result_number(proof, "brightness")
    after = figure(minutes or 0.0, 1, "min")
    return f"{proof.item.capitalize()}: {figure(light or 0.0, 3)} of the reference after {after}"


def _opened(proof: Proof) -> str:
    return "Opened: hands, dial or movement" if proof.item == "hands" else "Opened: back, crown or crystal"


TELLERS: Mapping[ProofKind, Callable[[Proof], str]] = {
    "sound": _sound,
    "wrist": _wrist,
    "dry": _dry,
    "wet": _wet,
    "date": _date,
    "angle": _angle,
    "lume": _lume,
    "opened": _opened,
    "meeting": lambda proof: (
        f"{proof.item.rsplit('-', 1)[0].replace('-', ' under ')}: {PASSED[proof.verdict]}"
    ),
}
"""By kind; what is only tried is told by its item."""
