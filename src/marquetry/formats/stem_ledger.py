"""A stem's ledger as a file: what was read and cut in, what remains and what to do next out."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from marquetry.core.bench.stem import (
    USUAL_U,
    Remaining,
    StemEvent,
    StemLedger,
    StemOf,
    StemTerms,
    stem_ledger,
)
from marquetry.core.fit.model import Model
from marquetry.core.fit.rules import shown
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.formats.build_sheet import parsed

MOST_EVENTS = 10_000
SAID = ("u", "turns_short", "pitch")
"""What an event may tell beside its kind and value."""


@dataclass(frozen=True, slots=True)
class LedgerRead:
    """A ledger as the file has it, with what the sheet knows of the stem."""

    events: tuple[StemEvent, ...]
    terms: StemTerms
    of: StemOf

    def reckoned(self) -> StemLedger:
        """The ledger followed to its end."""
        return stem_ledger(self.events, self.terms, self.of)


def read_ledger(raw: bytes, model: Model) -> LedgerRead:
    """Read a ledger. SheetError, naming the place such as `events[2].value`, where it is none."""
    document = parsed(raw)
    if not isinstance(document, dict):
        raise SheetError("", "a ledger, as one JSON object")
    sheet, own = document.get("sheet"), document.get("rules") or {}
    if not isinstance(own, dict):
        raise SheetError("rules", "rules by name")
    build = Build(sheet, model.anatomy) if sheet is not None else Build.empty("no sheet", model.anatomy)
    rules = model.rules({**build.rules, **own})
    rules.check_all()
    choices = [practice.key for practice in model.schools["school_stem"].practices]
    school = document.get("school", rules.school("school_stem"))
    if school not in choices:
        raise SheetError("school", " or ".join(choices), shown(school))
    return LedgerRead(
        tuple(_events(document.get("events", []))),
        StemTerms.of(rules, school),
        StemOf() if sheet is None else StemOf.sheet(build, rules),
    )


def _events(found: Json) -> Iterator[StemEvent]:
    if not isinstance(found, list) or len(found) > MOST_EVENTS:
        raise SheetError("events", f"a list of at most {MOST_EVENTS:,} events")
    for place, event in enumerate(found):
        path = f"events[{place}]"
        if not isinstance(event, dict):
            raise SheetError(path, "an event with kind and value", shown(event))
        if not isinstance(event.get("kind"), str) or event["kind"] not in USUAL_U:
            raise SheetError(f"{path}.kind", " or ".join(USUAL_U), shown(event.get("kind")))
        value = _number(f"{path}.value", event.get("value"))
        said = {key: _number(f"{path}.{key}", event[key]) for key in SAID if event.get(key) is not None}
        try:
            yield StemEvent(event["kind"], value, **said)
        except DimensionError as error:
            raise SheetError(f"{path}.{error.field}", error.limit, shown(error.value)) from None


def _number(path: str, value: Any) -> float:  # noqa: ANN401  # whatever a file holds
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise SheetError(path, "a number", shown(value))
    try:
        return float(value)
    except OverflowError:
        raise SheetError(path, "a number") from None


def ledger_document(ledger: StemLedger) -> dict[str, Json]:
    """What the command prints."""
    now = ledger.now
    return {
        "remaining": now.r if now else None,
        "u": now.u if now else None,
        "advice": ledger.advice,
        "amount": ledger.amount,
        "chance_short": ledger.chance_short,
        "thread_left": ledger.thread_left,
        "conflict": ledger.conflict,
        "held": ledger.held is not None,
        "rows": [_row(row) for row in ledger.rows],
    }


def _row(row: Remaining | None) -> dict[str, Json]:
    return {"remaining": row.r if row else None, "u": row.u if row else None}
