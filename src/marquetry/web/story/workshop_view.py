"""How good the report was, and what sellers' figures are worth, as their pages show it."""

from collections.abc import Sequence
from dataclasses import dataclass

from marquetry.core.fit.model import Model
from marquetry.core.fit.sellers import CLAIMED, LEARNED, SCHOOL_LISTED, WORTH_LABELS
from marquetry.core.story.calibration import (
    FEW,
    ChanceBand,
    CheckRecord,
    GapRecord,
    brier,
    chance_bands,
    check_records,
    gap_records,
)
from marquetry.core.story.times import MishapCost, StepPace, paces
from marquetry.core.story.worth import FigureWorth
from marquetry.core.story.years import WatchYears
from marquetry.core.values.money import Money
from marquetry.drawing.scene import Scene
from marquetry.drawing.story.chance_curve import chance_curve
from marquetry.drawing.story.off_strips import Strokes, off_strips
from marquetry.store import terms_of_trade
from marquetry.store.database import Connection
from marquetry.store.house import rule_values
from marquetry.store.sellers_worth import figures_worth
from marquetry.store.workshop_years import ledgers, workshop_years
from marquetry.web.site.today import today
from marquetry.web.story.learnt import build_records, what_mishaps_cost

MOST_STEPS = 8


@dataclass(frozen=True)
class RecordPage:
    """How good the report was."""

    picture: Scene
    bands: Sequence[ChanceBand]
    score: float | None
    checks: Sequence[CheckRecord]
    gaps: Sequence[tuple[GapRecord, Scene]]
    steps: Sequence[StepPace]
    mishaps: Sequence[MishapCost]
    money: Sequence[WatchYears]
    model: Model
    builds: int
    home: str
    few: int = FEW

    @property
    def told(self) -> int:
        """How many things were foretold with a chance."""
        return sum(band.count for band in self.bands)

    def title(self, check: str) -> str:
        """What a builder calls the check."""
        return self.model.title(check)

    def sum(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.home)


def record_page(connection: Connection) -> RecordPage:
    """Compute the page."""
    builds = build_records(connection, rule_values(connection))
    foretold = [one for record in builds for one in record.foretold]
    takes = [record.takes for record in builds]
    bands = chance_bands(foretold)
    money = [
        w
        for w in workshop_years(connection, ledgers(connection, today()))
        if w.ended and w.quoted is not None
    ]
    return RecordPage(
        chance_curve(bands),
        bands,
        brier(foretold),
        check_records(foretold),
        [(record, _gap_strip(record)) for record in gap_records(foretold)],
        paces(takes)[:MOST_STEPS],
        what_mishaps_cost(connection),
        money,
        connection.model,
        sum(bool(record.foretold) for record in builds),
        terms_of_trade.trade_terms(connection).home,
    )


def _gap_strip(record: GapRecord) -> Scene:
    doubt = record.doubt
    mean = None if doubt is None else (record.mean - doubt, record.mean + doubt)
    return off_strips(Strokes(record.offs, mean), "mm", _round_up(max(map(abs, record.offs), default=0.0)))


def _round_up(value: float) -> float:
    """The rule's end: a tenth, or as many of them as are needed."""
    return max(0.1, -(-round(value * 1000) // 100) / 10)


@dataclass(frozen=True)
class WorthPage:
    """What sellers' figures are worth."""

    kinds: Sequence[tuple[str, Sequence[tuple[FigureWorth, Scene]]]]
    pairs: int
    in_force: bool
    school: str = SCHOOL_LISTED

    @property
    def other(self) -> str:
        """The practice that is not in force."""
        return CLAIMED if self.in_force else LEARNED


def worth_page(connection: Connection) -> WorthPage:
    """Compute the page."""
    found = figures_worth(connection)
    by_kind_of = []
    for kind, label in WORTH_LABELS.items():
        ours = [one for one in found if one.kind == kind]
        furthest = _round_up(max((abs(p.deviation) for one in ours for p in one.pairs), default=0.0))
        rows = [(one, _worth_strip(one, furthest)) for one in ours]
        if rows:
            by_kind_of.append((label, rows))
    rules = rule_values(connection)
    return WorthPage(by_kind_of, sum(one.count for one in found), rules.get(SCHOOL_LISTED) == LEARNED)


def _worth_strip(one: FigureWorth, furthest: float) -> Scene:
    bias, doubt = one.belief.mean, one.belief.mean_doubt
    claimed = max((pair.listed.tol for pair in one.pairs), default=None)
    values = [pair.deviation for pair in one.pairs]
    return off_strips(
        Strokes(values, (bias - doubt, bias + doubt), one.tolerance, claimed), one.unit, furthest
    )
