"""Checks of the crystal: held by its gasket, standing proud of the insert, strong enough for the depth."""

from dataclasses import dataclass

from marquetry.core.evidence.seat import flange
from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.levels import insert_over_ledge
from marquetry.core.fit.trace import Trace
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number

SEA_WATER, GRAVITY = 1025.0, 9.80665
"""kg/m³ and m/s²."""
SHALLOWEST_M = 0.01
"""Less is no water: and its pressure is too small to divide by."""


@dataclass(frozen=True, slots=True)
class Glass:
    """Bending strength in MPa and Poisson's ratio, as fit-model.md takes them."""

    strength: float
    poisson: float


GLASSES = {"sapphire": Glass(400, 0.27), "mineral": Glass(60, 0.22), "acrylic": Glass(60, 0.37)}


def crystal_squeeze(r: Trace) -> Number:
    """By how many percent of its wall the gasket is squeezed between crystal and bore."""
    wall = r["crystal_gasket.wall"]
    return 100 * (r["crystal.diameter"] + 2 * wall - r["case.crystal_bore"]) / (2 * wall)


def crystal_proud(r: Trace) -> Number | None:
    """How far the crystal's edge stands above the insert, both measured from the crystal's ledge, mm."""
    if not r.wants("crystal_gasket"):
        return None
    return flange(r) + r["crystal.edge_thickness"] - insert_over_ledge(r)


def crystal_insert_gap(r: Trace) -> Number:
    """Gap between crystal and insert, over the diameter, mm."""
    return r["bezel_insert.inner_diameter"] - r["crystal.diameter"]


def crystal_strength(r: Trace) -> Number | None:
    """Strength over the stress of the target depth in a simply supported round plate, a plain ratio."""
    depth, glass = r.target("water_depth_m"), GLASSES.get(r.word("crystal.material") or "")
    if not depth or depth < SHALLOWEST_M or glass is None:
        return None
    aperture, thickness = r["case.crystal_aperture"], r["crystal.centre_thickness"]
    pressure = SEA_WATER * GRAVITY * depth / 1e6
    return glass.strength / (3 * (3 + glass.poisson) / 8 * pressure * (aperture / 2 / thickness) ** 2)


PRESS_SCHOOLS = (
    "Builders differ: press cold; or warm the case and cool the crystal, which gives only a few hundredths. "
    "Before or after the movement is in. Protect eyes; glass may burst under the press."
)

CHECKS = (
    FormulaCheck(
        name="crystal_squeeze",
        rate=0.04,
        title="Crystal in its gasket",
        limits=Limits(4, 18),
        unit="%",
        decimals=1,
        formula=crystal_squeeze,
        span=Span("r", "crystal_edge", "crystal_bore", beside="crystal_ledge"),
        words=Words(
            means="How much of its wall the gasket loses between crystal and bore: what holds and seals.",
            below="The crystal may push out or leak.",
            above="The crystal needs too much force: it chips, or the gasket shears off.",
            helps=("A gasket with another wall, or a crystal a tenth larger or smaller.", PRESS_SCHOOLS),
        ),
    ),
    FormulaCheck(
        name="crystal_proud",
        rate=0.02,
        title="Crystal above the insert",
        limits=Limits(-0.05, 0.60),
        formula=crystal_proud,
        span=Span("z", "insert_top", "crystal_shoulder", beside="insert_inner"),
        words=Words(
            means="How far the crystal's edge stands above the insert.",
            below="The crystal sinks below the insert: dirt collects, and it looks unfinished.",
            above="The crystal's edge stands out and will be knocked.",
            helps=("A crystal with another edge, or a gasket with a flange.", "A thicker or thinner insert."),
        ),
    ),
    FormulaCheck(
        name="crystal_insert_gap",
        title="Crystal inside the insert",
        limits=Limits(0.10, None),
        formula=crystal_insert_gap,
        span=Span("r", "crystal_edge", "insert_inner", beside="insert_top"),
        words=Words(
            means="Gap between the crystal's edge and the insert, over the diameter.",
            below="Insert and crystal touch: the bezel binds, or the crystal's edge chips.",
            helps=("An insert with a wider opening.",),
        ),
    ),
    FormulaCheck(
        name="crystal_strength",
        may_be_vouched=False,
        title="Crystal under the water",
        limits=Limits(3, None),
        unit="×",
        decimals=1,
        formula=crystal_strength,
        span=Span("z", "crystal_centre", "crystal_top", beside="near_axis"),
        words=Words(
            means="How many times the crystal's strength exceeds its stress at the depth wanted, for a round "
            "plate simply supported. A computed figure: only a pressure test on suitable equipment counts.",
            below="The crystal may break at the depth wanted.",
            helps=("A thicker crystal, a stronger material, or a smaller depth.",),
        ),
    ),
)
