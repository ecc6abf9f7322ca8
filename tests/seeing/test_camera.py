"""Where the camera stood: from corners that the stand-in camera sees, without a picture between."""

from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.seeing.camera import Camera, stand_of
from marquetry.core.seeing.card import corners
from marquetry.core.seeing.markers import Markers
from marquetry.core.seeing.refusal import PictureError
from marquetry.devices.bench_camera import BenchCamera

Rise = Callable[[float, float], float]
NOISE_PX = 0.08


def seen_by(
    camera: BenchCamera, rise: Rise = lambda _x, _y: 0.0, numbers: tuple[int, ...] = (0, 1, 2, 3)
) -> Camera:
    """The stand found from points on the markers' sides, each off by a little."""
    random = np.random.default_rng(camera.seed)
    along = np.linspace(0.14, 0.86, 50)[:, None]
    quads = corners(camera.printed).reshape(4, 4, 2)
    sides = []
    for number in numbers:
        quad, lines = quads[number], []
        for side in range(4):
            places = quad[side] + along * (quad[(side + 1) % 4] - quad[side])
            pixels = np.array([camera.in_picture((x, y, rise(x, y))) for x, y in places])
            lines.append(pixels + random.normal(0, NOISE_PX, pixels.shape))
        sides.append(tuple(lines))
    return stand_of(Markers(numbers, tuple(sides), 1.0), camera.size, printed=camera.printed)


@settings(max_examples=12, deadline=None)
@given(
    st.floats(230, 330), st.floats(0, 15), st.floats(0, 360), st.floats(-180, 180), st.floats(58, 74),
    st.sampled_from([-0.08, 0.0, 0.06]), st.integers(1, 9), st.sampled_from([59.4, 60.0, 60.5]),
)  # fmt: skip
def test_the_stand_is_found_within_its_doubt(  # noqa: PLR0913, PLR0917  # what a stand is
    height: float,
    tilt: float,
    leans: float,
    turn: float,
    field: float,
    distortion: float,
    seed: int,
    printed: float,
) -> None:
    camera = BenchCamera(
        height=height,
        tilt=tilt,
        leans=leans,
        turn=turn,
        field=field,
        distortion=distortion,
        seed=seed,
        printed=printed,
    )
    found = seen_by(camera)
    assert abs(found.height - height) < 4 * found.doubt_height + 0.5
    # A plane seen square says nothing of how far away it is: what telephones have does, to an eighth.
    assert found.doubt_height < 0.14 * height
    assert found.doubt_height < 0.02 * height or tilt < 4
    places = np.array([[11.9, 0.0], [-7.0, 9.0], [0.0, 0.0], [3.0, -13.0]])
    there = np.array([camera.in_picture((x, y, 0.0)) for x, y in places])
    assert found.to_card(there) == pytest.approx(places, abs=0.012)
    assert found.to_picture(places) == pytest.approx(there, abs=0.15)


def test_a_height_that_is_told_betters_what_a_square_look_leaves_open() -> None:
    camera = BenchCamera(height=262, tilt=0.6, field=72, seed=4)
    alone = seen_by(camera)
    quads, along = corners().reshape(4, 4, 2), np.linspace(0.14, 0.86, 50)[:, None]
    sides = tuple(
        tuple(
            np.array(
                [camera.in_picture((x, y, 0.0)) for x, y in quad[n] + along * (quad[(n + 1) % 4] - quad[n])]
            )
            for n in range(4)
        )
        for quad in quads
    )
    told = stand_of(Markers((0, 1, 2, 3), sides, 1.0), camera.size, height=263.0)
    assert told.height == pytest.approx(262, abs=3)
    assert told.doubt_height < 0.5 * alone.doubt_height


@pytest.mark.parametrize("numbers", [(0, 1, 2), (1, 2, 3), (0, 2, 3)])
def test_three_markers_tell_the_plane_nearly_as_well(numbers: tuple[int, ...]) -> None:
    camera = BenchCamera(tilt=8, seed=3)
    found = seen_by(camera, numbers=numbers)
    there = np.array([camera.in_picture((x, y, 0.0)) for x, y in ((12.0, 0.0), (-12.0, 3.0))])
    assert found.to_card(there) == pytest.approx(np.array([[12.0, 0.0], [-12.0, 3.0]]), abs=0.03)


BENT: dict[str, Rise] = {
    "rolled across": lambda x, _y: 4.0 * (x / 50) ** 2,
    "rolled slantwise": lambda x, y: 2.5 * ((x + y) / 70) ** 2,
    "twisted": lambda x, y: 2.0 * x * y / 34**2,
    "arched": lambda _x, y: 8.0 * (1 - (y / 74) ** 2),
}


@pytest.mark.parametrize("name", BENT)
def test_a_bent_card_is_refused_though_a_lens_would_explain_half_of_it(name: str) -> None:
    with pytest.raises(PictureError, match="bent"):
        seen_by(BenchCamera(tilt=6, leans=50), BENT[name])
