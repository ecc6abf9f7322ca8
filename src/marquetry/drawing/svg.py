"""A scene as SVG text: the only place that flips y, writes numbers and escapes words."""

from collections.abc import Iterable, Sequence
from functools import lru_cache
from html import escape
from importlib.resources import files
from itertools import groupby
from typing import cast

from marquetry.drawing.scene import (
    Box,
    Circle,
    Cluster,
    CutFace,
    DividedRing,
    Dot,
    Inlay,
    InlayEdge,
    Label,
    Lettering,
    Line,
    Mark,
    Scene,
)


@lru_cache(maxsize=16_384)
def number(value: float) -> str:
    """A length with two decimals at most, always written the same way."""
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text in {"-0", ""} else text


@lru_cache(maxsize=16_384)
def _hundredths(count: int) -> str:
    """So many hundredths as a length, without the zero before the point."""
    text = number(count / 100)
    return text.replace("0.", ".", 1) if text.startswith(("0.", "-0.")) else text


@lru_cache(maxsize=1)
def _hatches() -> str:
    return files("marquetry.drawing").joinpath("hatches.svg").read_text("utf-8").replace("\n", "")


@lru_cache(maxsize=1)
def lights() -> str:
    """Gradients and grains that faces are shaded with: once a page, or within a file of its own."""
    return files("marquetry.drawing").joinpath("face_lights.svg").read_text("utf-8").replace("\n", "")


@lru_cache(maxsize=1)
def style() -> str:
    """How drawings look, as a style sheet with the day's colours."""
    return files("marquetry.drawing").joinpath("plate.css").read_text("utf-8")


def to_svg(scene: Scene, *, standalone: bool = False, defs: bool = True, kind: str = "plate") -> str:
    """Write the scene.

    `standalone`: a file of its own, with its style and its size in true millimetres. `defs` brings the
    hatches; a mark without cut faces needs none. `kind` is the class of the whole. A scene without a title
    stands beside words that say the same, and is hidden from readers who hear those.
    """
    if standalone:
        head = f'width="{number(scene.width)}mm" height="{number(scene.height)}mm"'
        title = f"<title>{escape(scene.title)}</title>"
    else:
        # A <title> here would pop up over every spot of the drawing that has none of its own.
        named = f'role="group" aria-label="{escape(scene.title)}"'
        head, title = named if scene.title else 'aria-hidden="true"', ""
    view_box = f'viewBox="0 0 {number(scene.width)} {number(scene.height)}"'
    # Within a page the parser knows what an svg is; only a file of its own has to say so.
    space = ' xmlns="http://www.w3.org/2000/svg"' if standalone else ""
    start = f'<svg{space} class="{kind}" {head} {view_box}>'
    start += title + (f"<desc>{escape(scene.description)}</desc>" if scene.description else "")
    looks = f"<style>{style()}</style>" if standalone else ""
    writer = _Writer(scene.height, links=not standalone, coarse=kind == SMALL)
    shading = lights() if standalone and FACE in map(_class, scene.marks) else ""
    return start + looks + shading + (_hatches() if defs else "") + writer.marks(scene.marks) + "</svg>"


FACE = "face"
"""The class of a group that is drawn in its own colours."""


def _class(mark: Mark) -> str:
    return mark.classes if isinstance(mark, Cluster) else ""


def _stroke(mark: Mark) -> tuple[bool, str]:
    """Whether a mark is a stroke without words of its own, and of which kind."""
    if isinstance(mark, Line) and not mark.title and not mark.classes.startswith("body"):
        return True, mark.classes
    return (False, PRINT) if isinstance(mark, Lettering) else (False, "")


SMALL = "thumb"
"""The class of drawings so small that a tenth of a millimetre of their paper is finer than any screen."""
PRINT = "print"
"""What letters are told apart by, among marks that are written one by one."""
CAPITALS = 0.7
"""Height of a capital as a share of the type's size, in the faces that ship."""


def _opacity(value: float) -> str:
    return "" if value == 1.0 else f' opacity="{_hundredths(round(value * 100))}"'


def _share(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".").replace("0.", ".", 1) or "0"


class _Writer:
    """Writes marks on a sheet of a given height; links are left out of files."""

    def __init__(self, height: float, *, links: bool, coarse: bool = False) -> None:
        self._height, self._links = height, links
        self._per_mm = 10 if coarse else 100

    def marks(self, marks: Sequence[Mark]) -> str:
        """Marks in their order; strokes of one kind that follow each other share one path."""
        written: list[str] = []
        for (plain, classes), run in groupby(marks, key=_stroke):
            if classes == PRINT:
                written.append(self._print(cast("Sequence[Lettering]", tuple(run))))
            elif plain:
                path = "".join(map(self._path, cast("Iterable[Line]", run)))
                written.append(f'<path d="{path}" class="{classes}"/>')
            else:
                written.extend(map(self.mark, run))
        return "".join(written)

    def mark(self, mark: Mark) -> str:
        """One mark."""
        match mark:
            case Line():
                return self._line(mark)
            case Dot(centre=(x, y)):
                at = f'cx="{number(x)}" cy="{self._y(y)}"'
                return f'<circle {at} r="{number(mark.radius)}" class="{mark.classes}"/>'
            case Label(at=(x, y)):
                place = f'x="{number(x)}" y="{self._y(y)}" font-size="{number(mark.size)}"'
                anchor = "" if mark.anchor == "start" else f' text-anchor="{mark.anchor}"'
                return f'<text {place}{anchor} class="{mark.classes}">{escape(mark.text)}</text>'
            case Box(at=(x, y)):
                place = f'x="{number(x)}" y="{self._y(y + mark.height)}"'
                size = f'width="{number(mark.width)}" height="{number(mark.height)}"'
                return f'<rect {place} {size} class="{mark.classes}"/>'
            case Cluster():
                return self._group(mark)
            case CutFace() | Inlay() | DividedRing() | Lettering():
                return self._coloured(mark)

    def _line(self, line: Line) -> str:
        path = self._path(line)
        if line.title:
            return f'<path d="{path}" class="{line.classes}"><title>{escape(line.title)}</title></path>'
        return f'<path d="{path}" class="{line.classes}"/>'

    def _path(self, line: Line) -> str:
        """The line in the path's own shorthand: a watch's page is 3 kB shorter for it.

        Steps are differences of what was rounded before, in hundredths, so that no error adds up; most
        edges of a turned part run straight across or up.
        """
        grain, step = self._per_mm, 100 // self._per_mm
        points = [(round(x * grain) * step, round((self._height - y) * grain) * step) for x, y in line.points]
        (x, y), *others = points
        written = [f"M{_hundredths(x)} {_hundredths(y)}"]
        for next_x, next_y in others:
            across, down = next_x - x, next_y - y
            if across and down:
                written.append(f"l{_hundredths(across)}{' ' if down > 0 else ''}{_hundredths(down)}")
            else:
                written.append(f"h{_hundredths(across)}" if across else f"v{_hundredths(down)}")
            x, y = next_x, next_y
        return "".join(written) + ("Z" if line.closed else "")

    def _number(self, value: float) -> str:
        return _hundredths(round(value * self._per_mm) * (100 // self._per_mm))

    def _coloured(self, mark: CutFace | Inlay | DividedRing | Lettering) -> str:
        """Faces with openings, and what is drawn in a colour of its own."""
        match mark:
            case CutFace():
                path = "".join(self._path(Line(outline, "", closed=True)) for outline in mark.outlines)
                return f'<path d="{path}" class="{mark.classes}" fill-rule="evenodd"/>'
            case Inlay():
                return self._inlay(mark)
            case DividedRing():
                return self._divided(mark)
            case Lettering():
                return self._lettering(mark)

    def _inlay(self, inlay: Inlay) -> str:
        path = "".join(map(self._outline, inlay.outlines))
        edge = f' stroke="{inlay.line}" stroke-width="{self._number(inlay.line_width)}"' if inlay.line else ""
        return f'<path d="{path}" fill="{inlay.paint}"{_opacity(inlay.opacity)}{edge}/>'

    def _outline(self, outline: InlayEdge) -> str:
        if isinstance(outline, Circle):
            (x, y), r = outline.centre, self._number(outline.radius)
            left, across = self._number(x - outline.radius), self._number(2 * outline.radius)
            return f"M{left} {self._y(y)}a{r} {r} 0 1 0 {across} 0a{r} {r} 0 1 0-{across} 0Z"
        return self._path(Line(outline, "", closed=True))

    def _divided(self, ring: DividedRing) -> str:
        """One circle, its stroke dashed so many times a turn; SVG begins at three and goes on clockwise.

        Nothing but these are circles in a face, and its style leaves them unfilled. A ring measured wider
        inside than outside has no width: a browser complains of one below nothing.
        """
        x, y = ring.centre
        at = f'cx="{self._number(x)}" cy="{self._y(y)}" r="{self._number(max(ring.radius, 0.0))}"'
        start = (ring.share / 2 - (ring.turn - 90) / 360 * ring.count) % 1.0
        dash = f'stroke-dasharray="{_share(ring.share)} {_share(1 - ring.share)}"'
        cap = ' stroke-linecap="round"' if ring.is_round else ""
        stroke = f'stroke="{ring.paint}" stroke-width="{self._number(max(ring.width, 0.0))}"{cap}'
        laid = f'pathLength="{ring.count}" {dash} stroke-dashoffset="{_share(start)}"'
        return f"<circle {at} {stroke}{_opacity(ring.opacity)} {laid}/>"

    def _print(self, letters: Sequence[Lettering]) -> str:
        """Letters that follow each other; those of one size, colour and face share one group."""
        written = []
        for (size, paint, face), run in groupby(letters, key=lambda one: (one.size, one.paint, one.face)):
            inner = "".join(map(self._lettering, run))
            looks = f'font-size="{number(size / CAPITALS)}" fill="{paint}" class="letters-{escape(face)}"'
            written.append(f"<g {looks}>{inner}</g>")
        return "".join(written)

    def _lettering(self, letters: Lettering) -> str:
        """Words centred on their place: the baseline lies half a capital below it."""
        x, y = self._number(letters.at[0]), self._y(letters.at[1])
        turn = f' transform="rotate({number(letters.turn % 360)} {x} {y})"' if letters.turn % 360 else ""
        low = self._number(self._height - letters.at[1] + letters.size / 2)
        return f'<text x="{x}" y="{low}"{turn}>{escape(letters.text)}</text>'

    def _group(self, group: Cluster) -> str:
        inner = self.marks(group.children)
        data = "".join(f' data-{key}="{escape(value)}"' for key, value in group.data.items())
        label = f' aria-label="{escape(group.label)}"' if group.label else ""
        if group.link and self._links:
            return f'<a href="{escape(group.link)}" class="{group.classes}"{data}{label}>{inner}</a>'
        return f'<g class="{group.classes}"{data}>{inner}</g>'

    def _y(self, y: float) -> str:
        return self._number(self._height - y)
