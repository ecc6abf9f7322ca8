"""A made part as parametric JSON, `marquetry-made/1`: its name and its sheet, read back without loss."""

import json

from marquetry.core.fit.rules import Rules
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import SheetError
from marquetry.formats import build_sheet

FORMAT = "marquetry-made/1"
WITH = (
    "case",
    "case_back",
    "movement",
    "rotor",
    "chapter_ring",
    "dial",
    "spacers",
    "holder",
    "dial_adapter",
    "press_support",
)
"""Parts that made parts are made from or beside."""


def made_text(part: MadePart) -> str:
    """The part with all that it is made from; a sheet of its own that `marquetry make` reads as well."""
    document = part.build.document
    document["parts"] = {key: value for key, value in document["parts"].items() if key in WITH}
    told = {"format": FORMAT, "part": part.name, "sheet": document}
    return json.dumps(told, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def sheet_in(text: str | bytes, anatomy: Anatomy) -> Build:
    """The watch in a build sheet, or in the description of a made part."""
    document = build_sheet.parsed(text)
    is_made = isinstance(document, dict) and document.get("format") == FORMAT
    return Build(document.get("sheet") if is_made else document, anatomy)


def read_made(text: str | bytes, rules: Rules) -> MadePart:
    """The part that the file describes; SheetError or NotFoundError where it is none."""
    document = build_sheet.parsed(text)
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise SheetError("format", f'"{FORMAT}"', "another file")
    if not isinstance(document.get("part"), str):
        raise SheetError("part", "the name of a part to be made")
    build = Build(document.get("sheet"), rules.model.anatomy)
    return made_part(document["part"], build, rules.of(build))
