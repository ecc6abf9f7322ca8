"""`marquetry pressed`: the gaps of hands as they were pressed, and what to do."""

import argparse
import json
import math
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.bench.pressed import Pressed, pressed, ways_out
from marquetry.core.fit.model import usual_model
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.core.values.figures import figure
from marquetry.formats import build_sheet
from marquetry.formats.step_list import pressed_document


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("pressed", help="the gaps of hands as they were pressed")
    parser.add_argument("file", type=Path, metavar="SHEET", help="a build sheet")
    parser.add_argument(
        "--heights", required=True, metavar="HAND=MM,…", help="blades' undersides above the dial's top"
    )
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Work the gaps out and print them."""
    found = read_or_tell(options.file, lambda raw: _pressed(raw, options.heights))
    if found is None:
        return UNREADABLE
    say(json.dumps(pressed_document(found), ensure_ascii=False, indent=1) if options.json else _told(found))
    return NO_CLASH


def _pressed(raw: bytes, words: str) -> Pressed:
    model = usual_model()
    build = build_sheet.loads(raw, model.anatomy)
    return pressed(build, model.rules_of(build), heights_of(words))


def heights_of(words: str) -> dict[str, float]:
    """`hour=0.55,minute=1.20` as heights in mm by hand. SheetError or DimensionError where it is none."""
    found: dict[str, float] = {}
    for pair in filter(None, (part.strip() for part in words.split(","))):
        hand, is_pair, height = pair.partition("=")
        if not is_pair or hand.strip() in found:
            raise SheetError("--heights", "each hand once, as hour=0.55,minute=1.20", f"“{pair[:40]}”")
        found[hand.strip()] = _height(hand.strip(), height)
    if not found:
        raise SheetError("--heights", "at least one hand, as hour=0.55")
    return found


def _height(hand: str, typed: str) -> float:
    """A height as a program writes it, with all its digits, or as a builder does."""
    try:
        found = float(typed)
    except ValueError:
        return parse_figure(hand, typed, "mm")
    if not math.isfinite(found):
        raise DimensionError(hand, typed[:40], "", "a number in mm, such as 0.80")
    return found


def _told(found: Pressed) -> str:
    lines = [
        f"{gap.verdict.value:8} {gap.words}: "
        + (f"{figure(gap.gap, 2, 'mm')}, " if gap.gap is not None else "")
        + f"spare {figure(gap.spare, 2, 'mm')}"
        for gap in found.gaps
    ]
    return "\n".join([found.verdict.value, *lines, *ways_out(found)])
