"""The mishap sheet: two taps from any step; what to look at, ways back, what each costs and opens again."""

import uuid
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from pydantic import BaseModel, ConfigDict, Field
from starlette.responses import RedirectResponse, Response

from marquetry.core.bench.log import UNSURE, LogEntry
from marquetry.core.bench.mishap import UNSURE_WORDS, MishapKind, WayBack
from marquetry.core.bench.mishap_kinds import MISHAP_BY_KEY, failures_of, likely_first, opens
from marquetry.core.bench.run import Run
from marquetry.core.bench.written import feet_missed
from marquetry.core.fit.sentence import sentence
from marquetry.core.trade.ledger import pay
from marquetry.core.values.errors import NotFoundError, RateError, SheetError
from marquetry.core.values.money import Money
from marquetry.core.values.verdict import Verdict
from marquetry.store import bench_log, mishaps, photos, pieces, suppliers, terms_of_trade, watches
from marquetry.store.another_part import is_somebodys, name_in
from marquetry.store.database import Connection, transaction
from marquetry.store.mishaps import NewMishap
from marquetry.store.pieces import Piece
from marquetry.store.watches import StoredWatch
from marquetry.web.build.bench_run import now_ms, run_of
from marquetry.web.build.forms import STEP
from marquetry.web.build.routes import to_step
from marquetry.web.build.taking import OF_ANSWER, write_sheet
from marquetry.web.site.pages import render
from marquetry.web.site.today import today
from marquetry.web.watch.visit import Visit, Visiting

router = APIRouter(prefix="/watches/{watch_id}/build/mishap")


LAST_DIGIT = 9


@dataclass(frozen=True, slots=True)
class WayShown:
    """A way back with what it costs this watch: what is booked, what is on the shelf, what opens again."""

    way: WayBack
    costs: tuple[str, ...]
    total: str
    on_shelf: int | None
    opens: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Explained:
    """The finding that explains a failure by its figure."""

    check: str
    verdict: Verdict
    words: str


@dataclass(frozen=True, slots=True)
class MishapPage:
    """The sheet: what may be meant by a no, every kind of mishap; or one of them with its ways back."""

    watch: StoredWatch
    step: str
    title: str
    question: str
    failures: list[tuple[str, MishapKind]]
    """Each with the digit that opens it; later ones have none."""
    kinds: list[tuple[str, MishapKind]]
    kind: MishapKind | None
    ways: tuple[WayShown, ...]
    explained: tuple[Explained, ...]
    sellers: tuple[str, ...]
    seller: str
    slots: tuple[tuple[str, str], ...]
    """Parts of the watch to choose from, where it may be any: slot and name."""
    fault: str = ""


def _way(visit: Visit, run: Run, kind: MishapKind, way: WayBack, step: str) -> WayShown:
    terms = terms_of_trade.trade_terms(visit.connection)
    held = mishaps.piece_of(visit.connection, visit.stored.id, kind.part) if kind.part else None
    again = tuple(name for name in opens(run.procedure, way, step) if run.stands[name].at_ms)
    costs: list[tuple[str, Money]] = []
    if way.minutes and terms.has_rate(mishaps.BENCH_PAY):
        costs.append((f"{way.minutes} min", pay(way.minutes, terms.pay(mishaps.BENCH_PAY))))
    # What goes back to its seller is no loss yet, and nothing is booked for it.
    spoilt = _at_home(visit, held.stock.paid) if way.fate == "scrapped" and held and held.stock.paid else None
    if held and spoilt:
        costs.append((held.name, spoilt))
    total = Money(sum(cost.minor for _, cost in costs), terms.home)
    return WayShown(
        way=way,
        costs=tuple(f"{words} {cost}" for words, cost in costs),
        total=str(total) if total.minor else "",
        on_shelf=_spare(visit.connection, held) if way.wants_another else None,
        opens=tuple(run.stands[name].step.title for name in again),
    )


def _at_home(visit: Visit, paid: Money) -> Money | None:
    """What was paid in the currency of the books; None without a rate, and then booking it is refused."""
    try:
        return terms_of_trade.rates(visit.connection).converted(paid, today())
    except RateError:
        return None


def _spare(connection: Connection, held: Piece | None) -> int | None:
    """How many others of the part lie free on the shelf."""
    if held is None:
        return None
    others = pieces.pieces_of_part(connection, held.part_id)
    return sum(one.state == "shelf" and one.watch_id is None and one.id != held.id for one in others)


def _explained(run: Run, kind: MishapKind) -> Iterator[Explained]:
    """What the fit says of it, where it says anything but that all is well."""
    report = run.procedure.situation.report
    for name, finding in report.findings.items():
        if name.partition(".")[0] in kind.checks and finding.verdict not in {Verdict.SKIPPED, Verdict.CLEAR}:
            yield Explained(name, finding.verdict, sentence(report.rules.model, finding))


def _page(visit: Visit, run: Run, step: str, kind: MishapKind | None, fault: str = "") -> Response:
    at = run.stands[step].step
    failures = failures_of(run.procedure, step)
    own = {one.key for one in failures}
    every = [*failures, *(one for one in likely_first(step) if one.key not in own)]
    numbered = [(str(place) if place <= LAST_DIGIT else "", one) for place, one in enumerate(every, 1)]
    held = mishaps.piece_of(visit.connection, visit.stored.id, kind.part) if kind and kind.part else None
    page = MishapPage(
        watch=visit.stored,
        step=step,
        title=at.title,
        question=at.question,
        failures=numbered[: len(failures)],
        kinds=numbered[len(failures) :],
        kind=kind,
        ways=tuple(_way(visit, run, kind, way, step) for way in kind.ways_back) if kind else (),
        explained=tuple(_explained(run, kind)) if kind else (),
        sellers=_sellers(visit, kind),
        seller=held.stock.supplier if held else "",
        slots=_slots(visit, kind),
        fault=fault,
    )
    return render(visit.request, "build/templates/mishap.html", {"page": page}, 422 if fault else 200)


def _slots(visit: Visit, kind: MishapKind | None) -> tuple[tuple[str, str], ...]:
    if kind is None or not kind.is_sellers or kind.part:
        return ()
    build = visit.stored.build
    every = (part.key for part in build.anatomy.parts if isinstance(build.at(part.key), dict))
    return tuple((key, name_in(build, key)) for key in every)


def _sellers(visit: Visit, kind: MishapKind | None) -> tuple[str, ...]:
    if kind is None or not kind.is_sellers:
        return ()
    return tuple(one.terms.name for one in suppliers.suppliers(visit.connection))


@router.get("", name="mishap")
def show(visit: Visiting, step: str = "", kind: str = "") -> Response:
    """What a no may mean first, then all kinds, likely ones first; or one with its ways back."""
    run = run_of(visit)
    at = step if step in run.stands else run.here or next(iter(run.stands))
    return _page(visit, run, at, MISHAP_BY_KEY.get(kind))


class MishapForm(BaseModel):
    """A mishap as its sheet sends it."""

    model_config = ConfigDict(extra="ignore")

    step: Annotated[str, Field(pattern=STEP)]
    kind: Annotated[str, Field(max_length=40)]
    way: Annotated[str, Field(max_length=40)]
    lesson: Annotated[str, Field(max_length=400)] = ""
    happened: Annotated[str, Field(max_length=300)] = ""
    supplier: Annotated[str, Field(max_length=80)] = ""
    part: Annotated[str, Field(max_length=40)] = ""
    photo: UploadFile | None = None


@router.post("", name="note_mishap")
def note(visit: Visiting, form: Annotated[MishapForm, Form(media_type="multipart/form-data")]) -> Response:
    """Note it: its cost in the books, its piece's state, the steps it opens, its lesson and picture."""
    run, chosen = run_of(visit), _about(visit, MISHAP_BY_KEY.get(form.kind), form.part)
    back = next((one for one in chosen.ways_back if one.key == form.way), None) if chosen else None
    if chosen is None or back is None or form.step not in run.stands:
        raise NotFoundError("mishap of that kind at this step")
    again = opens(run.procedure, back, form.step)
    try:
        with transaction(visit.connection):
            _noted(visit, run, _new(run, form, chosen, back, again))
            _with_photo(visit, form, chosen)
    except (SheetError, RateError) as error:
        return _page(visit, run, form.step, chosen, f"{error} Nothing was changed.")
    visit.request.app.state.bench_lines.tell(visit.stored.id, "measured")
    now = visit.of(watches.watch(visit.connection, visit.stored.id))
    if back.wants_another and _is_unknown(now, chosen.part):
        # Nobody knows the new one yet, and the steps hang on it: its figures come before the work goes on.
        parts = visit.request.app.url_path_for("watch_parts", watch_id=str(now.stored.id))
        return RedirectResponse(f"{parts}?open={chosen.part}#part-{chosen.part}", status_code=303)
    goes_on = again or back.accepts or back.is_unsure
    return to_step(now, run_of(now).here if goes_on else form.step)


def _noted(visit: Visit, run: Run, new: NewMishap) -> None:
    """First what the steps that open again no longer say: the piece's fate is then the newest version.

    An undo of the mishap takes the newest version back; it would take another one the other way round.
    """
    opened = replace(new.entry, detail={"opens": list(new.opens)})
    write_sheet(visit, replace(run, entries=(*run.entries, opened)), [])
    stored = watches.watch(visit.connection, visit.stored.id)
    planned = feet_missed(run.procedure.situation, stored.build, new.kind.key, new.way.key)
    mishaps.note(visit.connection, stored, replace(new, sheet=planned))


def _is_unknown(visit: Visit, part: str) -> bool:
    """Whether a part is in its slot of which nobody said anything yet."""
    return visit.stored.build.has(part) and not is_somebodys(visit.stored.build, part)


def _about(visit: Visit, kind: MishapKind | None, part: str) -> MishapKind | None:
    """The kind, of the part that was chosen where it may be any."""
    asks = kind is not None and kind.is_sellers and not kind.part and visit.stored.build.has(part)
    return replace(kind, part=part) if kind is not None and asks and "." not in part else kind


def _new(run: Run, form: MishapForm, kind: MishapKind, way: WayBack, again: tuple[str, ...]) -> NewMishap:
    """The mishap as it is written, and the answer that a way back gives to its question."""
    stand, at = run.stands[form.step], now_ms()
    entry = LogEntry(uuid.uuid4().hex, form.step, "mishap", at, words=f"{kind.label}: {way.words}")
    answer = None
    if stand.step.is_gate and (way.accepts or way.is_unsure):
        words = UNSURE_WORDS if way.is_unsure else f"Accepted as it is: {kind.label.lower()}"
        answer = LogEntry(
            key=f"{entry.key}{OF_ANSWER}",
            step=form.step,
            what="skip",
            at_ms=at,
            words=words,
            sign=stand.step.sign,
            detail={UNSURE: True} if way.is_unsure else {},
        )
    return NewMishap(
        kind=kind,
        way=way,
        entry=entry,
        opens=again,
        lesson=form.lesson.strip(),
        day=today(),
        happened=form.happened.strip(),
        supplier=form.supplier.strip() if kind.is_sellers else "",
        answer=answer,
    )


def _with_photo(visit: Visit, form: MishapForm, kind: MishapKind) -> None:
    """Keep the picture that came with it; SheetError where it is none."""
    content = form.photo.file.read(photos.MOST_BYTES + 1) if form.photo else b""
    if content:
        words = form.happened.strip()[:200] or kind.label
        database = visit.request.app.state.database
        number = photos.add_photo(visit.connection, database, "bench", visit.stored.id, content, words)
        entry = LogEntry(uuid.uuid4().hex, form.step, "photo", now_ms(), float(number), words=words)
        bench_log.add_entries(visit.connection, visit.stored.id, [entry])
