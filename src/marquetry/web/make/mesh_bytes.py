"""A mesh as the turning preview reads it: nothing but corners, nothing to work out."""

from marquetry.core.making.kernel import Mesh


def positions(mesh: Mesh) -> bytes:
    """Three corners a triangle, three 32-bit numbers a corner, little-endian, mm."""
    return mesh.corners[mesh.triangles].astype("<f4").tobytes()
