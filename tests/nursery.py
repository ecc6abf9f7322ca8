"""Servers of the tests, forked from a process that has the program loaded: each starts in a moment.

Such a server is a process of its own, with its own port and files, and is killed like any other. Tests of a
start itself (in `tests/test_reliability.py`) start the program as a builder does.
"""

import atexit
import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Sequence
from functools import cache
from importlib import import_module
from pathlib import Path

LONGEST_START_S = 60
"""A machine that does much else at once is slow; no test is about how soon a server starts."""
LOADED = ("marquetry.cli.serve", "marquetry.web.site.server", "marquetry.demo.workshop")


class Nursery:
    """The process that has the program loaded; it answers one order at a time."""

    def __init__(self) -> None:
        command = [sys.executable, "-m", "tests.nursery"]
        self._process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)

    def ask(self, **order: object) -> int:
        """Hand on an order; the number it is answered with."""
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        print(json.dumps(order), file=self._process.stdin, flush=True)
        return int(self._process.stdout.readline())

    def close(self) -> None:
        self._process.communicate()


@cache
def nursery() -> Nursery:
    made = Nursery()
    atexit.register(made.close)
    return made


class Served:
    """A running command, with as much of a subprocess's face as the tests need."""

    def __init__(self, words: Sequence[str]) -> None:
        self.pid = nursery().ask(begin=list(words))
        self.has_ended = False

    def send(self, number: signal.Signals) -> None:
        if not self.has_ended:
            os.kill(self.pid, number)

    def kill(self) -> None:
        self.send(signal.SIGKILL)

    def terminate(self) -> None:
        self.send(signal.SIGTERM)

    def wait(self, seconds: float) -> None:
        """Until it has ended; TimeoutError after so long."""
        end = time.monotonic() + seconds
        while not self.has_ended:
            self.has_ended = nursery().ask(reap=self.pid) == self.pid
            if time.monotonic() > end:
                raise TimeoutError(f"the server did not end within {seconds:g} s")
            time.sleep(0.01)


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def serve(database: Path, which: str = "demo") -> tuple[Served, str]:
    """Start `marquetry demo`, or `serve` for a workshop of one's own, and wait until it answers."""
    port = free_port()
    process = Served([which, "--port", str(port), "--database", str(database)])
    address, end = f"http://127.0.0.1:{port}", time.monotonic() + LONGEST_START_S
    asked = f"{address}/static/js/keys.js"  # a page would take its own time too, a hundred times a run
    while time.monotonic() < end:
        try:
            urllib.request.urlopen(asked, timeout=5).close()  # noqa: S310  # our own address
        except OSError:
            time.sleep(0.05)
        else:
            return process, address
    process.kill()
    process.wait(10)
    raise TimeoutError(f"the server did not answer within {LONGEST_START_S} s")


def begin(words: list[str]) -> int:
    """Fork; the child runs the command and ends with its code."""
    pid = os.fork()
    if pid:
        return pid
    code = 70
    try:
        os.dup2(os.open(os.devnull, os.O_RDONLY), 0)
        os.dup2(2, 1)  # what it tells is no answer to an order
        code = import_module("marquetry.cli").main(words)
    finally:
        os._exit(code)


def main() -> None:
    for name in LOADED:
        import_module(name)
    for line in sys.stdin:
        order = json.loads(line)
        answer = begin(order["begin"]) if "begin" in order else os.waitpid(order["reap"], os.WNOHANG)[0]
        print(answer, flush=True)  # noqa: T201  # it is the answer


if __name__ == "__main__":
    main()
