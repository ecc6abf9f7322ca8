"""Files of a version: one by one, and all of them in a zip with a readme of its own."""

import zipfile
from io import BytesIO

from marquetry.core.making.measures import Measure
from marquetry.core.making.parts import MadePart, made_part
from marquetry.core.making.version import STEP, MadeVersion
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import NotFoundError
from marquetry.core.values.figures import figure
from marquetry.formats.made_files import MADE_TYPES, endings_of, made_file, made_files
from marquetry.store import made
from marquetry.web.make.bodies import Bodies
from marquetry.web.watch.visit import Visit

STILL = (2000, 1, 1, 0, 0, 0)
"""The date of every entry: when a zip is asked for says nothing of its version."""


def version_part(visit: Visit, version: MadeVersion) -> MadePart:
    """The part as this version was asked for, compensation and all."""
    build = version.as_asked(made.build_of(visit.connection, version))
    return made_part(version.part, build, visit.rules(build))


def file_name(part: MadePart, version: MadeVersion, ending: str) -> str:
    """A name with part and version; the watch's own stands before it."""
    return f"{part.file_name}-{version.name}.{ending}"


def version_file(visit: Visit, version: MadeVersion, ending: str) -> tuple[bytes, str, MadePart]:
    """One file with its media type; NotFoundError for an ending that the part has not."""
    part = version_part(visit, version)
    if ending not in endings_of(part):
        raise NotFoundError(f"file .{ending[:10]} of this part")
    bodies: Bodies = visit.request.app.state.bodies
    data = made_file(part, bodies.of(part), ending, name=_title(part, version), settings=version.by.setting)
    return data, MADE_TYPES[ending], part


def version_zip(visit: Visit, version: MadeVersion) -> tuple[bytes, MadePart]:
    """All files of a version and what a stranger has to know of them."""
    part = version_part(visit, version)
    bodies: Bodies = visit.request.app.state.bodies
    files = made_files(part, bodies.of(part), _title(part, version), version.by.setting)
    written = BytesIO()
    with zipfile.ZipFile(written, "w", zipfile.ZIP_DEFLATED) as archive:
        for ending, data in files.items():
            archive.writestr(zipfile.ZipInfo(file_name(part, version, ending), STILL), data)
        wanted = made.build_of(visit.connection, version)
        archive.writestr(zipfile.ZipInfo("readme.txt", STILL), readme(part, version, wanted))
    return written.getvalue(), part


def _title(part: MadePart, version: MadeVersion) -> str:
    return f"{part.label}, {version.name}"


def _asked(measure: Measure, wanted: Build) -> str:
    """One size as it was asked for, with the wanted one where that is another."""
    sign = "Ø " if measure.is_diameter else ""
    told = f"{measure.label.removesuffix(' Ø')}: {sign}{figure(measure.value, 2, 'mm')}"
    known = wanted.dimensions.get(measure.path)
    if known is None or abs(known.value - measure.value) < STEP / 2:
        return told
    return f"{told} (wanted: {sign}{figure(known.value, 2, 'mm')})"


def readme(part: MadePart, version: MadeVersion, wanted: Build) -> str:
    """What the files are, in plain words: units, sizes asked for and wanted, how it was to be printed."""
    by = version.by
    made_by = ", ".join(filter(None, (by.printer, by.material))) or "not said"
    setting = f"nozzle {figure(by.setting.nozzle)} mm, layer {figure(by.setting.layer)} mm"
    lines = [
        f"{part.label}, version {version.number}, for “{part.build.name}”. Made with Marquetry.",
        f"Asked for on {version.at[:10]}. Printer and material: {made_by}; {setting}.",
        "",
        "All lengths are millimetres, in every file. Seen from the crystal: x to 3 o'clock, y to 12,",
        "z towards the crystal, 0 at the face towards the dial.",
        "Print drawings at 100 % and measure the square.",
        "",
        "Sizes as asked for; what is wanted stands beside them where the printer's error was allowed for:",
        *(f"  {_asked(measure, wanted)}" for measure in part.measures()),
        "",
        *part.notes(by.setting),
    ]
    return "\n".join([*lines, *filter(None, ("", version.notes))]) + "\n"
