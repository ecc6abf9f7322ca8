"""`marquetry steps`: the steps of a watch at the bench, in the workshop's order."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.bench.procedure import Procedure, WatchStep, procedure
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.model import usual_model
from marquetry.core.fit.report import report_on
from marquetry.core.values.errors import SheetError
from marquetry.core.values.figures import figure
from marquetry.formats import build_sheet
from marquetry.formats.step_list import steps_document


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("steps", help="the steps of a watch, in the workshop's order")
    parser.add_argument("file", type=Path, metavar="SHEET", help="a build sheet")
    parser.add_argument(
        "--school",
        action="append",
        default=[],
        metavar="KEY=CHOICE",
        help="a school for this once; repeatable",
    )
    parser.add_argument("--json", action="store_true", help="print one JSON array")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """List the steps."""
    found = read_or_tell(options.file, lambda raw: _steps(raw, options.school))
    if found is None:
        return UNREADABLE
    say(json.dumps(steps_document(found), ensure_ascii=False, indent=1) if options.json else _told(found))
    return NO_CLASH


def _steps(raw: bytes, chosen: list[str]) -> Procedure:
    model = usual_model()
    build = build_sheet.loads(raw, model.anatomy)
    rules = model.rules_of(build)
    rules.check_all()
    for words in chosen:
        key, _, choice = words.partition("=")
        if key not in model.schools:
            raise SheetError("--school", f"one of {', '.join(model.schools)}", f"“{key[:40]}”")
        rules = rules.changed(key, choice)
        rules.school(key)
    return procedure(Situation(report_on(build, rules)))


def _told(found: Procedure) -> str:
    return "\n".join(_line(place, step) for place, step in enumerate(found.steps, 1))


def _line(place: int, step: WatchStep) -> str:
    shim = "" if step.shim_mm is None else f", shim {figure(step.shim_mm, 2, 'mm')}"
    gates = f" [waits for {', '.join(step.gates)}]" if step.gates else ""
    lines = [f"{place:3} {step.title}{shim}{gates}", f"    {step.how}"]
    return "\n".join([*lines, *([f"    Caution: {step.caution}"] if step.caution else [])])
