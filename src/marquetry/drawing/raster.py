"""A scene as a picture, so many pixels a millimetre: for what cannot show a drawing.

The page's colours are named by its theme; a picture has the day's, which stand behind each name.
"""

import re
from functools import lru_cache
from importlib.resources import as_file, files
from typing import TypeAlias

from marquetry.drawing.scene import Scene
from marquetry.drawing.svg import lights, number, style, to_svg

FONTS = ("fraunces-560.ttf", "atkinson-400.ttf", "plex-mono-400.ttf")
FAMILIES = (
    ".plate text{font-family:'Atkinson Hyperlegible Next'}.plate .display{font-family:'Fraunces'}"
    ".plate .figure{font-family:'IBM Plex Mono'}.letters-serif{font-family:'Fraunces'}"
)
NAMED = re.compile(r"var\(--[\w-]+,\s*([^()]+)\)")
MOST_PIXELS = 40_000_000


@lru_cache(maxsize=1)
def _plain_style() -> str:
    """The drawings' style with each named colour replaced by the day's."""
    return NAMED.sub(r"\1", style()) + FAMILIES


SceneWindow: TypeAlias = tuple[float, float, float, float]
"""A part of a scene: its left and lower edge, its width and height, mm."""


def png_bytes(
    scene: Scene, per_mm: float, *, paper: str | None = None, window: SceneWindow | None = None
) -> bytes:
    """The scene, or a window of it, as a PNG of `per_mm` pixels a millimetre, on coloured paper or on none.

    ValueError for one larger than any card is.
    """
    left, low, wide, high = window or (0.0, 0.0, scene.width, scene.height)
    width, height = round(wide * per_mm), round(high * per_mm)
    if width * height > MOST_PIXELS:
        raise ValueError(f"a picture of {width} × {height} pixels")
    drawn = to_svg(scene, standalone=True)
    shaded = drawn if lights() in drawn else drawn.replace("</style>", f"</style>{lights()}", 1)
    plain = shaded.replace(style(), _plain_style())
    if window is not None:
        whole = f'viewBox="0 0 {number(scene.width)} {number(scene.height)}"'
        seen = f"{number(left)} {number(scene.height - low - high)} {number(wide)} {number(high)}"
        plain = plain.replace(whole, f'viewBox="{seen}"', 1)
        size = f'width="{number(scene.width)}mm" height="{number(scene.height)}mm"'
        plain = plain.replace(size, f'width="{number(wide)}mm" height="{number(high)}mm"', 1)
    return _picture(plain, (width, height), paper)


@lru_cache(maxsize=8)
def _picture(svg: str, size: tuple[int, int], paper: str | None) -> bytes:
    """The picture, kept for a while: a face takes the better part of a second."""
    from resvg_py import svg_to_bytes  # noqa: PLC0415  # only who wants a picture needs it

    with as_file(files("marquetry.drawing").joinpath("fonts")) as folder:
        fonts = [str(folder / name) for name in FONTS]
        made = svg_to_bytes(
            svg_string=svg, dpi=96, width=size[0], height=size[1], background=paper, skip_system_fonts=True,
            font_files=fonts, font_family="Atkinson Hyperlegible Next", serif_family="Fraunces",
            sans_serif_family="Atkinson Hyperlegible Next", monospace_family="IBM Plex Mono",
        )  # fmt: skip
    return bytes(made)
