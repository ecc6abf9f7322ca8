"""`marquetry picture`: the sizes of a part from a picture of it on the printed card."""

import argparse
import json
from pathlib import Path
from typing import TYPE_CHECKING

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, read_or_tell, say
from marquetry.core.seeing.card import CHECK_LENGTH, PRINT_LEAST, PRINT_MOST
from marquetry.core.values.errors import DimensionError
from marquetry.core.values.figures import figure

if TYPE_CHECKING:
    from marquetry.core.seeing.measure import PictureTold, Seen

KINDS = ("dial-back", "dial-front", "movement", "hands", "ring", "plain")
LIMITS = {
    "print": (PRINT_LEAST, PRINT_MOST), "dpi": (100.0, 9600.0), "thickness": (0.0, 20.0),
    "camera": (60.0, 2000.0), "foot_length": (0.0, 5.0), "window_at": (-360.0, 360.0),
}  # fmt: skip
"""Least and most of each option, mm, dots an inch and °."""


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser("picture", help="sizes from a picture of a part on the printed card")
    parser.add_argument("image", type=Path, metavar="IMAGE")
    parser.add_argument("--kind", choices=KINDS, required=True)
    parser.add_argument("--print", type=float, metavar="MM", help="the card's line of 60 mm as printed")
    parser.add_argument(
        "--dpi", type=float, metavar="N", help="a scanner's dots an inch; then no card is looked for"
    )
    parser.add_argument(
        "--thickness", type=float, metavar="MM", help="height of the measured face above the card"
    )
    parser.add_argument("--camera", type=float, metavar="MM", help="height of the camera above the card")
    parser.add_argument(
        "--foot-length", type=float, metavar="MM", help="length of a dial's feet, 1.4 usually"
    )
    parser.add_argument("--window-at", type=float, metavar="DEG", help="where the date window is on the dial")
    parser.add_argument("--stem-at", metavar="X,Y", help="a pixel on the stem where it comes out")
    parser.add_argument("--post", choices=("hour", "h24"), default="hour", help="the outermost post")
    parser.add_argument("--out", type=Path, metavar="FILE.png", help="the picture seen square, as a PNG")
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Measure the picture and print what it came to."""
    seen = read_or_tell(options.image, lambda raw: _seen(raw, options))
    if seen is None:
        return UNREADABLE
    found, shrunk = seen
    told = found.as_dict()
    for field in told["fields"]:
        field["at"] = [round(x * shrunk, 2) for x in field["at"]]
    told["scale"]["mm_per_px"] = round(told["scale"]["mm_per_px"] / shrunk, 6)
    if options.out:
        from marquetry.formats.seen_picture import seen_png  # noqa: PLC0415  # as below

        options.out.write_bytes(seen_png(found.plane))
        told["picture"] = str(options.out)
    say(json.dumps(told, ensure_ascii=False, indent=1) if options.json else "\n".join(_lines(found)))
    return NO_CLASH


def _seen(raw: bytes, options: argparse.Namespace) -> "tuple[Seen, float]":
    # What sees takes half a second to start and is wanted by this command alone.
    from marquetry.core.seeing.measure import measure  # noqa: PLC0415
    from marquetry.formats.photograph import read_photograph  # noqa: PLC0415

    told = _told(options)
    photograph = read_photograph(raw)
    return measure(photograph.pixels, told.on(photograph.shrunk, photograph.focal)), photograph.shrunk


def _told(options: argparse.Namespace) -> "PictureTold":
    from marquetry.core.seeing.measure import FOOT_LENGTH, PictureTold  # noqa: PLC0415  # as above

    given = {name: getattr(options, name) for name in LIMITS}
    for name, value in given.items():
        least, most = LIMITS[name]
        if value is not None and not least <= value <= most:
            raise DimensionError(f"--{name.replace('_', '-')}", value, "", f"from {least:g} to {most:g}")
    length = FOOT_LENGTH if given["foot_length"] is None else given["foot_length"]
    return PictureTold(
        options.kind, printed=given["print"] or CHECK_LENGTH, dpi=given["dpi"], thickness=given["thickness"],
        camera=given["camera"], foot_length=length,
        window_at=given["window_at"], stem_at=_pixel(options.stem_at), post=options.post,
    )  # fmt: skip


def _pixel(text: str | None) -> tuple[float, float] | None:
    if text is None:
        return None
    try:
        x, y = (float(part) for part in text.split(","))
    except ValueError:
        raise DimensionError("--stem-at", f"“{text[:40]}”", "", "two pixels, X,Y") from None
    return x, y


def _lines(seen: "Seen") -> list[str]:
    lines = [
        f"{find.path:<24}{figure(find.value, 3):>9} ± {figure(find.tol, 3)} {find.unit}"
        f"{'' if find.sure else '  not sure'}"
        for find in seen.finds
    ]
    return [*lines, *(f"{ask.path}: {ask.words}" for ask in seen.asks)] or [
        "Nothing is looked for: --kind plain is for pointing at things in the browser."
    ]
