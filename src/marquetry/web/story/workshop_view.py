"""What the workshop learned, as its pages show it: the years, the report's record, sellers, lessons."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from marquetry.core.bench.step import GROUP_LABELS
from marquetry.core.bench.steps import STEPS
from marquetry.core.fit.model import Model
from marquetry.core.fit.report import Report
from marquetry.core.fit.sellers import CLAIMED, LEARNED, SCHOOL_LISTED, WORTH_LABELS
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.kind import Kind
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
from marquetry.core.story.fates import WHERE_WORDS
from marquetry.core.story.times import GroupPace, MishapCost, StepPace, group_paces, paces
from marquetry.core.story.worth import FigureWorth
from marquetry.core.story.years import WatchYears, YearSum, in_years, median_days
from marquetry.core.trade.ledger import EntryKind
from marquetry.core.values.money import Money
from marquetry.drawing.scene import Scene
from marquetry.drawing.story.chance_curve import chance_curve
from marquetry.drawing.story.off_strips import Strokes, off_strips
from marquetry.drawing.story.year_planks import year_planks
from marquetry.drawing.trade.money_inlay import Strip, money_inlay
from marquetry.store import lessons, terms_of_trade, watches
from marquetry.store.database import Connection
from marquetry.store.house import rule_values
from marquetry.store.lessons import Lesson
from marquetry.store.sellers_worth import figures_worth
from marquetry.store.workshop_years import by_kind, ledgers, workshop_years
from marquetry.web.site.addresses import Address
from marquetry.web.site.today import today
from marquetry.web.story.learnt import BuildRecords, what_mishaps_cost
from marquetry.web.watch.reports import Reports

MOST_STEPS = 8
MOST_FACES = 24
NARROW = 132.0
"""Width of a plank that stands in a column, mm."""


@dataclass(frozen=True)
class YearsPage:
    """The workshop over the years."""

    picture: Scene
    watches: Sequence[WatchYears]
    years: Sequence[YearSum]
    usual_days: float | None
    time: Sequence[GroupPace]
    time_picture: Scene
    money_picture: Scene
    home: str
    faces: Mapping[int, tuple[Build, Report]]

    def sum(self, minor: int) -> Money:
        """A sum in home's currency."""
        return Money(minor, self.home)

    @property
    def where(self) -> Mapping[str, str]:
        """Where a watch is, in words."""
        return {str(key): words for key, words in WHERE_WORDS.items()}


def years_page(
    connection: Connection, records: BuildRecords, reports: Reports, address: Address
) -> YearsPage:
    """Compute the page."""
    day = today()
    books = ledgers(connection, day)
    every = workshop_years(connection, books)
    links = {watch.watch_id: str(address("story", watch_id=str(watch.watch_id))) for watch in every}
    home = terms_of_trade.trade_terms(connection).home
    takes = [record.takes for record in records.all(connection, rule_values(connection))]
    groups = group_paces(takes)
    kinds = [
        Strip(kind, label, minor, str(Money(minor, home))) for kind, label, minor in _large(by_kind(books))
    ]
    return YearsPage(
        year_planks(every, day, links),
        every,
        in_years(every),
        median_days(every),
        groups,
        _time_inlay(groups),
        money_inlay(kinds, width=NARROW),
        home,
        _faces(connection, reports, every),
    )


def _faces(
    connection: Connection, reports: Reports, listed: Sequence[WatchYears]
) -> dict[int, tuple[Build, Report]]:
    """What the newest of those that left the bench look like, by number: each is drawn once and kept."""
    gone = sorted((w for w in listed if w.ended), key=lambda w: w.ended or "", reverse=True)[:MOST_FACES]
    wanted, house = {watch.watch_id for watch in gone}, rule_values(connection)
    return {
        stored.id: (stored.build, reports.on(stored.build, connection.model.rules_of(stored.build, house)))
        for stored in watches.all_watches(connection)
        if stored.id in wanted
    }


SMALL_SHARE = 0.03


def _large(sums: Sequence[tuple[EntryKind, str, int]]) -> list[tuple[EntryKind, str, int]]:
    """What is too small to be named on the plank is laid together with what is other anyway."""
    total = sum(minor for _, _, minor in sums)
    large = [one for one in sums if one[2] >= SMALL_SHARE * total and one[0] != "other"]
    rest = total - sum(minor for _, _, minor in large)
    return [*large, ("other", "All else", rest)] if rest else large


TIME_TONES = {
    "prepare": "other", "movement": "hours", "dial": "consumable", "hands": "piece", "case": "material",
    "casing": "made", "stem": "spoilt", "close": "loss", "outside": "other", "prove": "material",
}  # fmt: skip
"""The veneers of the money's plank, lent to groups of steps."""


def _time_inlay(groups: Sequence[GroupPace]) -> Scene:
    strips = [Strip(TIME_TONES[g.group], g.label, round(g.taken), f"{g.taken / 60:.1f} h") for g in groups]
    scene = money_inlay(strips, width=NARROW)
    told = "; ".join(f"{strip.words} {strip.told}" for strip in strips)
    return Scene(scene.width, scene.height, "Where the time at the bench went", told, scene.marks)


@dataclass(frozen=True)
class RecordPage:
    """How good the report was."""

    picture: Scene
    bands: Sequence[ChanceBand]
    score: float | None
    checks: Sequence[CheckRecord]
    gaps: Sequence[tuple[GapRecord, Scene]]
    steps: Sequence[StepPace]
    time: Sequence[GroupPace]
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


def record_page(connection: Connection, records: BuildRecords) -> RecordPage:
    """Compute the page."""
    builds = records.all(connection, rule_values(connection))
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
        group_paces(takes),
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


@dataclass(frozen=True)
class LessonsPage:
    """Every lesson, by the group of steps at which it is shown, and the form of a new one."""

    groups: Sequence[tuple[str, Sequence[Lesson]]]
    outgrown: Sequence[Lesson]
    steps: Sequence[tuple[str, str]]
    kinds: Sequence[tuple[str, str]]
    schools: Sequence[tuple[str, str]]
    watches: Sequence[tuple[int, str]]
    described: Mapping[str, Kind]
    back: int = 0
    faults: Mapping[str, str] = field(default_factory=dict)
    typed: Mapping[str, str] = field(default_factory=dict)

    @property
    def titles(self) -> Mapping[str, str]:
        """Every step that a lesson may be shown at, in words."""
        return dict(self.steps)

    @property
    def turn_words(self) -> Mapping[str, str]:
        """What a later build said of a lesson, in words."""
        return {"held": "held again", "outgrown": "outgrown", "shown": "shown once more"}

    @property
    def kind_words(self) -> Mapping[str, str]:
        """Kinds of part in words."""
        return dict(self.kinds)

    @property
    def school_words(self) -> Mapping[str, str]:
        """Ways of working in words."""
        return dict(self.schools)


def step_title(step_id: str) -> str:
    """What a step is called on no watch in particular."""
    title = next((step.title for step in STEPS if step.id == step_id), step_id)
    return title if isinstance(title, str) else step_id.replace("_", " ").capitalize()


def lessons_page(
    connection: Connection,
    back: int = 0,
    faults: Mapping[str, str] | None = None,
    typed: Mapping[str, str] | None = None,
) -> LessonsPage:
    """Compute the page."""
    model, every = connection.model, lessons.lessons(connection)
    group_of = {step.id: GROUP_LABELS[step.group] for step in STEPS}
    groups: dict[str, list[Lesson]] = {label: [] for label in GROUP_LABELS.values()}
    for one in every:
        if not one.is_outgrown:
            groups.setdefault(group_of.get(one.step, "At any step"), []).append(one)
    schools = [
        (f"{school.key}={practice.key}", f"{school.label}: {practice.label.lower()}")
        for school in model.school_list
        for practice in school.practices
    ]
    names = connection.execute(
        """SELECT watch.id, json_extract(sheet, '$.name') AS name FROM watch JOIN revision
             ON revision.watch_id = watch.id AND revision.version = watch.version
            WHERE removed_at IS NULL ORDER BY watch.id DESC"""
    )
    return LessonsPage(
        [(label, ours) for label, ours in groups.items() if ours],
        [one for one in every if one.is_outgrown],
        [(step.id, step_title(step.id)) for step in STEPS],
        [(kind.key, kind.label) for kind in model.anatomy.kinds],
        schools,
        [(row["id"], row["name"]) for row in names],
        {kind.key: kind for kind in model.anatomy.kinds},
        back,
        {"words": "", **(faults or {})},
        {**dict.fromkeys(("words", "step", "kind", "school", "watch"), ""), **(typed or {})},
    )
