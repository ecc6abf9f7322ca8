"""What to measure next: ranked by what it settles, computed and not guessed."""

import pytest

from marquetry.core.fit.measure_next import DOUBTFUL, Proposal, measure_next
from marquetry.core.measuring.instrument import USUAL_INSTRUMENTS, Instrument, best_for
from marquetry.core.sheet.build import Build
from marquetry.core.values.verdict import Verdict
from tests.strategies import ANATOMY, case_build, report_on


def proposals(build: Build, *instruments: Instrument) -> list[Proposal]:
    return measure_next(build, report_on(build), instruments or USUAL_INSTRUMENTS)


def test_the_listed_height_settles_the_tight_stem_of_a_spaced_watch() -> None:
    """Case 03: 0.11 of doubt against 0.10, of which the depth gauge takes 0.02 off the listed height."""
    found = {proposal.path: proposal for proposal in proposals(case_build(3))}
    listed = found["movement.face_to_stem"]
    assert ("stem_height", Verdict.TIGHT, Verdict.CLEAR) in listed.settles
    assert listed.after.tol == 0.01
    assert listed.risk_after < listed.risk_before


def test_what_a_proposal_promises_is_what_the_report_says_afterwards() -> None:
    for number in (3, 4, 9):
        build = case_build(number)
        for proposal in proposals(build):
            after = proposal.after
            told = {"value": after.value, "tol": after.tol, "source": "measured"}
            report = report_on(build.with_entry(proposal.path, told))
            for check, _, verdict in proposal.settles:
                assert report.findings[check].verdict is verdict
                assert verdict not in DOUBTFUL


def test_a_missing_dimension_comes_before_a_narrower_one() -> None:
    """Case 09 lacks two dimensions, each of which alone holds up one finding."""
    build = case_build(9)
    assert {p.path for p in proposals(build)[:2]} == {"movement.face_to_stem", "movement.posts.minute.top"}
    assert all(p.before is None for p in proposals(build)[:2])


def test_nothing_is_proposed_where_nothing_is_in_doubt_or_nothing_reaches() -> None:
    assert proposals(case_build(11)) == []
    listed = {"value": 2.22, "tol": 0.2, "source": "listed"}
    doubtful = case_build(11).with_entry("movement.face_to_stem", listed)
    assert proposals(doubtful)[0].path == "movement.face_to_stem"
    assert proposals(doubtful, Instrument("Protractor", 0.1, 0.1, ("angle",))) == []
    coarse = Instrument("Ruler", 0.5, 0.5, ("depth", "worksheet", "thickness"))
    assert proposals(doubtful, coarse) == []


@pytest.mark.parametrize(
    ("path", "name"),
    [
        ("dial.thickness", "Micrometer"),
        ("case.seat_to_back_plane", "Depth gauge"),
        ("dial.feet.0.angle", "Loupe with reticle"),
        ("hands.hour.bore", "Pin gauges"),
        ("case.dial_bore", "Digital caliper"),
    ],
)
def test_the_finest_instrument_that_reaches_is_chosen(path: str, name: str) -> None:
    found = best_for(ANATOMY.quantity_at(path), USUAL_INSTRUMENTS)
    assert found is not None
    assert found.name == name


def test_with_most_dimensions_missing_it_still_says_where_to_begin() -> None:
    build = case_build(1)
    for path in (
        sorted(build.dimensions)[::4] + sorted(build.dimensions)[1::4] + sorted(build.dimensions)[2::4]
    ):
        build = build.without(path)
    assert len(build.dimensions) < 30
    found = proposals(build)
    assert len(found) > 10
    looks = {"hand_track.minute", "hand_track.seconds", "bezel_index", "disc_upright"}
    settled = [sum(name not in looks for name, _, _ in p.settles) for p in found]
    assert settled == sorted(settled, reverse=True)
