"""A made part worked out once: its mesh and its drawing from the same cells."""

from dataclasses import dataclass

from marquetry.core.making.kernel import Mesh, cells_of, mesh_of
from marquetry.core.making.parts import MadePart
from marquetry.core.making.views import MadeDrawing, drawing_of


@dataclass(frozen=True, slots=True)
class MadeBody:
    """Mesh and drawing of a part; a sheet has no mesh."""

    mesh: Mesh | None
    drawing: MadeDrawing


def made_body(part: MadePart) -> MadeBody:
    """Work the part out; DimensionError, naming the field, where it cannot be made."""
    solid = part.solid()
    if solid is None:
        return MadeBody(None, drawing_of(part))
    cells = cells_of(solid)
    return MadeBody(mesh_of(cells), drawing_of(part, cells))
