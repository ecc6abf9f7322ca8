"""What the bench writes into the sheet: each step that alters a part, the stem's length, hands as pressed.

Fit and bench are then told of one watch: feet that came off at the bench are off in the fit as well. What a
step did is an alteration of its own, so that taking its tap back puts everything back; readings only follow.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

from marquetry.core.bench.log import LogEntry
from marquetry.core.bench.procedure import WatchStep
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation, alteration_step
from marquetry.core.bench.stem import COVERAGE
from marquetry.core.remedies.feet import drilled
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json, dimension_as_json
from marquetry.core.sheet.statements import ALTERATIONS, TRIED, Alteration, Change
from marquetry.core.values.dimension import Dimension, Source

BENCH = "bench:"
"""Begins the name of an alteration that nobody planned: a step did it."""
PADS_THICKNESS = 0.15
"""mm, of pads that nobody measured: assumed, so that its spread counts."""
READ_TOL = 0.03
STEM, PADS, TRIAL = "cut_stem", "place_pads", "trial_dial"
DIAL_ON, AT_BENCH = "dial_on", "at the bench"
Does = Callable[[Run, Build], Iterable[Change]]


def _feet(run: Run, build: Build) -> Iterator[Change]:
    feet, off = build.at("dial.feet") or [], run.procedure.situation.removed_feet
    kept = [foot for number, foot in enumerate(feet) if number not in off]
    yield Change("dial.feet", feet, kept)


def _holes(run: Run, build: Build) -> Iterator[Change]:
    made = drilled(build, run.procedure.situation.rules)
    if made is not None:
        yield Change("movement.foot_holes", build.at("movement.foot_holes"), made)


def _post(_: Run, build: Build) -> Iterator[Change]:
    yield Change("movement.posts.seconds", build.at("movement.posts.seconds"), None)


def _pads(run: Run, build: Build) -> Iterator[Change]:
    read = [entry.value for entry in run.of(PADS) if entry.what == "height" and entry.value]
    before = build.at("dial.fastening")
    held = before.get("thickness") if isinstance(before, dict) else None
    thickness: Json = held or {"value": PADS_THICKNESS, "source": Source.ASSUMED.value}
    if read:
        thickness = _read(read[-1], READ_TOL)
    yield Change("dial.fastening", before, {"kind": "pads", "thickness": thickness})


def _stem(run: Run, build: Build) -> Iterator[Change]:
    """Its length by the ledger; where nothing was read, what it was less what came off."""
    ledger, of = run.ledger, run.procedure.situation.stem
    length, thread = build.dimensions.get("stem.length"), build.dimensions.get("stem.thread_length")
    if of.target and ledger.now:
        value, tol = of.target.r + ledger.now.r, COVERAGE * ledger.now.u
        yield Change("stem.length", build.at("stem.length"), _read(value, max(tol, READ_TOL)))
    elif length:
        yield Change("stem.length", build.at("stem.length"), _read(length.value - ledger.off, length.tol))
    if thread:
        left = max(thread.value - ledger.off, 0.0)
        yield Change("stem.thread_length", build.at("stem.thread_length"), _read(left, thread.tol))


def _read(value: float, tol: float) -> Json:
    return dimension_as_json(Dimension(round(value, 4), round(tol, 4), Source.MEASURED))


def _only_noted(_: Run, __: Build) -> tuple[Change, ...]:
    return ()


DOES: Mapping[str, tuple[str, Does]] = {
    "remove_feet": ("feet_off", _feet),
    "drill_feet_holes": ("holes_drilled", _holes),
    "take_out_seconds_post": ("post_out", _post),
    PADS: ("other", _pads),
    STEM: ("stem_cut", _stem),
    "set_spacer_movement": ("other", _only_noted),
    "set_spacer_dial": ("other", _only_noted),
    "press_crystal": ("other", _only_noted),
}
"""What a done step is to the sheet: the kind of alteration, and its changes."""
FOLLOW = (STEM, PADS)
"""Alterations of the bench that later readings of their step change."""


@dataclass(frozen=True, slots=True)
class Written:
    """The sheet after entries, and what was written, in words for its history."""

    build: Build
    words: tuple[str, ...] = ()

    def then(self, build: Build, words: str) -> "Written":
        """The same with one thing more; nothing where the sheet is as before."""
        return self if build == self.build else Written(build, (*self.words, words))


def written(build: Build, run: Run, kept: Iterable[LogEntry], stamp: Callable[[int], str]) -> Written:
    """The sheet as these entries leave it; `run` has them already, `build` is the sheet before them.

    `stamp` writes a moment, milliseconds since 1970, as sheets have it: core asks no clock.
    """
    found, by_key, is_touched = Written(build), {entry.key: entry for entry in run.entries}, False
    for entry in kept:
        undone = by_key.get(entry.undoes) if entry.what == "undo" else None
        about = undone or entry
        is_touched = is_touched or about.step == TRIAL
        if about.what == "done":
            found = _done(found, run, about.step, "" if undone else stamp(entry.at_ms))
    for name in FOLLOW:
        found = _followed(found, run, name)
    return _as_pressed(_tried(found, run, stamp, is_touched=is_touched), run)


def _done(found: Written, run: Run, name: str, at: str) -> Written:
    """A planned alteration done or not done after all; else what the step itself does, or takes back.

    They are looked for in the sheet: a step that was taken back may be in the watch's list no longer.
    """
    every = found.build.alterations
    own = next((one for one in every if one.id == f"{BENCH}{name}"), None)
    planned = next((one for one in every if alteration_step(one) == name and one is not own), None)
    if planned is not None:
        if (planned.done is None) != bool(at):
            return found
        if own is not None:
            found = Written(_without(found.build, own), found.words)
        return found.then(_turned(found.build, planned, at or None), f"{planned.title}: {_said(at)}")
    if not at:
        return found if own is None else found.then(_without(found.build, own), f"{own.title}: {_said(at)}")
    step = run.procedure.by_id.get(name)
    if own is not None or step is None or name not in DOES:
        return found
    made = _made(run, step, found.build, at)
    return found.then(_with(found.build, made), f"{made.title}: {_said(at)}")


def _said(at: str) -> str:
    return "done" if at else "not done after all"


def _made(run: Run, step: WatchStep, build: Build, at: str) -> Alteration:
    kind, does = DOES[step.id]
    changes = tuple(change for change in does(run, build) if change.before != change.after)
    return Alteration(f"{BENCH}{step.id}", step.title, kind, changes, at)


def _with(build: Build, made: Alteration) -> Build:
    """The build with it done; in its old place among the others, where it was known before."""
    known = [made if one.id == made.id else one for one in build.alterations]
    every = known if made in known else [*known, made]
    return build.altered(made, done=True).with_statement(ALTERATIONS, [one.as_dict() for one in every])


def _without(build: Build, alteration: Alteration) -> Build:
    kept = [one.as_dict() for one in build.alterations if one.id != alteration.id]
    return build.restored(alteration).with_statement(ALTERATIONS, kept)


def _turned(build: Build, alteration: Alteration, at: str | None) -> Build:
    """A planned alteration done at that moment, its sizes planned until they are read; or taken back."""
    made = build.restored(alteration) if at is None else build.altered(replace(alteration, done=None))
    told = [replace(one, done=at) if one.id == alteration.id else one for one in build.alterations]
    return made.with_statement(ALTERATIONS, [one.as_dict() for one in told])


def _followed(found: Written, run: Run, name: str) -> Written:
    """What the bench wrote of a step, by what was read of it since.

    A cut that was planned keeps its plan; what was read stands beside it, so that an undo finds the plan.
    """
    own = next((one for one in found.build.alterations if one.id == f"{BENCH}{name}"), None)
    if own is None and name == STEM and run.ledger.now and run.ledger.off:
        # A gap that was read before the cut says nothing of the stem after it: then the plan stands.
        planned = (one for one in found.build.alterations if alteration_step(one) == STEM and one.done)
        own = next((replace(one, id=f"{BENCH}{name}", changes=()) for one in planned), None)
    step = run.procedure.by_id.get(name)
    if own is None or step is None or not own.done:
        return found
    before = found.build.restored(own)
    after = _with(before, replace(_made(run, step, before, own.done), title=own.title))
    return found.then(after, f"{own.title}: read")


def _tried(found: Written, run: Run, stamp: Callable[[int], str], *, is_touched: bool) -> Written:
    """The dial laid on, and it fits: as long as its question is passed at the bench, it is tried for the fit.

    What was tried before stands under `was`, and comes back with the tap.
    """
    tried: dict[str, Json] = dict(found.build.raw.get(TRIED) or {})
    stand, known = run.stands.get(TRIAL), tried.get(DIAL_ON) or {}
    passes, ours = stand is not None and stand.state == "passed", known.get("note") == AT_BENCH
    if stand and passes and is_touched and not ours:
        tried[DIAL_ON] = {"fits": True, "on": stamp(stand.at_ms)[:10], "note": AT_BENCH}
        tried[DIAL_ON] |= {"was": known} if known else {}
    elif ours and not passes:
        del tried[DIAL_ON]
        tried |= {DIAL_ON: known["was"]} if known.get("was") else {}
    words = "fits" if passes else "not tried after all"
    return found.then(found.build.with_statement(TRIED, tried), f"dial laid on: {words}")


def feet_missed(situation: Situation, build: Build, kind: str, way: str) -> Build | None:
    """The sheet once the dial was laid on and its feet missed: what was chosen is planned, and has its step.

    None for another mishap, a way that only tries again, and where nobody knows which of many feet miss.
    """
    if kind != "feet_miss" or way not in FEET_BY:
        return None
    title, change = _planned_feet(situation, build) if way == "off" else _planned_holes(situation, build)
    if change is None:
        return None
    planned = Alteration(f"{BENCH}{way}", title, FEET_BY[way], (change,))
    every = [*(one.as_dict() for one in build.alterations if one.id != planned.id), planned.as_dict()]
    return build.with_statement(ALTERATIONS, every)


def _planned_feet(situation: Situation, build: Build) -> tuple[str, Change | None]:
    """Feet that are known to be left over, else both of a pair: of more, none is cut on a guess."""
    feet, off = build.at("dial.feet") or [], situation.feet.remove if situation.feet else ()
    off = off or (tuple(range(len(feet))) if len(feet) <= PAIR else ())
    kept = [foot for number, foot in enumerate(feet) if number not in off]
    return "Take the feet off that miss", Change("dial.feet", feet, kept) if off else None


def _planned_holes(situation: Situation, build: Build) -> tuple[str, Change | None]:
    made = drilled(build, situation.rules)
    change = Change("movement.foot_holes", build.at("movement.foot_holes"), made)
    return "Drill holes for the feet", None if made is None else change


PAIR = 2
FEET_BY = {"off": "feet_off", "holes": "holes_drilled"}
"""Ways back from feet that miss, and the kind of alteration each is."""


def _as_pressed(found: Written, run: Run) -> Written:
    """Each hand's height as it was read last; one that was lifted has none."""
    for hand in run.procedure.situation.hands:
        path, read = f"hands.{hand}.pressed", run.heights.get(hand)
        if found.build.at(path) == read or not found.build.has(f"hands.{hand}"):
            continue
        made = found.build.without(path) if read is None else found.build.with_entry(path, read)
        found = found.then(made, f"{hand} hand {'lifted' if read is None else f'pressed at {read:.2f} mm'}")
    return found
