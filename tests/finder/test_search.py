"""The Finder against brute force: the same watches in the same order, and every cell as the report has it."""

from collections.abc import Iterator
from itertools import product
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from marquetry.core.finder.candidates import Candidate, Slot, spacer_candidates, without_feet
from marquetry.core.finder.constraints import UNKNOWN
from marquetry.core.finder.misses import how_many, nearest_misses
from marquetry.core.finder.search import DECIMALS, Filling, Search, added, filled
from marquetry.core.fit.finding import Finding
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import dimension_as_json
from marquetry.core.sheet.part import Part
from marquetry.core.values.dimension import Dimension
from marquetry.core.values.verdict import Verdict
from tests.about import about
from tests.strategies import ANATOMY, case_build, report_on, rules

KINDS = ("case", "dial", "hands", "movement", "crystal", "crystal_gasket", "crown", "stem")
FIXED = ("chapter_ring", "holder", "crystal_gasket", "crown_gasket", "case_back", "bezel_insert")


def varied(build: Build, kind: str, seed: int, spread: float = 0.012) -> Part:
    """A part like the build's, every dimension moved a little, some not known, now and then without feet."""
    generator = np.random.default_rng(seed)
    part = Part.of(ANATOMY.kind(kind), build.at(kind))
    made = part.build
    for path, old in part.build.dimensions.items():
        value = old.value + float(generator.normal(0, spread)) * (1.0 if abs(old.value) > 1 else 0.3)
        moved = Dimension(round(max(value, 0.0) if old.value >= 0 else value, 4), old.tol, old.source)
        made = made.with_entry(path, dimension_as_json(moved))
    made = with_other_words(made, kind, generator)
    if kind == "hands" and generator.random() < 0.2 and made.has("hands.seconds"):
        made = made.without("hands.seconds")
    if generator.random() < 0.12:
        paths = [p for p in made.dimensions if p.count(".") == 1]
        if paths:
            made = made.without(str(generator.choice(paths)))
    return Part.of(ANATOMY.kind(kind), made.at(kind))


def with_other_words(made: Build, kind: str, generator: np.random.Generator) -> Build:
    """The part with other feet, windows, functions, threads or materials: what no column can say."""
    if kind == "dial" and generator.random() < 0.3:
        made = made.without("dial.feet")
    if kind == "dial" and made.count("dial.feet") == 2 and generator.random() < 0.4:
        made = _more_feet(made, generator)
    if kind == "dial" and generator.random() < 0.3:
        made = made.with_entry("dial.windows", [["date"], ["day", "date"], []][int(generator.integers(3))])
    if kind == "movement" and generator.random() < 0.3:
        made = made.with_entry(
            "movement.functions", [["hours", "minutes", "seconds"], ["date"]][int(generator.integers(2))]
        )
    if kind in {"crown", "stem"}:
        made = made.with_entry(f"{kind}.thread", ["0.90", "1.20"][int(generator.integers(2))])
    if kind == "crystal":
        made = made.with_entry("crystal.material", ["sapphire", "acrylic"][int(generator.integers(2))])
    return made


def _more_feet(made: Build, generator: np.random.Generator) -> Build:
    """Two feet more, shorter ones, that stand over no hole: they have to come off."""
    for angle in (100.0, 280.0):
        length = float(generator.choice([0.4, 1.4]))
        foot = {"radius": 12.6, "angle": angle, "diameter": 0.7, "length": length}
        made = made.with_entry("dial.feet.-", foot)
    return made


def slots_of(build: Build, kinds: tuple[str, ...], sizes: int, seed: int) -> tuple[Slot, ...]:
    generator = np.random.default_rng(seed)
    made = []
    for kind in kinds:
        candidates = tuple(
            Candidate(
                number,
                varied(build, kind, seed * 1000 + number + hash_of(kind)),
                owned=bool(generator.random() < 0.4),
                price=int(generator.integers(1, 6)) * 500,
                missed=int(generator.integers(0, 3)),
            )
            for number in range(sizes)
        )
        if kind == "dial":
            candidates += tuple(filter(None, map(without_feet, candidates[:2])))
        made.append(Slot(kind, candidates))
    return tuple(made)


def hash_of(word: str) -> int:
    return sum(map(ord, word)) % 997


def _counts(finding: Finding, kinds: set[str], whole: Build) -> bool:
    """Whether the parts to be chosen can help or spoil this: by the fit model's page alone."""
    parts = about(finding.check) | ({"dial"} if "spacers" in about(finding.check) else set())
    waits = any(path.partition(".")[0] not in kinds for path in finding.missing)
    return bool(parts & kinds) and not waits and whole is not None


def _room(finding: Finding) -> float:
    """Worst-case room in mm, a per cent counting a hundredth, from the finding's own figures."""
    ends = finding.limits.low, finding.limits.high
    assert finding.low is not None
    assert finding.high is not None
    rooms = [finding.low - ends[0]] if ends[0] is not None else []
    rooms += [ends[1] - finding.high] if ends[1] is not None else []
    per_cent = finding.check.endswith(("_squeeze", "_stretch", "_fill"))
    return min(rooms) * (0.01 if per_cent else 1.0)


LOOKS = {"hand_track.minute", "hand_track.seconds", "bezel_index", "disc_upright", "track_seen"}
"""Matters of looks: not known, they keep no part out."""


def by_force(build: Build, slots: tuple[Slot, ...], *, unmeasured_ok: bool) -> Iterator[tuple[Any, ...]]:
    """Every filling without a clash: its key and the parts, by nothing but the report."""
    kinds = [slot.kind for slot in slots]
    for chosen in product(*(slot.candidates for slot in slots)):
        whole = filled(build, dict(zip(kinds, chosen, strict=True)))
        report = report_on(whole)
        found = [f for f in report.findings.values() if _counts(f, set(kinds), whole)]
        unknown = any(f.verdict is Verdict.UNMEASURED and f.check not in LOOKS for f in found)
        if any(f.verdict is Verdict.CLASH for f in found) or (unknown and not unmeasured_ok):
            continue
        room = round(min((_room(f) for f in found if f.low is not None), default=0.0), DECIMALS)
        if unknown:
            room = min(room, UNKNOWN)
        sums = added(*((c.cost, int(not c.owned), c.missed) for c in chosen))
        yield (-room, *sums), tuple((c.number, c.on_pads) for c in chosen)


def key_of(filling: Filling) -> Any:
    return filling.key


@settings(max_examples=25, deadline=None)
@given(
    seed=st.integers(0, 10_000),
    number=st.sampled_from([1, 3, 6, 10]),
    kinds=st.sets(st.sampled_from(KINDS), min_size=1, max_size=4),
    lacking=st.sets(st.sampled_from(FIXED), max_size=2),
    unmeasured_ok=st.booleans(),
)
def test_the_search_finds_what_brute_force_finds_in_the_same_order(
    seed: int,
    number: int,
    kinds: set[str],
    lacking: set[str],
    unmeasured_ok: bool,  # noqa: FBT001  # hypothesis gives it by name
) -> None:
    build = case_build(number)
    build = build.with_parts(dict.fromkeys(lacking - kinds))
    ordered = tuple(kind for kind in KINDS if kind in kinds and build.has(kind))
    slots = slots_of(build, ordered, 3, seed)
    expected = sorted(by_force(build, slots, unmeasured_ok=unmeasured_ok))
    found = list(Search(build, rules(), slots, unmeasured_ok).best())
    assert [key_of(filling) for filling in found] == [key for key, _ in expected]
    numbers = {tuple((f.chosen[k].number, f.chosen[k].on_pads) for k in ordered) for f in found}
    assert numbers == {chosen for _, chosen in expected}


def test_a_spacer_is_found_where_one_is_accepted() -> None:
    build = case_build(2)
    slots = slots_of(build, ("dial",), 4, 5)
    assert list(Search(build, rules(), slots).best()) == []
    limits = {"holder_clamp": [0.0, 1.5]}
    spaced = (*slots, Slot("spacers", spacer_candidates(ANATOMY, 0.9)))
    found = list(Search(build, rules(limits), spaced).best())
    assert found
    thickness = found[0].build.dimensions["spacers.0.thickness"].value
    assert 0.6 < thickness < 0.9
    assert found[0].tightest is not None
    assert 0 < found[0].chance <= 1
    keys = [key_of(filling) for filling in found]
    assert keys == sorted(keys)


def test_a_search_stops_when_told_and_keeps_what_it_found() -> None:
    build = case_build(1)
    search = Search(build, rules(), slots_of(build, ("dial", "crystal"), 6, 2), unmeasured_ok=True)
    found = []
    for filling in search.best():
        found.append(filling)
        if len(found) == 3:
            search.stop = True
    assert len(found) == 3
    assert search.looked_at > 3
    assert list(Search(build, rules(), (Slot("dial", ()),)).best()) == []


@pytest.mark.parametrize("number", [1, 10])
def test_the_parts_of_a_watch_that_goes_together_are_found_again(number: int) -> None:
    build = case_build(number)
    kinds = tuple(kind for kind in KINDS if build.has(kind))
    slots = tuple(
        Slot(kind, (Candidate(1, Part.of(ANATOMY.kind(kind), build.at(kind)), owned=True),)) for kind in kinds
    )
    (found,) = Search(build, rules(), slots, unmeasured_ok=True).best()
    assert found.report.count(Verdict.CLASH) == 0
    assert found.sums == (0, 0, 0)


def test_a_movement_is_judged_by_the_feet_that_its_holes_keep() -> None:
    """Four feet, two of them short: which are kept hangs on the movement, and with it what holds the dial."""
    build = case_build(1)
    for angle in (123.0, 303.0):
        foot = {"radius": 12.6, "angle": angle, "diameter": 0.7, "length": 0.61, "tol": 0}
        build = build.with_entry(
            "dial.feet.-", {k: {"value": v, "source": "measured"} for k, v in foot.items() if k != "tol"}
        )
    other = build
    for index, angle in enumerate((123.0, 303.0)):
        other = other.with_entry(f"movement.foot_holes.{index}.angle", angle - 90.0)
    movements = [Part.of(ANATOMY.kind("movement"), b.at("movement")) for b in (build, other)]
    slot = Slot("movement", tuple(Candidate(n, part, owned=True) for n, part in enumerate(movements)))
    found = {
        f.chosen["movement"].number: f for f in Search(build, rules(), (slot,), unmeasured_ok=True).best()
    }
    for filling in found.values():
        assert filling.report.as_dict() == report_on(filling.build).as_dict()
    verdicts = [found[n].report.findings["foot_engagement"].verdict for n in (0, 1)]
    assert verdicts == [Verdict.CLEAR, Verdict.TIGHT]


def test_where_nothing_goes_together_the_nearest_misses_are_what_brute_force_calls_nearest() -> None:
    build = case_build(2)
    slots = slots_of(build, ("dial", "movement"), 4, 5)
    search = Search(build, rules(), slots)
    assert list(search.best()) == []
    found = nearest_misses(search)
    assert found
    gravest = {}
    for dial, movement in product(slots[0].candidates, slots[1].candidates):
        report = report_on(filled(build, {"dial": dial, "movement": movement}))
        told = [f for f in report.findings.values() if _counts(f, {"dial", "movement"}, build)]
        clashes = [f for f in told if f.verdict is Verdict.CLASH]
        gravest[dial.number, dial.on_pads, movement.number] = max(
            -min(_miss(f) for f in clashes) if clashes else 0.0, 0.0
        )
    nearest = found[0].filling.chosen
    key = nearest["dial"].number, nearest["dial"].on_pads, nearest["movement"].number
    assert gravest[key] == pytest.approx(min(gravest.values()), abs=0.01)
    assert all(by > 0 or finding.value is None for finding, by in found[0].fails)


def _miss(finding: Finding) -> float:
    """How far outside its limits the nominal value lies, negative; words that clash count as far out."""
    if finding.value is None:
        return -100.0
    low, high = finding.limits.low, finding.limits.high
    per_cent = finding.check.endswith(("_squeeze", "_stretch", "_fill"))
    outside = min(
        finding.value - low if low is not None else 0.0, high - finding.value if high is not None else 0.0
    )
    return outside * (0.01 if per_cent else 1.0)


def test_what_one_thing_more_accepted_would_let_through_is_counted() -> None:
    build = case_build(2)
    limits = {"holder_clamp": [0.0, 1.5]}
    slots = slots_of(build, ("dial",), 4, 5)
    assert how_many(Search(build, rules(limits), slots)) == 0
    spaced = (*slots, Slot("spacers", spacer_candidates(ANATOMY, 0.9)))
    assert how_many(Search(build, rules(limits), spaced)) > 3
