"""Several watches at the bench at once: each at its step, or the same step on all of a series.

A gate is each watch's own: what is done on all goes as one tap a watch, a question is answered one by one.
"""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Form
from pydantic import BaseModel, ConfigDict, Field
from starlette.responses import RedirectResponse, Response

from marquetry.core.bench.procedure import WatchStep
from marquetry.core.bench.run import SETTLED, Run, Stand
from marquetry.core.values.errors import NotFoundError, SheetError
from marquetry.drawing.bench.place import place_scene
from marquetry.drawing.scene import Scene
from marquetry.store import watches
from marquetry.store.watches import StoredWatch
from marquetry.web.build.bench_run import run_of
from marquetry.web.build.forms import STEP, SentEntries
from marquetry.web.build.routes import told
from marquetry.web.build.screen import STATE_WORDS, why_not_yet
from marquetry.web.build.taking import take
from marquetry.web.site.pages import render
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/together")
MOST = 6
"""So many watches stand side by side; more are no longer read at arm's length."""


@dataclass(frozen=True, slots=True)
class Beside:
    """One of the watches: where it stands at its step, and the digit that taps for it."""

    watch: StoredWatch
    run: Run
    stand: Stand
    digit: int
    fault: str = ""

    @property
    def step(self) -> WatchStep:
        """The step it is at."""
        return self.stand.step

    @property
    def state(self) -> str:
        """Its state in a word."""
        return STATE_WORDS[self.stand.state]

    @property
    def why_not_yet(self) -> str:
        """What it waits for, in a sentence."""
        return why_not_yet(self.run, self.stand)

    @property
    def is_settled(self) -> bool:
        """Whether nothing more is asked of it here."""
        return self.stand.state in SETTLED

    @property
    def scene(self) -> Scene:
        """Where it happens."""
        return place_scene(self.step, self.run)


@dataclass(frozen=True, slots=True)
class TogetherPage:
    """The watches side by side; `common` is the step where all of them are at one."""

    watch: StoredWatch
    beside: Sequence[Beside]
    others: Sequence[tuple[StoredWatch, bool]]
    common: WatchStep | None

    @property
    def chosen(self) -> list[int]:
        """Numbers of the watches."""
        return [one.watch.id for one in self.beside]


class BesideForm(BaseModel):
    """Which watches, what was tapped at which step, and on which of them; empty for all."""

    model_config = ConfigDict(extra="ignore")

    others: Annotated[list[int], Field(max_length=MOST, default_factory=list)]
    step: Annotated[str, Field(pattern=STEP)] = ""
    what: Annotated[str, Field(pattern="^(done|yes|no|unsure|undo)$")]
    only: int = 0


def _visits(visit: Visit, others: Sequence[int]) -> list[Visit]:
    """The watch and those beside it, each once."""
    numbers = [number for number in dict.fromkeys(others) if number != visit.stored.id][: MOST - 1]
    return [visit, *(visit.of(watches.watch(visit.connection, number)) for number in numbers)]


def _page(visit: Visit, others: Sequence[int], step: str, faults: dict[int, str] | None = None) -> Response:
    visits = _visits(visit, others)
    runs = [run_of(one) for one in visits]
    at = [step if step in run.stands else run.here or next(iter(run.stands)) for run in runs]
    beside = [
        Beside(one.stored, run, run.stands[name], digit, (faults or {}).get(one.stored.id, ""))
        for digit, (one, run, name) in enumerate(zip(visits, runs, at, strict=True), 1)
    ]
    chosen = {one.stored.id for one in visits}
    every = [
        (one, one.id in chosen) for one in watches.all_watches(visit.connection) if one.id != visit.stored.id
    ]
    common = beside[0].step if len(set(at)) == 1 and len(beside) > 1 else None
    page = TogetherPage(visit.stored, beside, every, common)
    return render(visit.request, "build/templates/together.html", {"page": page}, 422 if faults else 200)


@router.get("", name="together")
def show(visit: Visiting) -> Response:
    """The watches that are asked for, side by side."""
    query = visit.request.query_params
    others = [int(word) for word in query.getlist("other") if word.isdecimal()][:MOST]
    return _page(visit, others, query.get("step", "")[:80])


@router.post("", name="tap_together")
def tap(visit: Visiting, form: Annotated[BesideForm, Form()]) -> Response:
    """One tap, or one for each watch at the same step; what cannot be taken is told beside its watch."""
    visits = _visits(visit, form.others)
    if form.only and form.only not in {one.stored.id for one in visits}:
        raise NotFoundError(f"watch {form.only} beside this one")
    if form.what != "done" and not form.only:
        raise SheetError("only", "the number of the one watch that was looked at")
    if faults := _taken(visits, form):
        return _page(visit, form.others, form.step, faults)
    if form.what == "no":
        address = visit.request.app.url_path_for("mishap", watch_id=str(form.only))
        return RedirectResponse(f"{address}?{urlencode({'step': form.step})}", status_code=303)
    here = visit.request.app.url_path_for("together", watch_id=str(visit.stored.id))
    query = [("other", str(one.stored.id)) for one in visits[1:]]
    stays = [("step", form.step)] if form.only and not _settled(visits, form.step) else []
    return RedirectResponse(f"{here}?{urlencode([*query, *stays])}", status_code=303)


def _taken(visits: Sequence[Visit], form: BesideForm) -> dict[int, str]:
    """The tap taken for the one watch, or for each; why it could not be, by the watch's number."""
    faults: dict[int, str] = {}
    for one in visits:
        if form.only in {0, one.stored.id}:
            step = "" if form.what == "undo" else form.step
            entry = {"key": uuid.uuid4().hex, "step": step, "what": form.what}
            taking = take(one, SentEntries(entries=[entry], device="together"))
            told(one, taking)
            if taking.refused:
                faults[one.stored.id] = next(iter(taking.refused.values()))
    return faults


def _settled(visits: Sequence[Visit], step: str) -> bool:
    """Whether the step is settled on all of them: then each goes on to its next."""
    runs = [run_of(one.of(watches.watch(one.connection, one.stored.id))) for one in visits]
    return all(step not in run.stands or run.stands[step].state in SETTLED for run in runs)
