"""What the Finder's forms ask for, and its answers as the pages show them."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal
from urllib.parse import urlencode

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.finder.candidates import Candidate, Slot, spacer_candidates, without_feet
from marquetry.core.finder.misses import Miss
from marquetry.core.finder.pairs import PAIRS
from marquetry.core.finder.search import Filling
from marquetry.core.fit.finding import Finding
from marquetry.core.fit.model import Model
from marquetry.core.fit.sentence import in_short
from marquetry.core.sheet.anatomy import Anatomy
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.holder import SPACERS as SPACER_PART
from marquetry.core.sheet.difference import difference
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import PART_LINK, PIECE_LINK
from marquetry.core.values.figures import figure
from marquetry.core.values.money import Money
from marquetry.core.values.verdict import Verdict
from marquetry.store.database import Connection
from marquetry.store.finder_parts import ShelfCandidate, candidates
from marquetry.store.house import rule_values
from marquetry.store.terms_of_trade import trade_terms
from marquetry.store.watches import StoredWatch
from marquetry.web.finder.finds import Find

LONGEST_WISHES = 200
SPACERS = (0.0, 0.3, 0.6, 1.0)
Shelf = dict[tuple[str, int], ShelfCandidate]


class FinderLook(BaseModel):
    """What to look for: slots to fill, and what is accepted for it."""

    model_config = ConfigDict(extra="ignore")
    slots: Annotated[list[str], Field(max_length=40)] = []
    spacer: Annotated[float, Field(ge=0, le=2)] = 0.0
    feet: bool = False
    unmeasured: bool = False
    owned: bool = False
    other: bool = False
    """Whether the parts that are in the slots now are left out."""
    wishes: Annotated[str, Field(max_length=LONGEST_WISHES)] = ""

    def kinds(self, anatomy: Anatomy) -> list[str]:
        """The slots that there are, each once."""
        return [kind.key for kind in fillable(anatomy) if kind.key in self.slots]

    def query(self) -> str:
        """The same as an address's query."""
        return "?" + urlencode(self.model_dump(exclude_defaults=True), doseq=True)


def fillable(anatomy: Anatomy) -> tuple[Kind, ...]:
    """The kinds of which a watch has one: what may be several is made, not looked for."""
    return tuple(kind for kind in anatomy.kinds if not kind.is_many)


def shelf_slots(
    connection: Connection, watch: StoredWatch, look: FinderLook
) -> tuple[tuple[Slot, ...], Shelf]:
    """The slots with the shelf's candidates, and the candidates by kind and number."""
    shelf: Shelf = {}
    slots = []
    worth = connection.model.rules_of(watch.build, rule_values(connection)).worth
    home = trade_terms(connection).home
    for kind in look.kinds(connection.model.anatomy):
        held = candidates(connection, kind, watch.id, owned_only=look.owned)
        if look.other:
            held = [found for found in held if found.part.name != watch.build.at(f"{kind}.name")]
        shelf.update({(kind, found.number): found for found in held})
        made = [_candidate(found, look.wishes.casefold().split(), home) for found in held]
        if kind == "dial" and look.feet:
            made += [padded for candidate in made if (padded := without_feet(candidate)) is not None]
        slots.append(Slot(kind, tuple(made), worth))
    if look.spacer:
        slots.append(Slot(SPACER_PART.key, spacer_candidates(connection.model.anatomy, look.spacer)))
    return tuple(slots), shelf


RELAXED: tuple[tuple[str, dict[str, object]], ...] = (
    ("a spacer up to 0.60 mm on the dial side", {"spacer": 0.6}),
    ("a spacer up to 1.00 mm on the dial side", {"spacer": 1.0}),
    ("dials with their feet taken off, on pads", {"feet": True}),
    ("what is not measured yet", {"unmeasured": True}),
    ("what would have to be bought", {"owned": False}),
    ("the parts that are in it now", {"other": False}),
)
"""What else may be accepted, one at a time."""


def relaxations(look: FinderLook) -> list[tuple[str, FinderLook]]:
    """The looks that accept one thing more than this one, in words."""
    found = []
    for words, more in RELAXED:
        wider = look.model_copy(update=more)
        grows = wider.spacer >= look.spacer and (wider.feet or not look.feet)
        if wider != look and grows and ("feet" not in more or "dial" in look.slots):
            found.append((words, wider))
    return found


def _candidate(found: ShelfCandidate, wishes: list[str], home: str) -> Candidate:
    told = (
        found.part.name,
        found.part.in_words(),
        *found.part.face_words(),
        found.part.document.get("functions"),
    )
    words = " ".join(map(str, told)).casefold()
    missed = sum(wish not in words for wish in wishes)
    comparable = found.price is not None and found.price.currency == home
    price = found.price.minor if found.price is not None and comparable else None
    return Candidate(found.number, found.part, found.piece is not None, price, missed)


@dataclass(frozen=True, slots=True)
class MissRow:
    """One filling that does not go together: its parts, and each finding that fails with its miss."""

    parts: tuple[tuple[str, str, int, str], ...]
    fails: tuple[tuple[str, str, Verdict], ...]
    query: str


def miss_row(find: Find, missed: Miss, stored: Build) -> MissRow:
    """A near miss in words, with the trial that it is."""
    model = missed.filling.report.rules.model
    edits = json.dumps(
        difference(stored, _linked(find, missed.filling)), separators=(",", ":"), ensure_ascii=False
    )
    clashes = [(f, by) for f, by in missed.fails if f.verdict is Verdict.CLASH]
    waiting = [finding for finding, _ in missed.fails if finding.verdict is not Verdict.CLASH]
    fails = tuple((model.title(f.check), _miss_told(model, f, by), f.verdict) for f, by in clashes)
    if waiting:
        unknown = ((*f.missing, *(one.path for one in f.unsure)) for f in waiting)
        paths = dict.fromkeys(path for paths in unknown for path in paths)
        named = "; ".join([model.anatomy.label_of(path) for path in paths][:UNKNOWN_NAMED])
        more = f" and {len(paths) - UNKNOWN_NAMED} more" if len(paths) > UNKNOWN_NAMED else ""
        title = f"{len(waiting)} finding{'s' if len(waiting) > 1 else ''}"
        fails += ((title, f"not known: {named}{more}", Verdict.UNMEASURED),)
    parts = tuple(_part_told(find, kind, chosen) for kind, chosen in missed.filling.chosen.items())
    return MissRow(parts, fails, f"?{urlencode({'try': edits})}")


def _miss_told(model: Model, finding: Finding, by: float) -> str:
    check = model.check(finding.check)
    return (
        f"misses by {figure(by, check.decimals, check.unit)}"
        if finding.value is not None
        else in_short(model, finding)
    )


UNKNOWN_NAMED = 3
"""So many of what a near miss waits for are named."""
TOLD = 4
"""So many turned verdicts of a filling are told."""


@dataclass(frozen=True, slots=True)
class FoundRow:
    """One filling as the page shows it."""

    parts: tuple[tuple[str, str, int, str], ...]
    """Kind, name, number on the shelf (0 for what is to be made), and what it costs or that it is owned."""
    room: float
    tightest: str
    unit: str
    chance: float
    to_pay: str
    tights: int
    query: str
    turned: tuple[tuple[str, Verdict, Verdict], ...]

    @property
    def told(self) -> tuple[tuple[str, Verdict, Verdict], ...]:
        """The turned verdicts that the page tells."""
        return self.turned[:TOLD]

    @property
    def untold(self) -> int:
        """How many there are beyond those."""
        return len(self.turned) - len(self.told)


def found_row(find: Find, filling: Filling, stored: Build, before: Mapping[str, Verdict]) -> FoundRow:
    """A filling in words, with the trial that it is and what it turns against the watch as it is."""
    linked = _linked(find, filling)
    edits = json.dumps(difference(stored, linked), separators=(",", ":"), ensure_ascii=False)
    tightest = filling.tightest
    model = filling.report.rules.model
    check = model.check(tightest.check) if tightest else None
    turned = tuple(
        (model.title(name), before[name], finding.verdict)
        for name, finding in filling.report.findings.items()
        if before[name] is not finding.verdict
    )
    return FoundRow(
        tuple(_part_told(find, kind, chosen) for kind, chosen in filling.chosen.items()),
        tightest.margin if tightest else 0.0,
        check.title if check else "nothing that is measured",
        check.unit if check else "mm",
        filling.chance,
        _to_pay(find, filling),
        filling.report.count(Verdict.TIGHT),
        f"?{urlencode({'try': edits})}",
        turned,
    )


def _part_told(find: Find, kind: str, chosen: Candidate) -> tuple[str, str, int, str]:
    on_shelf = find.shelf.get((kind, chosen.number))
    if on_shelf is None:
        return "Spacer, dial side", chosen.part.name if not chosen.owned else "none", 0, ""
    name = f"{chosen.part.name}, feet off, on pads" if chosen.on_pads else chosen.part.name
    terms = "owned" if chosen.owned else str(on_shelf.price or "no price")
    return chosen.part.kind.label, name, chosen.number, terms


def _to_pay(find: Find, filling: Filling) -> str:
    """Sums by currency; nothing is converted."""
    sums: dict[str, int] = {}
    unknown = 0
    for kind, chosen in filling.chosen.items():
        on_shelf = find.shelf.get((kind, chosen.number))
        if on_shelf is None or chosen.owned:
            continue
        if on_shelf.price is None:
            unknown += 1
        else:
            sums[on_shelf.price.currency] = sums.get(on_shelf.price.currency, 0) + on_shelf.price.minor
    told = [str(Money(minor, currency)) for currency, minor in sums.items()]
    return " + ".join([*told, *([f"{unknown} without a price"] if unknown else [])]) or "nothing"


def _linked(find: Find, filling: Filling) -> Build:
    """The filled watch, its parts linked to the shelf so that keeping the trial moves the pieces."""
    build = filling.build
    for kind, chosen in filling.chosen.items():
        on_shelf = find.shelf.get((kind, chosen.number))
        if on_shelf is not None:
            links = {PART_LINK: on_shelf.number} | ({PIECE_LINK: on_shelf.piece} if on_shelf.piece else {})
            build = build.with_parts({kind: {**build.at(kind), **links}})
    return build


PairKey = Literal["movement-case", "dial-movement", "hands-movement", "crystal-case"]
PAIR_KEYS = tuple(f"{rows}-{columns}" for rows, columns in PAIRS)


class PairLook(BaseModel):
    """Which matrix, and how much of it."""

    model_config = ConfigDict(extra="ignore")
    kinds: PairKey = "movement-case"
    spacer: Annotated[float, Field(ge=0, le=2)] = 0.6
    owned: bool = False
    only: Literal["", "clear", "tight", "clash", "unmeasured"] = ""
    row: Annotated[int, Field(ge=1, le=1000)] = 1
    column: Annotated[int, Field(ge=1, le=1000)] = 1

    def query(self, **changed: object) -> str:
        """The same look with something changed, as an address's query."""
        now = {**self.model_dump(exclude_defaults=True), **changed}
        return "?" + urlencode({key: value for key, value in now.items() if value not in {"", None}})

    def beside(self, size: list[int], shown: int) -> list[tuple[str, str]]:
        """Words and address of each part of the matrix beside the one shown, `shown` wide and high."""
        ways = []
        for name, first, count in (("row", self.row, size[0]), ("column", self.column, size[1])):
            if first > 1:
                ways.append((f"{name.capitalize()}s before", self.query(**{name: max(first - shown, 1)})))
            if first + shown <= count:
                ways.append((f"More {name}s", self.query(**{name: first + shown})))
        return ways


def pair_slots(connection: Connection, watch_id: int, look: PairLook) -> tuple[Slot, Slot]:
    """Rows and columns from the shelf."""
    rows, columns = look.kinds.split("-")
    worth = connection.model.rules(None, rule_values(connection)).worth
    home, made = trade_terms(connection).home, []
    for kind in (rows, columns):
        held = candidates(connection, kind, watch_id, owned_only=look.owned)
        made.append(Slot(kind, tuple(_candidate(found, [], home) for found in held), worth))
    return made[0], made[1]
