"""What-if and variants: keep what was tried, keep it beside the watch, compare, take a variant."""

import json
from dataclasses import dataclass
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Form
from starlette.responses import RedirectResponse, Response

from marquetry.core.face.accord import FaceNote, face_notes
from marquetry.core.face.face import seen_face
from marquetry.core.face.night import AFTER
from marquetry.core.fit.checks.check import Check
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report, report_on
from marquetry.core.section.lay_out import lay_out
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.difference import difference, told
from marquetry.core.values.errors import SheetError
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.face.face_scene import small_face, small_night
from marquetry.drawing.scene import Scene
from marquetry.drawing.section_thumb import section_thumb
from marquetry.store import variants, watches
from marquetry.store.variants import Variant
from marquetry.web.site.pages import render
from marquetry.web.watch.forms import NamedEdit, VersionForm
from marquetry.web.watch.visit import LONGEST_TRIAL, Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}")
LONGEST_CHANGE = 200


@router.post("/kept", name="keep_trial")
def keep_trial(visit: Visiting, edit: Annotated[VersionForm, Form()]) -> Response:
    """Make what was tried the watch."""
    changes = "; ".join(told(visit.stored.build, visit.before.build))
    words = f"tried and kept: {changes}"[:LONGEST_CHANGE]
    return visit.out_of_trial().saved(edit.version, visit.before.build, words)


@router.post("/variants", name="keep_variant")
def keep_variant(visit: Visiting, edit: Annotated[NamedEdit, Form()]) -> Response:
    """Keep what was tried beside the watch, to be compared with it."""
    variants.add_variant(
        visit.connection, visit.stored.id, edit.name.strip() or "Variant", visit.before.build
    )
    return _to_compare(visit)


@router.post("/variants/{number}/taken", name="take_variant")
def take_variant(visit: Visiting, number: int, edit: Annotated[VersionForm, Form()]) -> Response:
    """Make a variant the watch; undo brings the watch back as it was."""
    found = variants.variant(visit.connection, visit.stored.id, number)
    words = f"took the variant “{found.name}”"
    watches.save(
        visit.connection, visit.stored.id, edit.version, found.build.renamed(visit.stored.build.name), words
    )
    return _to_compare(visit)


@router.post("/variants/{number}/removed", name="remove_variant")
def remove_variant(visit: Visiting, number: int) -> Response:
    """Forget a variant."""
    variants.remove_variant(visit.connection, visit.stored.id, number)
    return _to_compare(visit)


def trial_query(visit: Visit, build: Build) -> str:
    """The address's query that tries a build: all that it differs by from the stored watch.

    SheetError where that is more than an address can carry.
    """
    edits = difference(visit.stored.build, build)
    trial = json.dumps(edits, separators=(",", ":"), ensure_ascii=False)
    if len(trial) > LONGEST_TRIAL:
        raise SheetError(
            "try", "fewer changes at a time: keep what is tried, or a variant, and go on from there"
        )
    return f"?{urlencode({'try': trial})}"


def trial_address(visit: Visit, build: Build) -> str:
    """Where a build is tried in section: the watch's page with all that it differs by."""
    address = visit.request.app.url_path_for("watch", watch_id=str(visit.stored.id))
    return f"{address}{trial_query(visit, build)}"


def _to_compare(visit: Visit) -> Response:
    address = visit.request.app.url_path_for("compare", watch_id=str(visit.stored.id))
    return RedirectResponse(address, status_code=303)


@dataclass(frozen=True, slots=True)
class Alternative:
    """The watch or one of its variants, side by side with the others."""

    name: str
    number: int | None
    build: Build
    report: Report
    thumb: Scene
    face: Scene
    nights: tuple[Scene, ...]
    notes: tuple[FaceNote, ...]
    changes: list[str]
    made_at: str

    def count(self, verdict: str) -> int:
        """How many findings have this verdict."""
        return self.report.count(Verdict(verdict))


def _alternative(
    visit: Visit, name: str, build: Build, made_at: str, number: int | None = None
) -> Alternative:
    report = report_on(build, visit.rules(build))
    thumb = section_thumb(lay_out(build, report), name)
    face = seen_face(build, report)
    nights = tuple(small_night(face, minutes) for minutes in AFTER[:2])
    changes = told(visit.stored.build, build)
    return Alternative(
        name, number, build, report, thumb, small_face(face), nights, face_notes(face), changes, made_at
    )


def _rows(
    model: Model, columns: list[Alternative]
) -> list[tuple[str, list[tuple[Check, list[Finding], bool]]]]:
    """By family: each check with its finding in every column, and whether they differ."""
    families = []
    for name, checks in model.families:
        rows = []
        for check in checks:
            found = [column.report.findings[check.name] for column in columns]
            if any(finding.verdict is not Verdict.SKIPPED for finding in found):
                shown = {(f.verdict, None if f.value is None else round(f.value, 4)) for f in found}
                rows.append((check, found, len(shown) > 1))
        if rows:
            families.append((name, rows))
    return families


@router.get("/compare", name="compare")
def compare(visit: Visiting) -> Response:
    """The watch and its variants column by column."""
    held = variants.variants_or_faults(visit.connection, visit.stored.id)
    kept = [found for found in held if isinstance(found, Variant)]
    faults = [found for found in held if not isinstance(found, Variant)]
    columns = [_alternative(visit, visit.stored.build.name, visit.stored.build, visit.stored.saved_at)]
    columns += [_alternative(visit, found.name, found.build, found.made_at, found.id) for found in kept]
    context = {
        "watch": visit.stored,
        "faults": faults,
        "way": visit.way("compare"),
        "columns": columns,
        "width": len(columns) + 1,
        "families": _rows(visit.model, columns),
    }
    return render(visit.request, "watch/templates/compare.html", context)
