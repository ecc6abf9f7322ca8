"""The mishap sheet: two taps from any step; what to look at, ways back, what each costs and opens again."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Form
from starlette.responses import RedirectResponse, Response

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.mishaps import MISHAP_BY_KEY, MishapKind, WayBack, likely_first, opens
from marquetry.core.bench.run import Run
from marquetry.core.trade.ledger import pay
from marquetry.core.values.errors import NotFoundError
from marquetry.store import mishaps, pieces, terms_of_trade, watches
from marquetry.store.another_part import is_somebodys
from marquetry.store.database import Connection
from marquetry.store.mishaps import NewMishap
from marquetry.store.pieces import Piece
from marquetry.store.watches import StoredWatch
from marquetry.web.build.bench_run import now_ms, run_of
from marquetry.web.build.forms import STEP
from marquetry.web.build.routes import to_step
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/build/mishap")


@dataclass(frozen=True, slots=True)
class WayShown:
    """A way back with what it costs this watch: time, the piece, what is on the shelf, what opens again."""

    way: WayBack
    time_cost: str
    piece: str
    on_shelf: int | None
    opens: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class MishapPage:
    """The sheet: all kinds, or one of them with its ways back."""

    watch: StoredWatch
    step: str
    title: str
    kinds: Sequence[MishapKind]
    kind: MishapKind | None
    ways: tuple[WayShown, ...]


def _way(visit: Visit, run: Run, kind: MishapKind, way: WayBack, step: str) -> WayShown:
    hour = terms_of_trade.trade_terms(visit.connection).pay(mishaps.BENCH_PAY)
    held = mishaps.piece_of(visit.connection, visit.stored.id, kind.part) if kind.part else None
    again = tuple(name for name in opens(run.procedure, way, step) if run.stands[name].at_ms)
    titles = tuple(run.stands[name].step.title for name in again)
    wanted = way.wants_another
    return WayShown(
        way,
        str(pay(way.minutes, hour)) if way.minutes else "",
        _worth(held) if wanted else "",
        _spare(visit.connection, held) if wanted else None,
        titles,
    )


def _worth(held: Piece | None) -> str:
    if held is None:
        return "the part is only described here: nothing is booked for it"
    return f"{held.name}, {held.stock.paid}" if held.stock.paid else held.name


def _spare(connection: Connection, held: Piece | None) -> int | None:
    """How many others of the part lie free on the shelf."""
    if held is None:
        return None
    others = pieces.pieces_of_part(connection, held.part_id)
    return sum(one.state == "shelf" and one.watch_id is None and one.id != held.id for one in others)


@router.get("", name="mishap")
def show(visit: Visiting, step: str = "", kind: str = "") -> Response:
    """All kinds, those that happen at this step first; or one with its ways back."""
    run = run_of(visit)
    at = step if step in run.stands else run.here or next(iter(run.stands))
    chosen = MISHAP_BY_KEY.get(kind)
    ways = tuple(_way(visit, run, chosen, way, at) for way in chosen.ways) if chosen else ()
    page = MishapPage(visit.stored, at, run.stands[at].step.title, likely_first(at), chosen, ways)
    return render(visit.request, "build/templates/mishap.html", {"page": page})


@router.post("", name="note_mishap")
def note(
    visit: Visiting,
    step: Annotated[str, Form(pattern=STEP)],
    kind: Annotated[str, Form(max_length=40)],
    way: Annotated[str, Form(max_length=40)],
    lesson: Annotated[str, Form(max_length=400)] = "",
) -> Response:
    """Note it: its cost in the books, its piece's state, the steps it opens, its lesson."""
    run, chosen = run_of(visit), MISHAP_BY_KEY.get(kind)
    back = next((one for one in chosen.ways if one.key == way), None) if chosen else None
    if chosen is None or back is None or step not in run.stands:
        raise NotFoundError("mishap of that kind at this step")
    words = f"{chosen.label}: {back.words}"
    entry = LogEntry(uuid.uuid4().hex, step, "mishap", now_ms(), words=words)
    again = opens(run.procedure, back, step)
    new = NewMishap(chosen, back, entry, again, lesson.strip(), today())
    mishaps.note(visit.connection, visit.stored, new)
    visit.request.app.state.bench_lines.tell(visit.stored.id, "measured")
    now = visit.of(watches.watch(visit.connection, visit.stored.id))
    if (
        back.wants_another
        and now.stored.build.has(chosen.part)
        and not is_somebodys(now.stored.build, chosen.part)
    ):
        # Nobody knows the new one yet, and the steps hang on it: its figures come before the work goes on.
        parts = visit.request.app.url_path_for("watch_parts", watch_id=str(now.stored.id))
        return RedirectResponse(f"{parts}?open={chosen.part}#part-{chosen.part}", status_code=303)
    return to_step(now, run_of(now).here if again else step)
