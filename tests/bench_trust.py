"""The trust run: a stranger's watch begun from sellers' texts, carried on by what Next proposes.

Each kit has the truth behind it. A dry fit shows what the truth says of the checks it settles, a reading the
true size, a word the true word. Until nothing more is worth it, or the watch is given up. Counted: clashes
that are none (false alarms), true clashes that were not found, and how many actions it took.
"""

import json
import statistics
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from marquetry.core.evidence.follow import followed
from marquetry.core.fit.model import Model, usual_model
from marquetry.core.fit.next_step import NextStep, next_steps
from marquetry.core.fit.report import Report, report_on
from marquetry.core.measuring.begun import begun
from marquetry.core.measuring.bench_tools import BENCH_TOOLS
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.families import ready_family, usual_watch
from marquetry.core.values.verdict import Verdict
from tests.bench_pages import tell

KITS = Path(__file__).parent / "evidence" / "kits"
MOST_ACTIONS = 80


@dataclass(frozen=True, slots=True)
class Walk:
    """One watch carried to its end."""

    title: str
    actions: int
    false_alarms: tuple[str, ...]
    ever_alarmed: tuple[str, ...]
    missed: tuple[str, ...]
    clashes: tuple[str, ...]
    doubt: float


def walk(kit: dict[str, Any], model: Model) -> Walk:
    """Carry one kit on until Next has nothing more."""
    truth = report_on(Build(kit["truth"], model.anatomy), model.rules())
    build = begun(usual_watch(ready_family(kit["family"]), model.anatomy), kit["listings"])
    build = build.with_statement("together", kit["together"])
    build = build.with_target(kit["truth"]["target"])
    tools = tuple(tool for tool in BENCH_TOOLS if tool.name != "picture")
    alarmed: set[str] = set()
    actions = 0
    while actions < MOST_ACTIONS:
        report = report_on(build, model.rules_of(build))
        alarmed |= set(_false(report, truth))
        steps = next_steps(report, tools)
        step = next((s for s in steps if _is_possible(s, truth)), None)
        if step is None:
            break
        build = followed(_done(step, build, truth, model))
        actions += 1
    report = report_on(build, model.rules_of(build))
    missed = [name for name in kit["clashes"] if report.findings[name].verdict is not Verdict.CLASH]
    return Walk(
        kit["title"], actions, tuple(_false(report, truth)), tuple(sorted(alarmed)), tuple(missed),
        tuple(kit["clashes"]), report.standing.doubt,
    )  # fmt: skip


def _false(report: Report, truth: Report) -> Iterator[str]:
    for name in report.named(Verdict.CLASH):
        if truth.findings[name].verdict is not Verdict.CLASH:
            yield name


def _is_possible(step: NextStep, truth: Report) -> bool:
    return step.kind == "trial" or truth.build.at(step.key) is not None


def _done(step: NextStep, build: Build, truth: Report, model: Model) -> Build:
    if step.kind == "trial":
        settles = model.dry_fit_by_key[step.key].settles
        misses = [name for name in settles if truth.findings[name].verdict is Verdict.CLASH]
        seen = {"fits": not misses, **({"misses": misses} if misses else {}), "on": "2026-12-01"}
        return build.with_statement("tried", {**(build.raw.get("tried") or {}), step.key: seen})
    value = truth.build.at(step.key)
    if step.kind == "word":
        return build.with_entry(step.key, value)
    read = {"value": value["value"], "tol": step.tol, "source": "measured"}
    return build.with_entry(step.key, read)


def bench_trust() -> None:
    """Walk every public kit and tell what came of it, a line in all."""
    model = usual_model()
    walks = [walk(json.loads(file.read_text("utf-8")), model) for file in sorted(KITS.glob("*.json"))]
    actions = sorted(found.actions for found in walks)
    tell(
        "trust run, median actions",
        statistics.median(actions),
        "actions",
        watches=len(walks),
        with_false_alarms=sum(bool(found.false_alarms) for found in walks),
        with_alarms_by_listed=sum(bool(found.ever_alarmed) for found in walks),
        true_clashes=sum(len(found.clashes) for found in walks),
        missed=sum(len(found.missed) for found in walks),
        p90_actions=actions[round(0.9 * (len(actions) - 1))],
    )


if __name__ == "__main__":
    bench_trust()
