"""Parts made here that do not go with the watch: each clash has a remedy that mends it, and says how."""

import pytest

from marquetry.core.remedies.offers import Remedy, offers
from marquetry.core.values.verdict import Verdict
from tests.strategies import case_build, report_on

MENDED = [
    (20, "support_rotor", "A press support whose relief is 29.05 mm wide: the rotor enters it"),
    (21, "window_seen", "Cut window 4 nearer the centre"),
    (21, "window_centre", "A dial with window 5 cut further from the centre"),
    (21, "window_h24", "A dial with window 3 cut within the disc"),
    (22, "adapter_holder", "A carrier without a skirt: its pegs or the glue centre it"),
    (22, "adapter_holder", "Holder of 28.50 mm inside, not 27.08 mm"),
    (22, "support_rotor", "A press support whose relief is 26.80 mm wide: the rotor enters it"),
    (23, "case_screws", "A case whose screws are drawn down 4.86 mm below the seat, not 4.98 mm"),
]


def remedies(number: int) -> tuple[Remedy, ...]:
    build = case_build(number)
    return offers(build, report_on(build).rules).remedies


@pytest.mark.parametrize(("number", "check", "title"), MENDED)
def test_a_clash_is_mended_by_what_is_made_otherwise(number: int, check: str, title: str) -> None:
    build = case_build(number)
    assert report_on(build).findings[check].verdict is Verdict.CLASH
    found = [remedy for remedy in remedies(number) if title in remedy.idea.title.replace("\u00a0", " ")]
    assert found, title
    for remedy in found:
        assert check in remedy.mends
        assert report_on(remedy.idea.build).findings[check].verdict is not Verdict.CLASH


@pytest.mark.parametrize(("source", "is_offered"), [("planned", True), ("measured", False)])
def test_a_ring_in_one_piece_is_offered_where_the_holder_is_made_here(source: str, is_offered: bool) -> None:  # noqa: FBT001  # pytest gives it by name
    build = case_build(4)
    if not build.has("holder"):
        build = build.with_entry("holder", case_build(1).at("holder"))
    build = build.with_entry("spacers", [])
    rim = build.dimensions["holder.face_to_rim"]
    build = build.with_entry("holder.face_to_rim", {"value": rim.value, "tol": 0.05, "source": source})
    report = report_on(build)
    assert (report.findings["stem_height"].value or 0.0) > 0.2, "a stem that is too high"
    found = [r for r in offers(build, report.rules).remedies if "dial ring in one piece" in r.idea.title]
    assert bool(found) is is_offered
    for remedy in found:
        assert "stem_height" in remedy.mends
        assert remedy.idea.build.at("holder.dial_ring") is not None


def test_a_window_of_the_date_that_is_only_drawn_comes_to_its_numeral() -> None:
    """Cut-out and date window move together, so that neither says another place."""
    planned = {"value": 110.0, "tol": 0.5, "source": "planned"}
    build = case_build(1).with_entry("dial.cutouts", [{"for": "date", "shape": "round", "angle": planned}])
    for key, value in (("at_radius", 10.3), ("diameter", 2.0)):
        build = build.with_entry(f"dial.cutouts.0.{key}", {"value": value, "tol": 0.05, "source": "planned"})
    report = report_on(build)
    assert report.findings["date_angle"].verdict is Verdict.CLASH
    found = [r for r in offers(build, report.rules).remedies if "Cut the date window at" in r.idea.title]
    assert found
    after = found[0].idea.build
    assert report_on(after).findings["date_angle"].verdict is not Verdict.CLASH
    assert after.dimensions["dial.date_window_angle"].value == after.dimensions["dial.cutouts.0.angle"].value
