"""What has to be of one kind: thread, click, notch, functions that were wished; the other part is swapped."""

from collections.abc import Iterator

from marquetry.core.fit.checks.ring import CASE, CASE_KEY, RING, RING_KEY
from marquetry.core.fit.checks.words import Issues
from marquetry.core.fit.report import Report
from marquetry.core.remedies.idea import Idea
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.words import told_function

DUST = "Dust kept out: out of the case to file it, wash it before it goes back."


def ideas(build: Build, report: Report, check: str) -> Iterator[Idea]:
    """What can be done about two parts that are not made for each other in kind."""
    if check == "stem_thread":
        yield from _threads(build)
    if check == "bezel_click":
        yield from _clicks(build)
    if check == "ring_notch":
        yield from _notches(build)
    if check == "functions_wish":
        yield from _functions(build, report)


def _threads(build: Build) -> Iterator[Idea]:
    crown, stem = build.at("crown.thread"), build.at("stem.thread")
    if isinstance(crown, str) and isinstance(stem, str):
        yield Idea(
            "other_stem", f"A stem with thread {crown}, not {stem}", build.with_entry("stem.thread", crown), 2
        )
        yield Idea(
            "other_crown",
            f"A crown with thread {stem}, not {crown}",
            build.with_entry("crown.thread", stem),
            2,
        )


def _clicks(build: Build) -> Iterator[Idea]:
    case, bezel = build.at("case.click"), build.at("bezel.click")
    if isinstance(case, str) and isinstance(bezel, str):
        title = f"A bezel for a click of {case}, not {bezel}"
        yield Idea("other_bezel", title, build.with_entry("bezel.click", case), 3)
        title = f"The click of the bezel moved into the case: {bezel}, not {case}"
        yield Idea("other_click", title, build.with_entry("case.click", bezel), 2, undo=False)


def _notches(build: Build) -> Iterator[Idea]:
    """A ring is made to match the case's detent, or set by eye and held with tape where there is none."""
    ring, case = build.at(RING_KEY), build.at(CASE_KEY)
    if isinstance(ring, str) and isinstance(case, str):
        yield from _keys(build, ring, case)
        return
    if build.at(CASE) is True:
        title = "File a notch into the ring where the case's detent is"
        yield Idea("filed_notch", title, build.with_entry(RING, True), 2, undo=False, caution=DUST)  # noqa: FBT003  # the sheet's own value
        yield Idea("other_ring", "A ring with a notch", build.with_entry(RING, True), 3)  # noqa: FBT003
        return
    by_eye = build.with_entry(RING, False)  # noqa: FBT003
    yield Idea("taped_ring", "Set the ring by eye and hold it with a strip of tape over its notch", by_eye, 1)
    title = "File the ring's notch off and set the ring by eye"
    yield Idea("notch_off", title, by_eye, 2, undo=False, caution=DUST)
    yield Idea("other_ring", "A ring without a notch, set by eye", by_eye, 3)
    title = "A case with a detent for the ring's notch"
    yield Idea("other_case", title, build.with_entry(CASE, True), 5)  # noqa: FBT003


def _keys(build: Build, ring: str, case: str) -> Iterator[Idea]:
    """What is filed is always the ring: a case that was filed is a case that was spoilt."""
    if ring == "nib":
        title = "File the nib off the ring, set it by eye and hold it with a strip of tape"
        yield Idea("nib_off", title, build.with_entry(RING_KEY, "none"), 1, undo=False, caution=DUST)
    if case == "pin":
        title = "File a notch into the ring where the case's pin is"
        yield Idea("filed_notch", title, build.with_entry(RING_KEY, "notch"), 2, undo=False, caution=DUST)
    wanted = {"recess": "nib", "pin": "notch"}.get(case, "none")
    if wanted != ring:
        words = "without a nib or notch" if wanted == "none" else f"with a {wanted}"
        yield Idea("other_ring", f"A ring {words}", build.with_entry(RING_KEY, wanted), 3)


def _functions(build: Build, report: Report) -> Iterator[Idea]:
    detail = report.findings["functions_wish"].detail
    wanted = [issue.partition(":")[2] for issue in detail.issues] if isinstance(detail, Issues) else []
    if wanted:
        listed = [*(build.at("movement.functions") or []), *wanted]
        title = f"A movement that does {', '.join(map(told_function, wanted))} too"
        yield Idea("other_movement", title, build.with_entry("movement.functions", listed), 4)
