"""Hostile files for every format that a command reads: good ones, bent a little or beyond recognition.

A command may say that something does not fit (1) or cannot be read (2); anything else is a fault of ours.
"""

import contextlib
import copy
import io
import json
import random
import wave
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

from marquetry.cli import main

HERE = Path(__file__).parent
ENDINGS = {0, 1, 2}
PAIRS = "printer,material,kind,nominal,measured\nP,M,inner,27.0,26.9\nP,M,inner,20.0,19.92\nP,M,outer,9,9.1\n"
LISTING = "Dial for diver\nDiameter: 28.5 mm (1.122 in)\nThickness 0,4mm\nFeet at 3 and 9\n12.50 EUR\n"
DRY = "time_s,pressure_bar,deflection_um\n" + "".join(
    f"{t},{2 if 9 < t < 90 else 0},{t % 7}\n" for t in range(100)
)
Good = Callable[[], list[bytes]]


def _of(folder: str, key: str, most: int = 6) -> Good:
    """What worked cases hand in under a key, as files."""

    def read() -> list[bytes]:
        found = sorted((HERE / folder).glob("*.json"))[:most]
        return [json.dumps(json.loads(path.read_text("utf-8"))[key]).encode() for path in found]

    return read


def _sound() -> list[bytes]:
    """Half a second of clicks: short enough to be bent a thousand times."""
    held = io.BytesIO()
    with wave.open(held, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(8000)
        file.writeframes(b"".join((b"\x00\x70" if n % 1000 < 8 else b"\x00\x00") for n in range(4000)))
    return [held.getvalue()]


COMMANDS: tuple[tuple[tuple[str, ...], tuple[str, ...], Good], ...] = (
    (("check",), ("--json",), _of("cases", "build")),
    (("check",), (), _of("cases", "build")),
    (("steps",), ("--json",), _of("bench/steps", "build")),
    (("stem",), ("--json",), _of("bench/stem", "ledger")),
    (("pressed",), ("--heights", "hour=0.80,minute=1.48"), _of("bench/pressed", "build")),
    (("order",), ("--json",), _of("orders", "request", 1)),
    (("landed",), ("--json",), _of("orders", "request", 2)),
    (("read",), ("--json",), lambda: [LISTING.encode()]),
    (("printer",), ("--wanted", "27.1", "--kind", "inner", "--printer", "P", "--material", "M"),
     lambda: [PAIRS.encode()]),
    (("pressure",), ("--json",), lambda: [DRY.encode()]),
    (("timing",), ("--json",), _sound),
)  # fmt: skip
"""Command, what follows the file, and good files of its format."""


def hostile_files(count: int, seed: int, folder: Path, words: Sequence[str], jsons: Sequence[Any]) -> tuple[
    Counter[str], list[str]
]:  # fmt: skip
    """Hand so many files to the commands by turns; how often each ended in which way, and our faults."""
    bent = Bent(random.Random(seed), words, jsons)  # noqa: S311  # a test's dice
    ended: Counter[str] = Counter()
    faults: list[str] = []
    good = [read() for _, _, read in COMMANDS]
    file = folder / "hostile"
    for number in range(count):
        (command, more, _), samples = COMMANDS[number % len(COMMANDS)], good[number % len(COMMANDS)]
        file.write_bytes(content := bent.file(samples[number // len(COMMANDS) % len(samples)]))
        told = io.StringIO()
        try:
            with contextlib.redirect_stdout(told), contextlib.redirect_stderr(told):
                code: object = main([*command, str(file), *more])
        except SystemExit as end:
            code = end.code
        except Exception as fault:  # noqa: BLE001  # any of them is what is looked for
            code = f"{type(fault).__name__}: {fault}"
        ended[f"{command[0]} {code if code in ENDINGS else 'fault'}"] += 1
        if code not in ENDINGS or "Traceback" in told.getvalue():
            faults.append(f"{' '.join(command)} {code}: {content[:300]!r}")
    return ended, faults


class Bent:
    """Bends good files: bytes flipped, cut or doubled, cells and values of others put in their place."""

    def __init__(self, dice: random.Random, words: Sequence[str], jsons: Sequence[Any]) -> None:
        self._dice, self._words, self._jsons = dice, words, jsons

    def file(self, good: bytes) -> bytes:
        """One file made from a good one."""
        roll = self._dice.random()
        if good[:1] == b"{" and roll < 0.7:
            document = json.loads(good)
            for _ in range(self._dice.choice((1, 1, 1, 2, 4))):
                self._change(document)
            return json.dumps(document).encode()
        if roll < 0.8:
            return self._cells(good)
        return self._bytes(good)

    def _change(self, document: Any) -> None:
        """Put something else where one value stands, wherever that is; or take it out."""
        places = list(_places(document))
        holder, key = self._dice.choice(places)
        roll = self._dice.random()
        if roll < 0.15:
            del holder[key]
        elif roll < 0.3 and isinstance(holder[key], int | float):
            holder[key] = holder[key] * self._dice.choice((-1, 0, 10, 25.4, 1e-9, 1e9))
        else:
            holder[key] = copy.deepcopy(self._dice.choice((*self._jsons, *self._words)))

    def _cells(self, good: bytes) -> bytes:
        """Lines of cells, some of them another's words."""
        lines = [line.split(b",") for line in good.split(b"\n")]
        for _ in range(self._dice.randint(1, 5)):
            line = self._dice.choice(lines)
            line[self._dice.randrange(len(line))] = self._dice.choice(self._words).encode("utf-8", "replace")
        return b"\n".join(b",".join(line) for line in lines)

    def _bytes(self, good: bytes) -> bytes:
        held = bytearray(good)
        for _ in range(self._dice.randint(1, 20)):
            place = self._dice.randrange(len(held) + 1)
            roll = self._dice.random()
            if roll < 0.6:
                held[place : place + 1] = self._dice.randbytes(1)
            elif roll < 0.8:
                del held[place : place + self._dice.randint(1, 400)]
            else:
                held[place:place] = held[: self._dice.randint(0, 400)]
        return bytes(held)


def _places(node: Any) -> Iterator[tuple[Any, Any]]:
    """Every place of a document where a value stands: what holds it, and by which key."""
    inner = list(node.items()) if isinstance(node, dict) else list(enumerate(node))
    for key, value in inner:
        yield node, key
        if isinstance(value, dict | list) and value:
            yield from _places(value)
