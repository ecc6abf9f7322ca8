"""`marquetry printer`: what to ask a printer for, so that the wanted size comes out."""

import argparse
import json
from pathlib import Path

from marquetry.cli.commands import Commands
from marquetry.cli.telling import NO_CLASH, UNREADABLE, complain, say
from marquetry.core.making.measures import MEASURE_KINDS
from marquetry.core.making.printer import printer_fit
from marquetry.core.values.errors import MarquetryError
from marquetry.core.values.figures import figure
from marquetry.formats.printer_csv import read_pairs


def add_to(commands: "Commands[argparse.ArgumentParser]") -> None:
    """Describe the command."""
    parser = commands.add_parser(
        "printer", help="what to ask a printer for, from pairs of asked and measured"
    )
    parser.add_argument("pairs", type=Path, metavar="PAIRS.csv")
    parser.add_argument("--wanted", type=float, required=True, metavar="MM")
    parser.add_argument("--kind", required=True, choices=MEASURE_KINDS)
    parser.add_argument("--printer", required=True)
    parser.add_argument("--material", required=True)
    parser.add_argument("--json", action="store_true", help="print one JSON object")
    parser.set_defaults(run=run)


def run(options: argparse.Namespace) -> int:
    """Fit the pairs and print what to ask for, with its doubt."""
    try:
        pairs = read_pairs(options.pairs.read_bytes())
        fit = printer_fit(pairs, options.printer, options.material, options.kind)
    except (MarquetryError, OSError) as error:
        complain(options.pairs, error)
        return UNREADABLE
    nominal = fit.nominal_for(options.wanted)
    doubt = fit.doubt_at(nominal)
    told = {"a": fit.a, "b": fit.b, "n": fit.n, "s": fit.s, "nominal": nominal, "u": doubt}
    words = "unknown" if doubt is None else figure(doubt, 3, "mm")
    say(
        json.dumps(told)
        if options.json
        else f"Ask for {figure(nominal, 3, 'mm')}; standard uncertainty {words}."
    )
    return NO_CLASH
