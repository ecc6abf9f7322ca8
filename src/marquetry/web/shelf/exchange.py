"""The shelf and the whole workshop as files: out, looked over, and in."""

import shutil
import tempfile
from contextlib import closing
from pathlib import Path
from typing import IO, Annotated, Literal

from fastapi import APIRouter, Query, Request, UploadFile
from starlette.background import BackgroundTask
from starlette.responses import FileResponse, RedirectResponse, Response, StreamingResponse

from marquetry.core.values.errors import SheetError
from marquetry.formats import shelf_csv
from marquetry.store import archive, archive_in, imports
from marquetry.store.database import connect
from marquetry.store.progress import Progress
from marquetry.web.shelf.exchange_view import ImportPage, exchange_page
from marquetry.web.site.deps import Connection, wants_fragments
from marquetry.web.site.jobs import Jobs, Work
from marquetry.web.site.pages import render

router = APIRouter()


def _kept(sent: UploadFile, most: int) -> IO[bytes]:
    """What was sent, in a file of our own that outlives the request; SheetError where nothing was."""
    if not sent.filename:
        raise SheetError("the file", "a file", "none")
    if sent.size is not None and sent.size > most:
        raise SheetError("the file", f"at most {most // 1_000_000} MB", f"{sent.size / 1e6:.0f} MB")
    held: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115  # closed by the work that reads it
    shutil.copyfileobj(sent.file, held)
    held.seek(0)
    return held


def _begin(request: Request, work: Work) -> Response:
    works: Jobs[Work] = request.app.state.works
    number = works.start(work)
    return RedirectResponse(request.app.url_path_for("work", number=str(number)), status_code=303)


@router.get("/exchange", name="exchange")
def show(request: Request, connection: Connection) -> Response:
    """What goes out and in as files."""
    return render(request, "shelf/templates/exchange.html", {"page": exchange_page(connection)})


@router.get("/shelf.csv", name="shelf_csv")
def csv_out(request: Request) -> Response:
    """Every part of the shelf, one row each."""
    with closing(connect(request.app.state.database, request.app.state.model)) as connection:
        rows = list(imports.shelf_rows(connection))
    headers = {"Content-Disposition": 'attachment; filename="shelf.csv"'}
    return StreamingResponse(shelf_csv.write(rows), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/shelf/imports", name="bring_in_parts")
def bring_in(request: Request, connection: Connection, file: UploadFile) -> Response:
    """Read a file of parts; nothing is on the shelf before it is looked over and taken."""
    held, database, model = (
        _kept(file, shelf_csv.MOST_BYTES),
        request.app.state.database,
        request.app.state.model,
    )
    lines = sum(chunk.count(b"\n") for chunk in iter(lambda: held.read(1 << 20), b""))
    held.seek(0)
    number = imports.begin(connection, file.filename or "")

    def task(progress: Progress) -> None:
        with closing(connect(database, model)) as own, held:
            imports.read_in(own, number, held, progress)

    goes_to = str(request.app.url_path_for("import", number=str(number)))
    return _begin(request, Work("Reading the file", lines, goes_to, task))


@router.get("/shelf/imports/{number}", name="import")
def preview(
    request: Request,
    connection: Connection,
    number: int,
    fate: Literal["", "new", "changed", "same", "refused"] = "",
    page: Annotated[int, Query(ge=1, le=1000)] = 1,
) -> Response:
    """Row by row what taking the file would do."""
    found = imports.pending(connection, number)
    rows = imports.rows_of(connection, number, fate, page)
    context = {"found": found, "page": ImportPage(found, rows, fate, page), "fates": imports.FATES}
    return render(request, "shelf/templates/import.html", context)


@router.post("/shelf/imports/{number}/taken", name="take_import")
def take(request: Request, connection: Connection, number: int) -> Response:
    """Put the new and changed parts on the shelf, all or none."""
    found, database, model = imports.pending(connection, number), request.app.state.database, connection.model

    def task(progress: Progress) -> None:
        with closing(connect(database, model)) as own:
            imports.take(own, number, progress)

    goes_to = str(request.app.url_path_for("import", number=str(number)))
    return _begin(request, Work("Putting the parts on the shelf", found.wanted, goes_to, task))


@router.post("/shelf/imports/{number}/removed", name="throw_away_import")
def throw_away(request: Request, connection: Connection, number: int) -> Response:
    """Forget the file; the shelf was never touched."""
    imports.throw_away(connection, number)
    return RedirectResponse(request.app.url_path_for("exchange"), status_code=303)


@router.get("/workshop.zip", name="workshop_zip")
def workshop_out(request: Request) -> Response:
    """The whole workshop in one file."""
    database, model = request.app.state.database, request.app.state.model
    file = tempfile.NamedTemporaryFile(suffix=".zip", delete=False)  # noqa: SIM115  # it outlives this function
    try:
        with file, closing(connect(database, model)) as own:
            archive.pack(own, database, file)
    except BaseException:
        Path(file.name).unlink(missing_ok=True)
        raise
    forget = BackgroundTask(Path(file.name).unlink, missing_ok=True)
    return FileResponse(file.name, media_type="application/zip", filename="workshop.zip", background=forget)


@router.post("/workshop", name="bring_in_workshop")
def workshop_in(request: Request, connection: Connection, file: UploadFile) -> Response:
    """Take a whole workshop into this empty one."""
    held, database = _kept(file, archive.MOST_BYTES), request.app.state.database
    model = request.app.state.model
    steps, goes_to = archive.steps_in(connection, held), str(request.app.url_path_for("bench"))

    def task(progress: Progress) -> None:
        with closing(connect(database, model)) as own, held:
            archive_in.unpack(own, database, held, progress)

    return _begin(request, Work("Bringing in the workshop", steps, goes_to, task))


@router.get("/work/{number}", name="work")
def work(request: Request, number: int) -> Response:
    """How far a piece of work is; once it is done, the page it leads to."""
    works: Jobs[Work] = request.app.state.works
    found = works.job(number)
    fragments = wants_fragments(request)
    if found.finished and not found.fault and not fragments:
        return RedirectResponse(found.goes_to, status_code=303)
    template = "site/templates/_work.html" if fragments else "site/templates/work.html"
    return render(request, template, {"work": found, "number": number})
