"""Where sizes come from, how a holder goes on, both sides of a spacer, batches, words for a turner."""

import math
from typing import cast

import pytest

from marquetry.core.fit.report import report_on
from marquetry.core.making.allowance import Allowance, allowances
from marquetry.core.making.batch import BLANK_STATES, Batch, Blank, BlankState, chance_of
from marquetry.core.making.both_sides import both_sides
from marquetry.core.making.kinds import MADE
from marquetry.core.making.outline import CircleEdge
from marquetry.core.making.parts import MadePart, made_name, made_part
from marquetry.core.making.printer import PrinterPair
from marquetry.core.making.version import PrintedBy, asked_of, compensated
from marquetry.core.making.views import drawing_of
from marquetry.core.making.way_on import way_on
from marquetry.core.making.words import order_lines, size_words
from marquetry.core.sheet.build import Build
from marquetry.core.values.verdict import Verdict
from marquetry.demo.workshop import demo_sheets
from tests.making.test_solids import SUPPORT, part
from tests.strategies import ANATOMY, MODEL, case

FERRY = demo_sheets(ANATOMY)["night-ferry"]
RULES = MODEL.rules_of(FERRY)


def made(name: str, build: Build = FERRY) -> MadePart:
    return made_part(name, build, MODEL.rules_of(build))


@pytest.mark.parametrize("name", ["holder", "spacer:0", "dial", "dial-adapter", "press-support"])
def test_a_part_begun_from_a_watch_can_be_made_and_is_what_it_proposes(name: str) -> None:
    bare = FERRY
    for key in ("holder", "dial"):
        bare = bare.without(key) if key == made(name).kind.part else bare
    begun = made(name, made(name, bare).begun())
    assert begun.solid() is not None
    for path, found in begun.proposals().items():
        known = begun.build.dimensions.get(path)
        assert known is None or known.value == pytest.approx(float(found.value), abs=1e-3), path
        assert found.because


def test_a_holder_as_the_watch_proposes_it_is_clear_of_every_limit() -> None:
    with_spacer = made("spacer:0", made("spacer:0").begun()).build
    build = with_spacer
    for path, found in made("holder", build).proposals().items():
        build = build.with_entry(path, found.entry(build))
    report = report_on(build, MODEL.rules_of(build))
    fits = ("holder_in_case", "holder_on_movement", "holder_in_back", "holder_tabs")
    assert {name: report.findings[name].verdict for name in fits} == dict.fromkeys(fits, Verdict.CLEAR)
    # A ring that nobody has measured is known to five hundredths: its middle is right, its ends may miss.
    assert report.findings["stem_height"].verdict is Verdict.TIGHT
    assert report.findings["stem_height"].value == pytest.approx(0.0, abs=0.01)
    low, high = report.findings["holder_clamp"].limits.low, report.findings["holder_clamp"].limits.high
    assert report.findings["holder_clamp"].value == pytest.approx(((low or 0) + (high or 0)) / 2, abs=0.01)


@pytest.mark.parametrize("kind", [kind for kind in MADE if kind.solid], ids=lambda kind: kind.key)
def test_every_feature_goes_on_and_off_again_and_leaves_nothing(kind: object) -> None:
    name = f"{kind.key}:0" if kind.is_many else kind.key  # type: ignore[attr-defined]  # a kind
    begun = made(name, made(name).begun())
    for feature in begun.kind.features:
        with_it = made(name, begun.with_feature(feature.key))
        assert with_it.has(feature)
        assert with_it.solid() is not None
        without = made(name, with_it.without_feature(feature.key))
        assert not without.has(feature)
        below = tuple(f"{begun.path}.{entry}" for entry in feature.entries)
        assert not [path for path in without.build.dimensions if path.startswith(below)]


WAYS = [  # tabs' angles from the stem, rotor's sector, steps, which goes on first
    ([75.0], 190.0, 1, (0,)),
    ([60.0, 200.0], 190.0, 1, (0, 1)),
    ([0.0, 180.0], 190.0, 3, None),
    ([0.0, 90.0, 180.0, 270.0], 350.0, 1, (0, 1, 2, 3)),
]


@pytest.mark.parametrize(("angles", "sector", "count", "first"), WAYS)
def test_the_way_over_the_rotor_is_told_step_by_step(
    angles: list[float], sector: float, count: int, first: tuple[int, ...] | None
) -> None:
    tab = FERRY.at("holder.tabs.0")
    build = FERRY.without("holder.tabs.0")
    for angle in angles:
        build = build.with_entry("holder.tabs.-", {**tab, "angle": angle})
    way = way_on(build, MODEL.rules_of(build).changed("rotor_sector", sector))
    assert way is not None
    assert len(way.steps) == count
    if first is not None:
        assert way.steps[0].going == first
    else:
        assert {*way.steps[0].going, *way.steps[2].going} == set(range(len(angles)))
        assert way.steps[1].on_already == way.steps[0].going
    if count == 1 and sector < 350:  # the weight points across from the tabs
        away = [abs((way.steps[0].rotor - angle + 180) % 360 - 180) for angle in angles]
        assert min(away) >= sector / 2 - 1e-9


def test_both_sides_of_a_spacer_tell_what_the_hands_lose_and_what_is_seen() -> None:
    build = made("spacer:0").begun()
    dial, movement = both_sides(report_on(build, MODEL.rules_of(build)), "spacers.0")
    assert (dial.is_here, movement.is_here) == (True, False)
    assert dial.report.findings["stem_height"].value == movement.report.findings["stem_height"].value
    assert movement.report.findings["hand_stack"].verdict is Verdict.CLASH
    assert dial.report.findings["hand_stack"].verdict is not Verdict.CLASH
    assert "Hidden behind" in movement.seen
    assert "0.74" in movement.hands


def blanks(**counts: int) -> tuple[Blank, ...]:
    """So many blanks in each state, numbered on."""
    states = [state for state, count in counts.items() for _ in range(count)]
    return tuple(
        Blank(id=number, number=number, state=cast("BlankState", state))
        for number, state in enumerate(states, 1)
    )


def test_a_batch_counts_its_blanks_and_says_why_they_were_spoilt_and_what_to_order() -> None:
    spoilt = [("cut", "window too wide"), ("cut", "window too wide"), ("second coat", "dust"), ("", "")]
    told = [
        Blank(id=9 + k, number=9 + k, state="spoilt", spoilt_at=stage, why=why)
        for k, (stage, why) in enumerate(spoilt)
    ]
    batch = Batch(1, "Blanks", 3, (*blanks(good=2, test=1, work=1), *told))
    assert [batch.count(state) for state in BLANK_STATES] == [1, 2, 1, 4]
    assert batch.bought == 8
    assert batch.lessons == (("cut: window too wide", 2), ("second coat: dust", 1), ("no reason told", 1))
    # One more good one, after 2 good and 3 spoilt: P(none of n) = B(3, 4 + n)/B(3, 4), by hand for n = 4 and 5.
    assert chance_of(1, 4, 2, 3) == pytest.approx(1 - (4 * 5 * 6 * 7) / (7 * 8 * 9 * 10))
    assert chance_of(1, 5, 2, 3) == pytest.approx(1 - (4 * 5 * 6 * 7 * 8) / (7 * 8 * 9 * 10 * 11))
    assert [chance_of(1, 3, 2, 3), chance_of(1, 4, 2, 3)] == pytest.approx([0.7619, 0.8333], abs=1e-4)
    assert math.isclose(chance_of(0, 7, 1, 1), 1.0)


@pytest.mark.parametrize(
    ("wanted", "counts", "order"),
    [
        (3, {"good": 2, "spoilt": 3, "work": 1}, 3),  # four tries in all reach it, and one is in work
        (2, {"good": 2, "spoilt": 3}, 0),
        (3, {"good": 2, "spoilt": 3, "work": 4}, 0),
        (3, {"good": 2, "spoilt": 3, "test": 4}, 4),  # a test piece is no try
        (1, {}, 4),  # any share as likely as any other: n of n + 1 chances
    ],
)
def test_how_many_more_to_order_counts_what_is_in_work(
    wanted: int, counts: dict[str, int], order: int
) -> None:
    batch = Batch(1, "Blanks", wanted, blanks(**counts))
    assert batch.next_order == order
    lacking, tried = wanted - batch.count("good"), batch.count("work")
    chances = [
        1 - _fewer(lacking, tried + n, batch.count("good"), batch.count("spoilt")) for n in range(order + 1)
    ]
    assert chances[-1] >= 0.8
    assert order == 0 or chances[-2] < 0.8


def _fewer(lacking: int, tried: int, good: int, spoilt: int) -> float:
    """The chance of fewer than that, by the urn that returns each ball with one more of its kind."""
    odds = {0: 1.0}
    for drawn in range(tried):
        after: dict[int, float] = {}
        for found, chance in odds.items():
            share = (1 + good + found) / (2 + good + spoilt + drawn)
            after[found + 1] = after.get(found + 1, 0.0) + chance * share
            after[found] = after.get(found, 0.0) + chance * (1 - share)
        odds = after
    return sum(chance for found, chance in odds.items() if found < lacking)


def test_a_printer_is_asked_for_what_makes_the_wanted_size_come_out() -> None:
    by = PrintedBy("P", "M")
    pairs = [PrinterPair("P", "M", "outer", n, n + 0.05) for n in (20.0, 25.0, 29.0)]
    found = {size.measure.path: size for size in compensated(made("holder"), pairs, by)}
    assert found["holder.outer_diameter"].nominal == pytest.approx(29.10)
    assert found["holder.outer_diameter"].differs
    assert not found["holder.inner_diameter"].differs, "nothing is known of its inner edges"
    assert asked_of(found.values(), corrected=False)["holder.outer_diameter"].nominal == 29.15
    assert asked_of(found.values(), corrected=True)["holder.outer_diameter"].nominal == pytest.approx(29.10)


def test_words_for_a_turner_say_diameter_with_every_diameter() -> None:
    lines = order_lines(part("press-support", SUPPORT), 2)
    told = "\n".join(lines).replace("\u00a0", " ")
    assert "2 pieces, aluminium" in told
    assert "round bar Ø 43 mm or more" in told
    for size in ("42.10", "36.10", "28.00", "5.00"):
        assert f"Ø {size}" in told, size
    assert "Thread for the press: M6" in told
    assert "radius" not in told.lower()


def test_a_turner_is_asked_for_what_the_limits_leave_when_all_else_is_at_its_worst() -> None:
    """Night Ferry, by hand: bore 29.30 ± 0.02 within 0.02 … 0.30, movement 27.00 ± 0.02 within 0 … 0.20."""
    found = allowances(made("holder"))
    inner, outer = found["holder.inner_diameter"], found["holder.outer_diameter"]
    assert [inner.minus, inner.plus] == pytest.approx([0.06, 0.10])
    assert outer == Allowance(0.10, 0.10), "0.11 and 0.13 would fit; nobody is asked for less care than 0.10"
    assert (
        size_words(made("holder").measures()[1], inner).replace("\u00a0", " ")
        == "Inner: Ø 27.08 +0.10 −0.06 mm"
    )


def test_what_stands_in_a_sheet_is_made_by_its_name() -> None:
    names = {
        path: made_name(path) for path in ("holder", "spacers.1", "spacers", "dial", "crown", "dial.feet")
    }
    assert names == {
        "holder": "holder", "spacers.1": "spacer:1", "spacers": "", "dial": "dial", "crown": "", "dial.feet": "",
    }  # fmt: skip


@pytest.mark.parametrize(("number", "holes"), [(6, 2), (5, 2)])
def test_holes_are_drilled_for_the_feet_that_pair_or_for_all(number: int, holes: int) -> None:
    """Case 6 keeps two of its four feet; in case 5, where the crown is another, none pairs and all are drilled."""
    build = Build(case(number)["build"], ANATOMY)
    drawing = drawing_of(made("drilling-sheet", build))
    drilled = [
        edge for edge in drawing.views[0].edges if isinstance(edge, CircleEdge) and edge.layer == "HOLE"
    ]
    assert len(drilled) == holes
    assert sum("between centres" in line for line in drawing.told) == holes * (holes - 1) // 2
    feet = [build.dimensions[f"dial.feet.{k}.diameter"].value for k in range(build.count("dial.feet"))]
    assert {round(2 * edge.radius - foot, 6) for edge, foot in zip(drilled, feet, strict=False)} == {0.1}


@pytest.mark.parametrize("outer", [12.25, 12.3, 12.45, 12.6, 12.75, 12.9])
def test_a_small_foot_is_a_circle_though_a_large_one_passes_through_its_place(outer: float) -> None:
    """A window's rim drawn on as a whole circle crosses the feet: none of their facets is taken for its own."""
    build = Build(case(6)["build"], ANATOMY)
    feet = [{"radius": 12.6, "angle": angle, "diameter": 0.6, "length": 1.2} for angle in (20, 110, 200, 290)]
    window = {"shape": "arc", "inner_radius": 8.0, "outer_radius": outer, "from": 40, "to": 90}
    build = build.with_entry("dial.feet", feet).with_entry("dial.cutouts", [window])
    back = drawing_of(made_part("dial", build, MODEL.rules_of(build))).views[1]
    found = [edge for edge in back.edges if isinstance(edge, CircleEdge) and math.isclose(edge.radius, 0.3)]
    assert len(found) == 4
