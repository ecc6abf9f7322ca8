"""A part's looks as rows: what is chosen, and what each open one is drawn as and why."""

from dataclasses import replace

from marquetry.core.face.dress import Dress, Origin
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.colours import PALETTE
from marquetry.core.sheet.kind import Kind
from marquetry.web.watch.rows import PartView, Rejected, Row, face_view

NAMES = {colour: name for name, colour in PALETTE.items()}


def looks_of(
    build: Build, kind: Kind, dress: Dress, place: str, rejected: Rejected | None
) -> PartView | None:
    """The part's looks, each unset one with what it is drawn as and why."""
    view = face_view(build, kind, place, rejected)
    return _told_unset(view, dress) if view else None


def _told_unset(view: PartView, dress: Dress) -> PartView:
    rows = tuple(
        replace(row, unset=_unset(row, dress), tint_chip=_tint_chip(row, dress)) for row in view.rows
    )
    return replace(view, rows=rows, inner=tuple(_told_unset(inner, dress) for inner in view.inner))


def _unset(row: Row, dress: Dress) -> str:
    origin, drawn = dress.origins.get(row.path), dress.drawn.get(row.path, "")
    if row.value or origin is None or not drawn:
        return row.unset if row.kind != "tint" else ""
    return f"{'read' if origin is Origin.READ else 'quiet'}: {NAMES.get(drawn, drawn)}"


def _tint_chip(row: Row, dress: Dress) -> str:
    return dress.drawn.get(row.path, "") if row.kind == "tint" else ""
