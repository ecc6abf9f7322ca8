"""Every element of the interface in every state, for review and a test; and the sheet of keys."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from marquetry.core.fit.finding import Finding
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.values.limits import Limits
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.limit_ruler import limit_ruler
from marquetry.drawing.scene import Label, Line, Mark, Scene
from marquetry.web.site.pages import render
from marquetry.web.watch.rows import Row

router = APIRouter()


@router.get("/keys", name="keys")
def keys(request: Request) -> Response:
    """The sheet of keys, for the page that opens it."""
    return render(request, "site/templates/_keys.html", {})


ROWS = (
    Row("dial.thickness", "tray", "Measured", "quantity", "0.40", "0.01", "measured", "mm", share=0.62),
    Row("dial.diameter", "tray", "Not known yet", "quantity", unit="mm", hint="Outside jaws.", missing=True),
    Row("dial.centre_hole", "tray", "Refused", "quantity", "two", "0.02", "listed", "mm",
        error="value: “two” cannot be; expected a number in mm, such as 2.62."),
    Row("case.lug_width", "tray", "Unusual", "quantity", "200.00", "0.05", "assumed", "mm",
        remark="Saved, but unusual: mostly 8.00 to 30.00 mm. Has the decimal point slipped?"),
    Row("case.seat_to_tube", "tray", "Only tried", "quantity", "2.90", "0.02", "measured", "mm",
        slide=(1.9, 3.9, 0.01)),
    Row(f"{SPACERS.key}.0.side", "ledger", "A choice", "choice", "dial", options=("dial", "movement")),
    Row("movement.functions", "ledger", "Names", "names", "hours, minutes", options=("hours", "minutes")),
    Row("bezel.clicks", "ledger", "A count", "count", "120"),
    Row("dial.face.colour", "ledger", "A colour", "tint", "navy", tint_chip="#1c2c4c"),
    Row("dial.face.print_colour", "ledger", "Quiet", "tint", unset="quiet: black", tint_chip="#1b1c1e"),
    Row("dial.face.inner_ring", "ledger", "A plain size", "size", "6.20", unit="mm"),
    Row("crown.thread", "ledger", "Words", "text", "0.90"),
)  # fmt: skip
MATERIALS = (
    "steel", "brass", "glass", "rubber", "dial", "movement", "rotor", "post", "print", "spacer", "insert",
)  # fmt: skip


def swatches() -> Scene:
    """Every material's tone and hatch beside its name."""
    marks: list[Mark] = []
    for index, material in enumerate(MATERIALS):
        x, y = 2.0 + 28.0 * (index % 6), 24.0 - 18.0 * (index // 6)
        marks.append(
            Line(((x, y), (x + 24, y), (x + 24, y + 10), (x, y + 10)), f"body body-{material}", closed=True)
        )
        marks.append(Label((x, y - 4), material, "quiet", 3.2))
    assumed = ((142.0, 6.0), (166.0, 6.0), (166.0, 16.0), (142.0, 16.0))
    marks += [
        Line(assumed, "body body-steel assumed", closed=True),
        Label((142.0, 2.0), "not measured", "quiet", 3.2),
    ]
    return Scene(170.0, 36.0, "Materials", "Tone and hatch of every material", tuple(marks))


RULERS = ((0.02, -0.04, 0.08), (0.06, -0.02, 0.14), (0.74, 0.65, 0.83))


def _ruler(value: float, low: float, high: float) -> Scene | None:
    """A ruler for a made-up finding, clear, tight or clash by its figures."""
    limits = Limits(-0.10, 0.10)
    finding = Finding("pattern", limits.verdict(value, low, high), limits, value, low, high)
    return limit_ruler(finding, 2)


@router.get("/patterns", name="patterns")
def show(request: Request) -> Response:
    """The pattern page."""
    context = {
        "verdicts": tuple(Verdict),
        "rows": ROWS,
        "rulers": [_ruler(value, low, high) for value, low, high in RULERS],
        "material_swatches": swatches(),
    }
    return render(request, "site/templates/patterns.html", context)
