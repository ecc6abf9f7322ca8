"""A watch in open formats: its section as SVG, its build sheet, its findings as JSON."""

import re

from fastapi import APIRouter
from starlette.responses import JSONResponse, Response

from marquetry.core.fit.report import report_on
from marquetry.core.sheet.part import unlinked
from marquetry.drawing.plate import plate
from marquetry.drawing.scene import Scene
from marquetry.drawing.svg import to_svg
from marquetry.formats import build_sheet
from marquetry.formats.findings import findings_of
from marquetry.store import watches
from marquetry.web.site.deps import Connection
from marquetry.web.watch.findings_model import FindingsModel
from marquetry.web.watch.visit import Visiting

router = APIRouter(prefix="/watches/{watch_id}")
SVG_POLICY = "default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'"
"""A drawing as a file of its own carries its style within; nothing else may load or run."""


@router.get("/plate.svg", name="plate_svg")
def plate_svg(visit: Visiting) -> Response:
    """The plate as it is shown, or in true size, as a file in millimetres of paper."""
    build = visit.before.build
    scene = plate(build, report_on(build, visit.rules(build)), visit.display)
    return svg_file(scene, build.name, visit.display.view)


def svg_file(scene: Scene, name: str, what: str) -> Response:
    """A drawing as a file of its own, in millimetres of paper."""
    headers = {**attachment(name, f"{what}.svg"), "Content-Security-Policy": SVG_POLICY}
    return Response(to_svg(scene, standalone=True), media_type="image/svg+xml", headers=headers)


@router.get("/sheet.json", name="sheet_json")
def sheet_json(watch_id: int, connection: Connection) -> Response:
    """The build sheet, with every key that was brought in."""
    build = unlinked(watches.watch(connection, watch_id).build)
    text = build_sheet.dumps(build)
    return Response(text, media_type="application/json", headers=attachment(build.name, "build.json"))


@router.get("/findings.json", name="findings_json", responses={200: {"model": FindingsModel}})
def findings_json(visit: Visiting) -> JSONResponse:
    """The findings, as `marquetry check --json` prints them."""
    build = visit.before.build
    return JSONResponse(findings_of(build, report_on(build, visit.rules(build))))


def attachment(name: str, ending: str) -> dict[str, str]:
    """A file name of plain letters, whatever the watch is called."""
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:60] or "watch"
    return {"Content-Disposition": f'attachment; filename="{plain}-{ending}"'}
