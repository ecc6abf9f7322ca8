"""`marquetry timing`: rate, beat error and amplitude of a watch from a recording of its sound."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("timing", help="rate, beat error and amplitude from a recording")
    parser.add_argument("file", type=Path, metavar="FILE.wav", help="a recording, 4 s to 10 min")
    parser.add_argument(
        "--lift-angle", type=float, default=52.0, metavar="DEG", help="of the movement; 52 usually"
    )
    parser.add_argument("--beats", type=int, metavar="N", help="beats an hour, where they are known")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Analyse the recording and print what it says."""
    found = read_or_tell(options.file, lambda raw: _told(raw, options))
    if found is None:
        return UNREADABLE
    say(found)
    return NO_CLASH


def _told(raw: bytes, options: argparse.Namespace) -> str:
    # numpy's transforms are wanted by this command alone.
    from marquetry.core.proving.sound.timing import timing  # noqa: PLC0415
    from marquetry.core.proving.sound.words import timing_words  # noqa: PLC0415
    from marquetry.formats.timing_json import timing_document  # noqa: PLC0415
    from marquetry.formats.wav import read_wav  # noqa: PLC0415

    found = timing(read_wav(raw), options.lift_angle, options.beats)
    if options.json:
        return json.dumps(timing_document(found))
    return "\n".join(timing_words(found))
