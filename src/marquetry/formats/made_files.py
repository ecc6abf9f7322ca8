"""Every file of a made part, as bytes by its ending: solids, drawings, and the sizes they were made from."""

from importlib import import_module

from marquetry.core.making.body import MadeBody
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.parts import MadePart
from marquetry.drawing.made.true_sheet import A4, SIZES, true_sheet
from marquetry.drawing.pdf import pdf_bytes
from marquetry.drawing.svg import to_svg
from marquetry.formats.dxf import dxf_text
from marquetry.formats.made_part import made_text
from marquetry.formats.mesh_files import MESH_FORMATS, mesh_bytes

MADE_TYPES = {
    "stl": "model/stl", "3mf": "model/3mf", "dxf": "image/vnd.dxf", "svg": "image/svg+xml",
    "pdf": "application/pdf", "json": "application/json",
}  # fmt: skip
"""Endings of a made part's files with their media types; a sheet has no solids."""


def load_writers() -> None:
    """Load the libraries that files are written with: two seconds once, which nobody has to wait for."""
    for name in ("trimesh", "lxml.etree", "networkx", "ezdxf.filemanagement", "reportlab.pdfgen.canvas"):
        import_module(name)


def endings_of(part: MadePart) -> tuple[str, ...]:
    """Endings of the files that the part has."""
    return tuple(ending for ending in MADE_TYPES if part.kind.solid or ending not in MESH_FORMATS)


def made_file(  # each has its default or is the part itself
    part: MadePart, body: MadeBody, ending: str, *, name: str = "", settings: PrintSetting | None = None
) -> bytes:
    """One file; `name` says which version of which watch's part it is. KeyError for an ending it has not."""
    if body.mesh is not None and ending in MESH_FORMATS:
        return mesh_bytes(body.mesh, "stl" if ending == "stl" else "3mf")
    if ending == "json":
        return made_text(part).encode()
    if ending == "dxf":
        return dxf_text(body.drawing).encode()
    heads = (name or part.label, part.build.name)
    told = part.notes(settings or PrintSetting())
    sizes = SIZES if ending == "pdf" else (A4,)
    scenes = [true_sheet(body.drawing, part.measures(), told, heads, paper) for paper in sizes]
    writers = {
        "pdf": lambda: pdf_bytes(scenes, heads[0]),
        "svg": lambda: to_svg(scenes[0], standalone=True).encode(),
    }
    return writers[ending]()


def made_files(
    part: MadePart, body: MadeBody, name: str = "", settings: PrintSetting | None = None
) -> dict[str, bytes]:
    """All its files by ending."""
    return {
        ending: made_file(part, body, ending, name=name, settings=settings) for ending in endings_of(part)
    }
