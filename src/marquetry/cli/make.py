"""`marquetry make`: a part that nobody sells, from a build sheet, in every format."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, complain, say
from marquetry.core.fit.model import usual_model
from marquetry.core.making.body import MadeBody, made_body
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.values.errors import MarquetryError
from marquetry.formats.made_files import made_files
from marquetry.formats.made_part import sheet_in


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("make", help="solid, drawings and files of a part that is made here")
    parser.add_argument("sheet", type=Path, metavar="SHEET")
    parser.add_argument("part", metavar="PART", help="holder, spacer:0, dial, dial-adapter, press-support, …")
    parser.add_argument("--out", type=Path, required=True, metavar="DIR")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Work the part out, write its files, say what was made."""
    model = usual_model()
    try:
        build = sheet_in(options.sheet.read_bytes(), model.anatomy)
        part = made_part(options.part, build, model.rules_of(build))
        body = made_body(part)
        files = made_files(part, body)
        options.out.mkdir(parents=True, exist_ok=True)
        written = {}
        for ending, data in files.items():
            path = options.out / f"{part.file_name}.{ending}"
            path.write_bytes(data)
            written[ending] = str(path)
    except (MarquetryError, OSError) as error:
        complain(options.sheet, error)
        return UNREADABLE
    result = _told(part, body, written)
    say(json.dumps(result, ensure_ascii=False) if options.json else _in_words(part, result))
    return NO_CLASH


def _told(part: MadePart, body: MadeBody, written: dict[str, str]) -> dict[str, object]:
    mesh = body.mesh
    return {
        "part": part.name,
        "files": written,
        "volume_mm3": None if mesh is None else round(mesh.volume, 4),
        "bounds_mm": None if mesh is None else [[round(x, 4) + 0.0 for x in end] for end in mesh.bounds],
        "watertight": None if mesh is None else mesh.is_closed,
        "notes": [*part.notes(PrintSetting()), *body.drawing.told],
    }


def _in_words(part: MadePart, result: dict[str, object]) -> str:
    files, notes = result["files"], result["notes"]
    lines = [f"{part.label}:", *(f"  {path}" for path in files.values())] if isinstance(files, dict) else []
    return "\n".join([*lines, *(f"  {note}" for note in notes)] if isinstance(notes, list) else lines)
