"""`marquetry watch-sound`: the stand-in for a watch on a microphone, as a WAV file."""

import argparse
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, say


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("watch-sound", help="the sound of a simulated watch, as a WAV file")
    parser.add_argument("--bph", type=int, default=28_800, metavar="N", help="beats an hour")
    parser.add_argument(
        "--rate", type=float, default=0.0, metavar="S/D", help="seconds a day, + where it gains"
    )
    parser.add_argument(
        "--amplitude", type=float, default=270.0, metavar="DEG", help="how far the balance swings"
    )
    parser.add_argument("--beat-error", type=float, default=0.0, metavar="MS")
    parser.add_argument("--lift-angle", type=float, default=52.0, metavar="DEG")
    parser.add_argument("--noise-db", type=float, default=30.0, metavar="DB", help="the drop over the ground")
    parser.add_argument("--hum", type=float, default=0.0, metavar="SHARE", help="mains hum over the drop")
    parser.add_argument("--knocks", type=float, default=0.0, metavar="N", help="knocks a second")
    parser.add_argument("--lost", type=float, default=0.0, metavar="SHARE", help="beats that are not heard")
    parser.add_argument("--seconds", type=float, default=20.0, metavar="S")
    parser.add_argument("--samples", type=int, default=44_100, metavar="HZ", help="samples a second")
    parser.add_argument("--seed", type=int, metavar="N", help="the same again")
    parser.add_argument("--out", type=Path, required=True, metavar="FILE.wav")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Make the sound and write it."""
    # numpy is wanted by this command alone.
    from marquetry.devices.watch_sound import WatchSound  # noqa: PLC0415
    from marquetry.formats.wav import wav_bytes  # noqa: PLC0415

    watch = WatchSound(
        options.bph, options.rate, options.amplitude, options.beat_error, options.noise_db,
        options.lift_angle, hum=options.hum, knocks=options.knocks, lost=options.lost,
    )  # fmt: skip
    samples = watch.recorded(options.seconds, options.samples, options.seed)
    options.out.write_bytes(wav_bytes(samples, options.samples))
    say(f"{options.out}: {options.seconds:g} s of {options.bph} beats an hour")
    return NO_CLASH
