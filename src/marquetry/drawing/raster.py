"""A scene as a picture, so many pixels a millimetre: for what cannot show a drawing.

The page's colours are named by its theme; a picture has the day's, which stand behind each name.
"""

import re
from functools import lru_cache
from importlib.resources import as_file, files

from marquetry.drawing.scene import Scene
from marquetry.drawing.svg import lights, style, to_svg

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


def png_bytes(scene: Scene, per_mm: float, *, paper: str | None = None) -> bytes:
    """The scene as a PNG of `per_mm` pixels a millimetre, on paper of a colour or on none.

    ValueError for one larger than any card is.
    """
    from resvg_py import svg_to_bytes  # noqa: PLC0415  # only who wants a picture needs it

    width, height = round(scene.width * per_mm), round(scene.height * per_mm)
    if width * height > MOST_PIXELS:
        raise ValueError(f"a picture of {width} × {height} pixels")
    drawn = to_svg(scene, standalone=True)
    shaded = drawn if lights() in drawn else drawn.replace("</style>", f"</style>{lights()}", 1)
    plain = shaded.replace(style(), _plain_style())
    with as_file(files("marquetry.drawing").joinpath("fonts")) as folder:
        fonts = [str(folder / name) for name in FONTS]
        return bytes(
            svg_to_bytes(
                svg_string=plain, width=width, height=height, background=paper, skip_system_fonts=True,
                font_files=fonts, font_family="Atkinson Hyperlegible Next", serif_family="Fraunces",
                sans_serif_family="Atkinson Hyperlegible Next", monospace_family="IBM Plex Mono",
            )
        )  # fmt: skip
