"""Made parts point by point: membership is worked out here from the page, the mesh is asked by rays."""

import math
import random
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from marquetry.core.making.body import made_body
from marquetry.core.making.kernel import Mesh
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import MarquetryError
from marquetry.formats.mesh_files import mesh_bytes, read_mesh
from tests.strategies import ANATOMY, MODEL

Inside = Callable[[float, float, float], bool]
NEAR, POINTS = 0.03, 4000


def part(name: str, parts: dict[str, Any]) -> MadePart:
    build = Build({"format": "marquetry-build/1", "name": "Try", "parts": parts}, ANATOMY)
    return made_part(name, build, MODEL.rules_of(build))


def ray(x: float, y: float, degrees: float) -> tuple[float, float]:
    """along and across, as the page writes them."""
    t = math.radians(degrees)
    return x * math.sin(t) + y * math.cos(t), x * math.cos(t) - y * math.sin(t)


def inside_mesh(mesh: Mesh, points: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Whether each point lies within: triangles over it, by the way they face, counted along +z."""
    a, b, c = (mesh.corners[mesh.triangles[:, k]] for k in range(3))
    level = np.abs(np.cross(b - a, c - a)[:, 2]) > 1e-12
    a, b, c = a[level], b[level], c[level]
    found = np.zeros(len(points), dtype=bool)
    for number, (x, y, z) in enumerate(points):
        d1 = (b[:, 0] - a[:, 0]) * (y - a[:, 1]) - (b[:, 1] - a[:, 1]) * (x - a[:, 0])
        d2 = (c[:, 0] - b[:, 0]) * (y - b[:, 1]) - (c[:, 1] - b[:, 1]) * (x - b[:, 0])
        d3 = (a[:, 0] - c[:, 0]) * (y - c[:, 1]) - (a[:, 1] - c[:, 1]) * (x - c[:, 0])
        over = ((d1 > 0) & (d2 > 0) & (d3 > 0)) | ((d1 < 0) & (d2 < 0) & (d3 < 0))
        total = d1[over] + d2[over] + d3[over]
        height = (d2[over] * a[over, 2] + d3[over] * b[over, 2] + d1[over] * c[over, 2]) / total
        found[number] = np.count_nonzero(height > z) % 2 == 1
    return found


def far_from_the_border(inside: Inside, x: float, y: float, z: float) -> bool:
    steps = (-NEAR, 0.0, NEAR)
    around = {inside(x + i, y + j, z + k) for i in steps for j in steps for k in steps}
    return len(around) == 1


HOLDER: dict[str, Any] = {
    "case": {"crown_angle": 100},
    "movement": {"face_to_stem": 2.2, "diameter": 27.0},
    "holder": {
        "outer_diameter": 29.1, "inner_diameter": 27.1, "rim_outer_diameter": 27.9, "face_to_rim": 5.2,
        "step": 1.8,
        "slot": {"width": 2.4, "height": 2.2, "open": "back"},
        "tabs": [
            {"angle": 75, "width": 2.4, "reach": 12.6, "from": 2.75, "to": 3.7},
            {"angle": 250, "shape": "round", "radius": 1.1, "from": 0, "to": 1.7},
        ],
        "lugs": {"count": 3, "width": 2.0, "height": 0.3, "angle": 45},
    },
}  # fmt: skip


def in_holder(x: float, y: float, z: float) -> bool:
    r, depth = math.hypot(x, y), -z
    base = 5.2 - 0.3
    for angle, tab in ((175.0, "flat"), (350.0, "round")):
        along, across = ray(x, y, angle)
        if along <= 0 or r > 13.55:
            continue
        if tab == "flat" and abs(across) <= 1.2 and along >= 12.6 and 2.75 <= depth <= 3.7:
            return True
        if tab == "round" and (along - 13.55) ** 2 + across**2 <= 1.1**2 and 0 <= depth <= 1.7:
            return True
    along, across = ray(x, y, 100.0)
    if along > 0 and abs(across) <= 1.2 and depth > 2.2 - 1.1:
        return False
    if 0 <= depth <= base and r >= 13.55 and r <= (14.55 if depth <= 1.8 else 13.95):
        return True
    if base <= depth <= 5.2 and 13.55 <= r <= 13.95:
        return any(
            ray(x, y, 145.0 + 120.0 * k)[0] > 0 and abs(ray(x, y, 145.0 + 120.0 * k)[1]) <= 1
            for k in range(3)
        )
    return False


SPACER = {
    "spacers": [
        {"side": "dial", "thickness": 0.4},
        {
            "side": "movement", "thickness": 0.5, "outer_diameter": 28.0, "inner_diameter": 24.0,
            "notch": {"angle": 30, "width": 3.0, "depth": 0.8}, "gap": {"angle": 200, "width": 1.5},
        },
    ]
}  # fmt: skip


def in_spacer(x: float, y: float, z: float) -> bool:
    r = math.hypot(x, y)
    along, across = ray(x, y, 30.0)
    notch = along > 0 and abs(across) <= 1.5 and r > 14.0 - 0.8
    along, across = ray(x, y, 200.0)
    gap = along > 0 and abs(across) <= 0.75
    return 0 <= -z <= 0.5 and 12.0 <= r <= 14.0 and not notch and not gap


DIAL: dict[str, Any] = {
    "dial": {
        "diameter": 28.5, "thickness": 0.4, "centre_hole": 2.0,
        "feet": [{"radius": 12.6, "angle": 33, "diameter": 0.7, "length": 1.4}],
        "cutouts": [
            {"shape": "round", "at_radius": 7, "angle": 180, "diameter": 5},
            {"shape": "rectangle", "at_radius": 10.3, "angle": 90, "width": 2.0, "height": 2.6},
            {"shape": "arc", "inner_radius": 6, "outer_radius": 8, "from": 330, "to": 40},
        ],
    }
}  # fmt: skip


def in_dial(x: float, y: float, z: float) -> bool:
    r, depth = math.hypot(x, y), -z
    turned = math.degrees(math.atan2(x, y)) % 360
    fx, fy = 12.6 * math.sin(math.radians(33)), 12.6 * math.cos(math.radians(33))
    if 0.4 <= depth <= 1.8 and math.hypot(x - fx, y - fy) <= 0.35:
        return True
    window = abs(x - 10.3) <= 1.3 and abs(y) <= 1.0
    arc = 6 <= r <= 8 and (turned >= 330 or turned <= 40)
    return 0 <= depth <= 0.4 and 1.0 < r <= 14.25 and math.hypot(x, y + 7) > 2.5 and not window and not arc


ADAPTER: dict[str, Any] = {
    "case": {"crown_angle": 90},
    "movement": {"diameter": 26.0, "foot_holes": [{"radius": 11.5, "angle": -50, "diameter": 0.8}]},
    "dial_adapter": {
        "thickness": 0.4, "outer_diameter": 28.4, "opening_diameter": 4.0,
        "slit_width": 0.5, "slit_inner_radius": 12.2,
        "peg_play": 0.06, "peg_length": 1.2, "grip_play": 0.05, "grip_wall": 0.8, "grip_height": 1.0,
        "stem_opening": 4,
        "windows": [{"shape": "round", "at_radius": 9, "angle": 270, "diameter": 3}],
    },
}  # fmt: skip


def in_adapter(x: float, y: float, z: float) -> bool:
    r, depth = math.hypot(x, y), -z
    px, py = 11.5 * math.sin(math.radians(40)), 11.5 * math.cos(math.radians(40))
    if 0.4 <= depth <= 1.6 and math.hypot(x - px, y - py) <= 0.37:
        return True
    if 0.4 <= depth <= 1.4 and 13.05 <= r <= 13.85 and not (x > 0 and abs(y) <= 2.0):
        return True
    slit = abs(x) <= 0.25 and r >= 12.2
    return 0 <= depth <= 0.4 and 2.0 <= r <= 14.2 and not slit and math.hypot(x + 9, y) > 1.5


SUPPORT: dict[str, Any] = {
    "press_support": {
        "seat_diameter": 36.1, "shoulder": 2.0, "wall": 3.0, "floor": 8.0, "relief_diameter": 28.0,
        "relief_depth": 1.5,
        "thread": "M6 × 1",
    }
}  # fmt: skip


def in_support(x: float, y: float, z: float) -> bool:
    r, depth = math.hypot(x, y), -z
    pocket = (r < 18.05 and depth < 2.0) or (r < 14.0 and depth < 3.5) or r < 2.5
    return 0 <= depth <= 10.0 and r <= 21.05 and not pocket


SPIGOT: dict[str, Any] = {
    "press_support": {
        "form": "spigot", "spigot_diameter": 29.75, "spigot_height": 1.5, "rim_diameter": 37.2, "floor": 8.0,
        "relief_diameter": 27.2, "relief_depth": 1.2, "thread": "M6 × 1",
    }
}  # fmt: skip


def in_spigot(x: float, y: float, z: float) -> bool:
    r, depth = math.hypot(x, y), -z
    if r < 2.5 or (r < 13.6 and depth < 1.2):
        return False
    return (0 <= depth <= 8.0 and r <= 18.6) or (-1.5 <= depth <= 0 and r <= 14.875)


RINGED = {
    **HOLDER,
    "holder": {
        "outer_diameter": 29.1, "inner_diameter": 27.1, "rim_outer_diameter": 27.9, "face_to_rim": 5.2,
        "slot": {"width": 2.4, "height": 5.0, "open": "dial"},
        "dial_ring": {"thickness": 0.6, "inner_diameter": 25.8},
    },
}  # fmt: skip


def in_ringed(x: float, y: float, z: float) -> bool:
    """The stem's slot, open to the dial, is taken out of the ring too."""
    r, depth = math.hypot(x, y), -z
    along, across = ray(x, y, 100.0)
    if along > 0 and abs(across) <= 1.2 and depth < 2.2 + 2.5:
        return False
    ring = -0.6 <= depth <= 0 and 12.9 <= r <= 14.55
    return ring or (0 <= depth <= 5.2 and 13.55 <= r <= 14.55)


BARE = {**ADAPTER, "dial_adapter": {**ADAPTER["dial_adapter"], "grip_height": 0.0}}


def in_bare(x: float, y: float, z: float) -> bool:
    """A carrier without a skirt: plate and pegs alone."""
    depth = -z
    px, py = 11.5 * math.sin(math.radians(40)), 11.5 * math.cos(math.radians(40))
    peg = math.hypot(x - px, y - py) <= 0.37 and 0.4 <= depth <= 1.6
    return peg or (depth <= 0.4 and in_adapter(x, y, z))


SUPPORT_VOLUME = math.pi * (21.05**2 * 10 - 18.05**2 * 2 - 14.0**2 * 1.5 - 2.5**2 * 6.5)
SPIGOT_VOLUME = math.pi * (18.6**2 * 8 + 14.875**2 * 1.5 - 13.6**2 * 2.7 - 2.5**2 * 6.8)
KINDS = [
    pytest.param("holder", HOLDER, in_holder, None, id="holder"),
    pytest.param("spacer:1", SPACER, in_spacer, None, id="spacer"),
    pytest.param("dial", DIAL, in_dial, None, id="dial"),
    pytest.param("dial-adapter", ADAPTER, in_adapter, None, id="adapter"),
    pytest.param("press-support", SUPPORT, in_support, SUPPORT_VOLUME, id="support"),
    pytest.param("press-support", SPIGOT, in_spigot, SPIGOT_VOLUME, id="spigot"),
    pytest.param("holder", RINGED, in_ringed, None, id="ring in one piece"),
    pytest.param("dial-adapter", BARE, in_bare, None, id="no skirt"),
]


@pytest.mark.parametrize(("name", "parts", "inside", "volume"), KINDS)
def test_a_point_lies_in_the_mesh_when_the_rules_say_so(
    name: str, parts: dict[str, Any], inside: Inside, volume: float | None
) -> None:
    mesh = made_body(part(name, parts)).mesh
    assert mesh is not None
    assert mesh.is_closed
    low, high = mesh.bounds
    rng = random.Random(11)  # noqa: S311  # a seeded sample
    points: list[tuple[float, float, float]] = []
    while len(points) < POINTS:
        x, y = (rng.uniform(low[k] - 0.2, high[k] + 0.2) for k in range(2))
        # Most of a ring's box is air: half of the points lie where its edges are.
        z = rng.uniform(low[2] - 0.2, high[2] + 0.2)
        near_edge = math.hypot(x, y) > 0.8 * high[0]
        if (near_edge or len(points) % 2) and far_from_the_border(inside, x, y, z):
            points.append((x, y, z))
    asked = inside_mesh(mesh, np.array(points))
    right = np.array([inside(*point) for point in points])
    assert right.any()
    assert (asked == right).mean() == 1.0
    if volume is not None:
        assert mesh.volume == pytest.approx(volume, rel=3e-4)
    for kind in ("stl", "3mf"):
        read = read_mesh(mesh_bytes(mesh, kind), kind)
        assert read.is_watertight
        assert read.volume == pytest.approx(mesh.volume, rel=1e-5)
        assert np.array(read.bounds) == pytest.approx(np.array(mesh.bounds), abs=1e-4)


TAB = {"angle": 9, "width": 2.4, "reach": 12, "from": 1, "to": 2}
REFUSED = [
    ("holder", {"inner_diameter": 29.1}, "holder.inner_diameter"),
    ("holder", {"rim_outer_diameter": 27.0}, "holder.inner_diameter"),
    ("holder", {"slot": {"width": 29.1, "height": 2}}, "slot.width"),
    ("holder", {"slot": {"width": 2, "height": 2}, "tabs": [TAB]}, "holder.tabs.0"),
    ("holder", {"lugs": {"count": 2, "width": 1, "height": 5.2, "angle": 0}}, "lugs.height"),
    ("holder", {"tabs": [{"angle": 90, "width": 2, "reach": 12, "from": 2, "to": 2}]}, "tabs.0.from"),
    ("holder", {"face_to_rim": None}, "holder.face_to_rim"),
    ("press-support", {"relief_diameter": 36.2}, "relief_diameter"),
    ("press-support", {"thread": "six"}, "press_support.thread"),
    ("press-support", {**SPIGOT["press_support"], "spigot_diameter": 37.2}, "spigot_diameter"),
    ("press-support", {**SPIGOT["press_support"], "relief_diameter": 29.75}, "relief_diameter"),
    ("press-support", {**SPIGOT["press_support"], "relief_depth": 8.0}, "relief_depth"),
    ("holder", {"dial_ring": {"thickness": 0.6, "inner_diameter": 29.1}}, "dial_ring.inner_diameter"),
    ("window-sheet", {"cutouts": []}, "dial.cutouts"),
    ("dial", {"cutouts": [{"shape": "star"}]}, "dial.cutouts.0.shape"),
    ("dial", {"centre_hole": 28.6}, "dial.centre_hole"),
    ("spacer:7", {}, "spacers.7"),
    ("crown", {}, "crown"),
    ("spacer", {}, "spacer"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "changed", "field"), REFUSED)
def test_what_cannot_be_made_is_told_by_the_field_that_causes_it(
    name: str, changed: dict[str, Any], field: str
) -> None:
    whole = {**HOLDER, **DIAL, **SUPPORT, "spacers": []}
    key = {"press-support": "press_support", "window-sheet": "dial"}.get(name, name)
    parts = {**whole, key: {**whole[key], **changed}} if isinstance(whole.get(key), dict) else whole
    with pytest.raises(MarquetryError) as refused:
        made_body(part(name, parts))
    assert field in str(refused.value)


@settings(max_examples=12, deadline=None)
@given(
    st.floats(0.4, 6.0), st.sampled_from(["closed", "back", "dial"]), st.integers(1, 6), st.floats(0, 360),
    st.floats(45, 315), st.sampled_from([75.0, 90.0, 120.0]),
)  # fmt: skip
def test_a_holder_of_any_sizes_is_closed_in_every_file(  # noqa: PLR0913, PLR0917  # a holder has so many
    step: float, towards: str, lugs: int, first: float, tab: float, crown: float
) -> None:
    holder = {
        **HOLDER["holder"], "step": step, "slot": {"width": 2.2, "height": 2, "open": towards},
        "lugs": {"count": lugs, "width": 1.6, "height": 0.3, "angle": first},
        "tabs": [{"angle": tab, "width": 2.0, "reach": 12.4, "from": 1.0, "to": 3.0}],
    }  # fmt: skip
    mesh = made_body(part("holder", {**HOLDER, "case": {"crown_angle": crown}, "holder": holder})).mesh
    assert mesh is not None
    assert read_mesh(mesh_bytes(mesh, "stl"), "stl").is_watertight


ODD = (1e-9, 1e-3, 0, 0.5, 1, 2, 13.55, 14.55, 29.1, 90, 180, 199, -5)
SHEETS = (
    ("holder", HOLDER), ("spacer:1", SPACER), ("dial", DIAL), ("dial-adapter", ADAPTER), ("press-support", SUPPORT),
    ("drilling-sheet", {**DIAL, **ADAPTER}), ("press-support", SPIGOT), ("holder", RINGED), ("window-sheet", DIAL),
)  # fmt: skip


def changed(node: Any, rng: random.Random) -> Any:
    """A sheet with some figures gone and others odd, some things doubled."""
    if isinstance(node, dict):
        return {key: changed(value, rng) for key, value in node.items() if rng.random() > 0.02}
    if isinstance(node, list):
        twice = node * 2 if rng.random() < 0.3 else node
        return [changed(value, rng) for value in twice]
    return rng.choice(ODD) if isinstance(node, int | float) and rng.random() < 0.12 else node


def made_or_refused(name: str, parts: dict[str, Any]) -> Mesh | str | None:
    """The mesh, nothing for a sheet, or the sentence with which it is refused."""
    try:
        return made_body(part(name, parts)).mesh
    except MarquetryError as refused:
        return str(refused)


@pytest.mark.parametrize("seed", range(60))
def test_whatever_is_asked_for_is_made_closed_or_refused_in_a_sentence(seed: int) -> None:
    rng = random.Random(seed)  # noqa: S311  # a seeded sample
    name, parts = SHEETS[seed % len(SHEETS)]
    got = made_or_refused(name, changed(parts, rng))
    if isinstance(got, str):
        assert got.endswith(".")
    elif got is not None:
        assert got.is_closed
        assert got.volume > 0
