"""The steps of a watch and its hands as pressed, as JSON carries them."""

from marquetry.core.bench.pressed import Pressed
from marquetry.core.bench.procedure import Procedure, WatchStep
from marquetry.core.sheet.entries import Json
from marquetry.core.trade.sundries import SUNDRY_BY_KEY


def steps_document(found: Procedure) -> list[dict[str, Json]]:
    """Every step in order; `shim_mm`, `detail` and `donor` stand only where there is something to say."""
    return [_step(step) for step in found.steps]


def _step(step: WatchStep) -> dict[str, Json]:
    told: dict[str, Json] = {
        "id": step.id,
        "title": step.title,
        "group": step.group,
        "after": list(step.after),
        "gates": list(step.gates),
        "parts": list(step.parts),
        "tools": [SUNDRY_BY_KEY[key].name for key in step.tools],
        "consumables": [SUNDRY_BY_KEY[key].name for key in step.consumables],
        "cautions": [step.caution] if step.caution else [],
        "shim_mm": step.shim_mm,
        "detail": step.how,
        "donor": step.donor,
    }
    return {key: value for key, value in told.items() if key not in OPTIONAL or value not in {None, ""}}


OPTIONAL = ("shim_mm", "detail", "donor")


def pressed_document(found: Pressed) -> dict[str, Json]:
    """Every gap, the least spare first; engagement limits have no `gap`."""
    rows: list[dict[str, Json]] = []
    for gap in found.gaps:
        told = {"between": gap.between, "gap": gap.gap, "spare": gap.spare}
        rows.append({key: value for key, value in told.items() if value is not None})
    return {"gaps": rows, "verdict": found.verdict.value}
