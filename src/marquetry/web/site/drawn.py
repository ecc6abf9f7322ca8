"""Scenes written into pages: the one place in web where a drawing becomes markup.

View models hold scenes and parts; templates write them with the filter `svg`.
"""

from functools import lru_cache

from markupsafe import Markup

from marquetry.core.values.verdict import Verdict
from marquetry.drawing.scene import Scene
from marquetry.drawing.svg import lights, style, to_svg
from marquetry.drawing.verdict_mark import mark_scene


def drawn(scene: Scene | None, kind: str = "plate") -> Markup:
    """The scene as SVG, its hatches left to the page; nothing where there is none. `kind` is its class."""
    return Markup() if scene is None else Markup(to_svg(scene, defs=False, kind=kind))  # noqa: S704  # escaped by svg.py


@lru_cache(maxsize=8)
def verdict_mark(verdict: Verdict) -> Markup:
    """The verdict's lozenge for use beside words, hidden from readers who hear the word itself."""
    return Markup(f'<svg class="mark-svg" aria-hidden="true"><use href="#mark-{verdict.value}"/></svg>')  # noqa: S704  # five words


@lru_cache(maxsize=8)
def link_mark(verdict: Verdict) -> Markup:
    """The same as all that a link holds: its title is its name, and nothing needs hiding. Sixty a page."""
    return Markup(f'<svg class="mark-svg"><use href="#mark-{verdict.value}"/></svg>')  # noqa: S704  # five words


@lru_cache(maxsize=1)
def verdict_symbols() -> Markup:
    """The marks themselves, once a page: each use points here."""
    symbols = []
    for verdict in Verdict:
        inner = drawn(mark_scene(verdict), "mark").partition(">")[2].removesuffix("</svg>")
        symbols.append(f'<symbol id="mark-{verdict.value}" viewBox="0 0 3.6 3.6">{inner}</symbol>')
    return Markup(f'<svg class="symbols" aria-hidden="true" width="0" height="0">{"".join(symbols)}</svg>')  # noqa: S704  # as above


@lru_cache(maxsize=1)
def face_lights() -> Markup:
    """What faces are shaded with: every page with faces has it once."""
    return Markup(f'<svg class="symbols" aria-hidden="true" width="0" height="0">{lights()}</svg>')  # noqa: S704  # our own SVG


@lru_cache(maxsize=1)
def plate_style() -> Markup:
    """How drawings look, for a page that is a file of its own."""
    return Markup(style())  # noqa: S704  # our own style sheet


@lru_cache(maxsize=1)
def hatches() -> Markup:
    """The hatches alone: every page with cut faces has them once."""
    return Markup(to_svg(Scene(0, 0, "", "", ()), kind="hatches"))  # noqa: S704  # our own SVG
