"""Checks of what was wished for: how high, how wide, how long, and what the movement is to do."""

from marquetry.core.fit.checks.check import Span, Words
from marquetry.core.fit.checks.formula import FormulaCheck
from marquetry.core.fit.checks.words import Issues, Said, WordsCheck, by_gravity
from marquetry.core.fit.levels import watch_height
from marquetry.core.fit.trace import Trace
from marquetry.core.sheet.described.words import told_function
from marquetry.core.values.limits import Limits
from marquetry.core.values.number import Number

HEIGHT, DIAMETER, SPAN = "max_height_mm", "max_diameter_mm", "max_lug_to_lug_mm"


def height_wish(r: Trace) -> Number | None:
    """How much lower the watch is than wished at most, mm."""
    wish = r.target(HEIGHT)
    if wish is None or not r.wants("case", "case_back", "crystal"):
        return None
    return wish - watch_height(r)


def diameter_wish(r: Trace) -> Number | None:
    """How much narrower the case is than wished at most, mm."""
    wish = r.target(DIAMETER)
    return None if wish is None else wish - r["case.diameter"]


def span_wish(r: Trace) -> Number | None:
    """How much shorter the case is from lug to lug than wished at most, mm."""
    wish = r.target(SPAN)
    return None if wish is None else wish - r["case.lug_to_lug"]


def functions_wished(r: Trace) -> Said | None:
    """`functions_wish`: a clash for each function that is wanted and the movement does not list."""
    wanted = r.wanted_functions()
    if not wanted or not r.wants("movement"):
        return None
    listed = r.names("movement.functions")
    if not listed:
        r.lack("movement.functions")
        return None
    lacking = [name for name in wanted if name not in listed]
    told = tuple(f"Wanted, and the movement does not do it: {told_function(name)}." for name in lacking)
    return by_gravity(lacking, ()), Issues(tuple(f"wanted:{name}" for name in lacking), told)


SLIMMER = (
    "A slimmer crystal, a flatter back or a thinner movement: the Finder shows what each part would save."
)

CHECKS = (
    FormulaCheck(
        name="height_wish",
        may_be_vouched=False,
        title="Height as wished",
        limits=Limits(0.0, None),
        formula=height_wish,
        told_as="to spare",
        span=Span("z", "back_outside", "watch_top", beside="overall"),
        words=Words(
            means="How much lower the whole watch is than the most that was wished.",
            below="The watch stands higher than wished.",
            helps=(SLIMMER, "Talk the wish over before anything is ordered."),
        ),
    ),
    FormulaCheck(
        name="diameter_wish",
        may_be_vouched=False,
        title="Diameter as wished",
        limits=Limits(0.0, None),
        formula=diameter_wish,
        told_as="to spare",
        plan="across",
        words=Words(
            means="How much narrower the case is, without its crown, than the most that was wished.",
            below="The case is wider than wished.",
            helps=("A smaller case; dial, movement and crystal go with it.",),
        ),
    ),
    FormulaCheck(
        name="span_wish",
        may_be_vouched=False,
        title="Lug to lug as wished",
        limits=Limits(0.0, None),
        formula=span_wish,
        told_as="to spare",
        plan="length",
        words=Words(
            means="How much shorter the case is from lug to lug than the most that was wished.",
            below="The case is longer on the wrist than wished.",
            helps=("A case with shorter or more curved lugs.",),
        ),
    ),
    WordsCheck(
        name="functions_wish",
        may_be_vouched=False,
        title="Functions as wished",
        limits=Limits(None, None),
        says=functions_wished,
        words=Words(
            means="The movement does everything that was wished.",
            below="The movement does not do all that was wished.",
            helps=("Another movement of the same family often has the function.",),
        ),
    ),
)
