"""`marquetry next`: what to try, to measure or to look at next, best first."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.fit.model import usual_model
from marquetry.core.fit.next_step import NextStep, next_steps
from marquetry.core.fit.report import Report, report_on
from marquetry.core.measuring.bench_tools import BENCH_TOOLS, bench_tools
from marquetry.core.measuring.instrument import Instrument
from marquetry.core.values.figures import figure
from marquetry.formats import build_sheet

PICTURE = "picture"


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("next", help="what to try or to measure next, best first")
    parser.add_argument("file", type=Path, metavar="SHEET", help="a build sheet")
    parser.add_argument(
        "--with",
        dest="tools",
        metavar="TOOLS",
        help="the instruments there are, such as caliper,micrometer,depth rod,pin gauges,loupe,picture",
    )
    parser.add_argument("--json", action="store_true", help="print one JSON array")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """List what is worth doing."""
    found = read_or_tell(options.file, lambda raw: _next(raw, options.tools))
    if found is None:
        return UNREADABLE
    report, steps = found
    if options.json:
        say(json.dumps([step.as_dict() for step in steps], ensure_ascii=False, indent=1))
    else:
        doubt = figure(report.standing.doubt)
        say(
            "\n".join(_line(report, step) for step in steps)
            or f"Nothing more is worth it: doubt left {doubt}."
        )
    return NO_CLASH


def _next(raw: bytes, names: str | None) -> tuple[Report, list[NextStep]]:
    model = usual_model()
    tools: tuple[Instrument, ...] = tuple(tool for tool in BENCH_TOOLS if tool.name != PICTURE)
    tools = tools if names is None else bench_tools(names)
    build = build_sheet.loads(raw, model.anatomy)
    report = report_on(build, model.rules_of(build))
    return report, next_steps(report, tools)


def _line(report: Report, step: NextStep) -> str:
    model = report.rules.model
    what = (
        f"Try: {model.dry_fit_by_key[step.key].title}"
        if step.kind == "trial"
        else f"{'Measure' if step.kind == 'reading' else 'Choose'}: {model.anatomy.label_of(step.key)}"
    )
    with_ = f", {step.instrument}" if step.instrument else ""
    settles = "; ".join(model.title(name) for name in step.settles)
    doubt = f"doubt then {figure(step.doubt)}; {settles}"
    return f"{figure(step.minutes, 1):>5} min  {what}{with_}\n           {doubt}"
