"""What a watch's parts ask to be proved, each described once: what of it, and how its records are judged."""

from collections.abc import Sequence

from marquetry.core.bench.situation import Situation
from marquetry.core.face.dress import Dress
from marquetry.core.proving.lume_decay import LumeReading, lume_decay, together
from marquetry.core.proving.lume_records import lume_readings
from marquetry.core.proving.meeting import looks
from marquetry.core.proving.positions import POSITIONS, PositionTiming, RateRound, rate_round
from marquetry.core.proving.pressure_words import METRES_A_BAR
from marquetry.core.proving.ready import Item, ProofState, ProofTest, Readiness
from marquetry.core.proving.record import Proof, newest, result_number
from marquetry.core.proving.rounds import LOUPE, functions_of
from marquetry.core.proving.wrist import WORN_H, WristStretch, stretches
from marquetry.core.proving.wrist_records import wrist_entry
from marquetry.core.values.figures import figure

SOONEST_U = 20.0
"""A rate in s a day with more standard uncertainty than this says nothing yet."""


def _functions(s: Situation) -> Sequence[Item]:
    return [Item(each.key, each.label) for each in functions_of(s)] if s.has("movement") else []


def _positions(s: Situation) -> Sequence[Item]:
    """A battery movement has no beat to be heard: it is compared with a clock, over days."""
    heard = s.has("movement") and s.drive != "battery"
    return [Item(position.key, position.label) for position in POSITIONS] if heard else []


def timings_of(records: dict[str, Proof]) -> dict[str, PositionTiming]:
    """What was heard in each position, of records by position."""
    found: dict[str, PositionTiming] = {}
    for position in POSITIONS:
        record = records.get(position.key)
        if record is None:
            continue
        rate, u, beat = (result_number(record, key) for key in ("rate_s_per_day", "rate_u", "beat_error_ms"))
        if rate is not None and u is not None and beat is not None:
            found[position.key] = PositionTiming(rate, u, beat, result_number(record, "amplitude_deg"))
    return found


def round_of(ready: Readiness) -> RateRound | None:
    """The six positions together, of those that count."""
    return rate_round(timings_of(newest(ready.counting(ready.test("sound")), "sound")), ready.situation.rules)


def _sound(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    heard = timings_of(newest(counting, "sound"))
    together = rate_round(heard, ready.situation.rules)
    if together is None:
        return "open", "not yet"
    words = f"{figure(together.mean, 1, 's/d', signed=True)}, spread {figure(together.spread, 1, 's/d')}"
    wrong = [each for each in together.judged if not each.holds]
    if len(heard) < len(POSITIONS):
        return "begun", f"{len(heard)} of {len(POSITIONS)}: {words}"
    return ("failed", f"{wrong[0].label} {wrong[0].value}") if wrong else ("passed", words)


def wrist_of(ready: Readiness) -> list[WristStretch]:
    """The stretches worn since the watch was closed."""
    return stretches(filter(None, map(wrist_entry, ready.counting(ready.test("wrist")))))


def _wrist(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    told = [s for s in stretches(filter(None, map(wrist_entry, counting))) if s.rate is not None]
    if not told:
        return "begun", "one reading; another tomorrow at the same time"
    last = told[-1]
    if (last.rate_u or 0.0) > SOONEST_U:
        return "begun", "too soon for a rate"
    words = f"{figure(last.rate or 0.0, 1, 's/d', signed=True)} over {figure(last.hours, 0, 'h')}"
    if last.hours < WORN_H:
        return "begun", words
    holds = ready.situation.rules.band("rate").admit(last.rate or 0.0)
    return ("passed" if holds else "failed"), words


def wanted_bar(s: Situation) -> float:
    """The pressure at which the depth is tested that is wished, else claimed, in bar; 0 where none is."""
    return (s.claimed_depth or 0.0) / METRES_A_BAR


def _dry(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    del counting
    if not ready.dry_tests:
        return "unsure", "no damp seen; no pressure was put on"
    last = ready.dry_tests[-1]
    held = result_number(last, "held_bar") or 0.0
    words = f"{last.result.get('verdict', '')} at {figure(held, 1, 'bar')}"
    if last.verdict == "passed" and held < 0.98 * wanted_bar(ready.situation):
        return "unsure", f"{words}; {figure(wanted_bar(ready.situation), 1, 'bar')} wanted"
    return last.verdict or "unsure", words


def _meetings(s: Situation) -> Sequence[Item]:
    return [Item(each.item, each.clock) for each in looks(s.hands)]


def _date(s: Situation) -> Sequence[Item]:
    return [Item("jump", "Date's jump")] if "date" in s.names("movement.functions") and s.windows else []


def _turned(s: Situation) -> Sequence[Item]:
    found = [
        Item(hand, f"{label} hand")
        for hand, label in (("hour", "Hour"), ("minute", "Minute"), ("h24", "24-hour"))
        if hand in s.hands
    ]
    if s.has("dial"):
        found.append(Item("dial", "Dial"))
    if s.has("bezel"):
        found.append(Item("index", "Bezel's index"))
    return found


def _water(s: Situation) -> Sequence[Item]:
    return [Item("case", "Case")] if wanted_bar(s) else []


def _worn(s: Situation) -> Sequence[Item]:
    return [Item("worn", "Worn")] if s.has("movement") else []


def _loupe(s: Situation) -> Sequence[Item]:
    del s
    return [Item(each.key, each.label) for each in LOUPE]


def _glows(s: Situation) -> Sequence[Item]:
    return [Item(short, short.capitalize()) for short in Dress(s.build).glowing()]


def lume_of(ready: Readiness) -> dict[str, list[LumeReading]]:
    """Readings of what glows, by what it is, of those that count."""
    return lume_readings(ready.counting(ready.test("lume")))


def _lume(ready: Readiness, counting: Sequence[Proof]) -> tuple[ProofState, str]:
    del counting
    items = [item.key for item in _glows(ready.situation)]
    decays = {
        key: law for key, found in lume_of(ready).items() if (law := lume_decay(found)) and key in items
    }
    if len(decays) < len(items):
        return "begun", f"{len(decays)} of {len(items)} with two moments or more"
    apart = [(minutes, ratio) for minutes, ratio, passes in together(decays) if not passes]
    if apart:
        return "failed", f"{figure(apart[0][1], 1)} times apart after {figure(apart[0][0], 0, 'min')}"
    return "passed", "fade together" if len(decays) > 1 else "measured"


TESTS = (
    ProofTest("functions", "Every function", "What fails on the wrist comes back.", _functions),
    ProofTest("sound", "Running, heard", "Rate, swing and beat error in six positions.", _positions, _sound),
    ProofTest("meeting", "Hands meet", "Where one passes over another they touch.", _meetings, lasts=True),
    ProofTest("date", "Date's jump", "It tells whether it was set at midnight.", _date, lasts=True),
    ProofTest("angle", "Straight", "Hands at noon, dial, index: by a photograph.", _turned, lasts=True),
    ProofTest("lume", "In the dark", "Dial, hands and insert fade together.", _glows, _lume, lasts=True),
    ProofTest("dry", "Water, dry test", "A depth counts only for what was tested.", _water, _dry),
    ProofTest("wrist", "Worn a day", "Hands and rate are proved by wearing.", _worn, _wrist),
    ProofTest("loupe", "Under the loupe", "Dust and marks, before the client sees them.", _loupe),
)
"""In the order in which they are best done: what may send the watch back comes first."""


def readiness(
    situation: Situation,
    proofs: Sequence[Proof],
    closed_ms: int | None = None,
    *,
    is_open: bool = False,
    doubts: tuple[str, ...] = (),
) -> Readiness:
    """Where the proofs of a watch stand."""
    return Readiness(TESTS, situation, proofs, closed_ms, is_open=is_open, doubts=doubts)
