"""Versions of a made part: made, measured, told of, put into the watch; their files and pictures."""

from collections.abc import Mapping
from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import RedirectResponse, Response

from marquetry.core.making.parts import made_part
from marquetry.core.making.version import AskedSize, MadeVersion, asked_of, compensated
from marquetry.core.sheet.part import PIECE_LINK
from marquetry.core.values.dimension import Dimension, Source, Unit
from marquetry.core.values.entry import parse_entry
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.store import made, photos, watches
from marquetry.store.database import transaction
from marquetry.store.terms_of_trade import trade_terms
from marquetry.web.make.files import file_name, version_file, version_zip
from marquetry.web.make.forms import VersionMadeForm, VersionToldForm
from marquetry.web.make.routes import answer, kept, part_address, part_of
from marquetry.web.site.deps import SentForm
from marquetry.web.site.sent import first
from marquetry.web.watch.downloads import SVG_POLICY, attachment
from marquetry.web.watch.forms import VersionForm
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/make")
FURTHEST_OFF: Mapping[Unit, float] = {"mm": 1.5, "°": 15.0}
"""What a print measures lies nearer to what was asked for, or it was typed into another field."""
SIZE = "size-"
"""What the fields of measured sizes begin with; the rest is the path."""


@router.post("/part/{name}/versions", name="make_version")
def make_version(visit: Visiting, name: str, edit: Annotated[VersionMadeForm, Form()]) -> Response:
    """Note a version with what it is asked to be; what was only tried is kept first, in the same step."""
    try:
        by = edit.read()
        part = part_of(visit, name)
        part.solid()
    except DimensionError as error:
        return answer(visit, part_of(visit, name), version_fault=str(error))
    with transaction(visit.connection):
        label = part.label.lower()
        saved = kept(visit.out_of_trial(), edit.version, visit.before.build, f"made here: {label}")
        sizes = compensated(part, made.printer_pairs(visit.connection), by)
        asked = asked_of(sizes, corrected=edit.corrected)
        stored = saved.stored
        made.add_version(
            visit.connection, stored.id, stored.version, part.name, asked, by, edit.notes.strip()
        )
    return RedirectResponse(f"{part_address(saved, name)}#versions", status_code=303)


def _to_versions(visit: Visit, version: MadeVersion) -> Response:
    return RedirectResponse(f"{part_address(visit, version.part)}#version-{version.id}", status_code=303)


@router.get("/versions/{number}/file.{ending}", name="version_file")
def one_file(visit: Visiting, number: int, ending: str) -> Response:
    """One file of a version, named after watch, part and version."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    data, kind, part = version_file(visit, version, ending)
    headers = attachment(part.build.name, file_name(part, version, ending))
    if ending == "svg":
        headers["Content-Security-Policy"] = SVG_POLICY
    return Response(data, media_type=kind, headers=headers)


@router.get("/versions/{number}/all.zip", name="version_zip")
def all_files(visit: Visiting, number: int) -> Response:
    """Every file of a version with a readme of its own."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    data, part = version_zip(visit, version)
    headers = attachment(part.build.name, file_name(part, version, "zip"))
    return Response(data, media_type="application/zip", headers=headers)


@router.post("/versions/{number}/measured", name="measure_version")
def measured(visit: Visiting, number: int, sent: SentForm) -> Response:
    """Note what a version measures; an empty field takes a reading back."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    try:
        readings = {
            path: _reading(visit, path, asked, first(sent, f"{SIZE}{path}"))
            for path, asked in version.asked.items()
        }
    except DimensionError as error:
        return answer(visit, part_of(visit, version.part), version_fault=str(error))
    based_on = first(sent, "made")
    with transaction(visit.connection):
        made.measure_version(
            visit.connection, version, readings, int(based_on) if based_on.isdecimal() else 0
        )
        _follow(visit, made.version_of(visit.connection, visit.stored.id, number))
    return _to_versions(visit, version)


def _follow(visit: Visit, version: MadeVersion) -> None:
    """The watch that the version is in takes what it measures now."""
    build = visit.stored.build
    path = made_part(version.part, build, visit.rules(build)).path
    if version.piece_id is not None and build.at(f"{path}.{PIECE_LINK}") == version.piece_id:
        after = version.as_measured(build)
        if after != build:
            words = f"{version.part} {version.name}, as it measures"
            watches.save(visit.connection, visit.stored.id, visit.stored.version, after, words, visit.stored)


def _reading(visit: Visit, path: str, asked: AskedSize, typed: str) -> Dimension | None:
    """What was typed, measured; DimensionError where no print could be so far off what was asked, mm or °."""
    if not typed.strip():
        return None
    label, unit = visit.model.anatomy.label_of(path), asked.unit
    value, tol = parse_entry(label, typed, unit)
    if abs(value - asked.nominal) > FURTHEST_OFF[unit]:
        limit = f"within {FURTHEST_OFF[unit]:g} {unit} of what was asked, {asked.nominal:g}"
        raise DimensionError(label, f"{value:g}", unit, limit)
    return Dimension.of(value, tol, Source.MEASURED, unit)


@router.post("/versions/{number}/told", name="tell_version")
def told(visit: Visiting, number: int, edit: Annotated[VersionToldForm, Form()]) -> Response:
    """Note how a version came out, how long it took and what it cost."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    try:
        cost = edit.read_cost(trade_terms(visit.connection).home)
    except DimensionError as error:
        return answer(visit, part_of(visit, version.part), version_fault=str(error))
    made.tell_version(
        visit.connection, version, edit.state, edit.notes.strip(), edit.read_minutes(), cost, edit.made
    )
    return _to_versions(visit, version)


@router.post("/versions/{number}/in-watch", name="version_in_watch")
def in_watch(visit: Visiting, number: int, edit: Annotated[VersionForm, Form()]) -> Response:
    """Make the version a piece of the shelf and put it into the watch, with what it measured."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    then = made.build_of(visit.connection, version)
    part = made_part(version.part, then, visit.rules(then))
    with transaction(visit.connection):
        piece = made.piece_of(visit.connection, version, part)
        build = made.with_version(visit.connection, visit.stored.build, version, part, piece)
        words = f"{part.label.lower()} {version.name} made here, as it measured"
        watches.save(visit.connection, visit.stored.id, edit.version, build, words, visit.stored)
    return _to_versions(visit, version)


@router.post("/versions/{number}/removed", name="forget_version")
def forget(visit: Visiting, number: int) -> Response:
    """Take a version back that nothing came of yet."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    made.forget_version(visit.connection, version)
    return RedirectResponse(f"{part_address(visit, version.part)}#versions", status_code=303)


@router.post("/versions/{number}/photos", name="add_version_photo")
def add_photo(
    visit: Visiting, number: int, photo: UploadFile, caption: Annotated[str, Form(max_length=200)] = ""
) -> Response:
    """Keep a picture of a version."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    content = photo.file.read(photos.MOST_BYTES + 1)
    try:
        photos.add_photo(
            visit.connection, visit.request.app.state.database, "made", version.id, content, caption.strip()
        )
    except SheetError as error:
        return answer(visit, part_of(visit, version.part), version_fault=str(error))
    return _to_versions(visit, version)


@router.post("/versions/{number}/photos/{picture}/removed", name="remove_version_photo")
def remove_photo(visit: Visiting, number: int, picture: int) -> Response:
    """Forget a picture of a version."""
    version = made.version_of(visit.connection, visit.stored.id, number)
    photos.remove_photo(visit.connection, visit.request.app.state.database, "made", version.id, picture)
    return _to_versions(visit, version)
