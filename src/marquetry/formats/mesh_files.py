"""A mesh as STL and as 3MF, in millimetres, each read again before it is given out."""

from dataclasses import dataclass
from io import BytesIO
from typing import Literal, cast

from marquetry.core.making.kernel import Mesh
from marquetry.core.values.errors import SheetError

MeshFormat = Literal["stl", "3mf"]
MESH_FORMATS: tuple[MeshFormat, ...] = ("stl", "3mf")
CLOSE = 1e-4
"""A file read again holds what was written within this share of its volume: STL has 32-bit numbers."""


@dataclass(frozen=True, slots=True)
class MeshRead:
    """A mesh as a file has it: closed and facing outwards or not, mm³, least and greatest x, y, z."""

    is_watertight: bool
    volume: float
    bounds: tuple[list[float], list[float]]


def mesh_bytes(mesh: Mesh, kind: MeshFormat) -> bytes:
    """The mesh as a file; SheetError where what was written does not read as the same closed body."""
    import trimesh  # noqa: PLC0415  # takes a second to import; only makers need it

    body = trimesh.Trimesh(mesh.corners, mesh.triangles, process=False)
    body.units = "millimeter"
    written = cast("bytes", body.export(file_type=kind))
    found = read_mesh(written, kind)
    if not found.is_watertight or abs(found.volume - mesh.volume) > CLOSE * mesh.volume:
        raise SheetError(kind, "a closed mesh when it is read again", "an open one; please report its sizes")
    return written


def read_mesh(data: bytes, kind: MeshFormat) -> MeshRead:
    """Read a mesh file; its corners that lie together are one."""
    import trimesh  # noqa: PLC0415  # as above

    body = trimesh.load_mesh(BytesIO(data), file_type=kind)
    low, high = body.bounds.tolist()
    is_closed = bool(body.is_watertight and body.is_winding_consistent and body.volume > 0)
    return MeshRead(is_closed, float(body.volume), (low, high))
