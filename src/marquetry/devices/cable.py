"""The stand-ins' cables: each reading goes to the local end that the running program holds open."""

import json
from collections.abc import Iterable, Iterator, Mapping
from urllib.parse import urlencode, urlsplit
from urllib.request import Request, urlopen

from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError
from marquetry.devices.caliper import Caliper, keys_of

SECONDS = 5.0


def send_readings(to: str, sizes: Iterable[str], seed: int | None = None) -> Iterator[tuple[float, int]]:
    """Read each true size and type the reading; give the reading and how many pages listened.

    DimensionError for a size that is none, or an address that is none of this machine; OSError where nothing
    answers there.
    """
    _check(to)
    caliper = Caliper(seed)
    for text in sizes:
        reading = caliper.read(parse_figure("size", text, "mm"))
        yield reading, _typed(to, keys_of(reading))


def send_line(to: str, line: str) -> int:
    """Send a line of a chamber as its serial line would; how many pages listened. Errors as above."""
    _check(to)
    return _posted(f"{to.rstrip('/')}/chamber/lines", {"line": line})


def _check(to: str) -> None:
    if urlsplit(to).scheme != "http" or urlsplit(to).hostname not in {"127.0.0.1", "localhost", "::1"}:
        raise DimensionError("to", to, "", "the address of this machine that Marquetry printed at its start")


def _typed(to: str, keys: str) -> int:
    return _posted(f"{to.rstrip('/')}/caliper/readings", {"keys": keys})


def _posted(address: str, fields: Mapping[str, str]) -> int:
    request = Request(address, data=urlencode(fields).encode())  # noqa: S310  # checked by who calls
    with urlopen(request, timeout=SECONDS) as answer:  # noqa: S310  # as above
        heard: int = json.load(answer)["heard"]
    return heard
