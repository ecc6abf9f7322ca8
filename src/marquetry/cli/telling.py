"""What commands print: results on standard output, refusals on standard error, never a control character."""

import errno
import os
import sqlite3
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TypeVar

from marquetry.core.values.errors import FaultsError, MarquetryError

Answer = TypeVar("Answer")
NO_CLASH, CLASH, UNREADABLE = 0, 1, 2
REASONS = {
    errno.ENOSPC: "the disk is full",
    errno.EROFS: "the disk is read-only",
    errno.EACCES: "it may not be written or read by you",
    errno.ENOENT: "there is no such file",
    errno.EISDIR: "it is a folder",
    errno.EADDRINUSE: "something answers at this port already; choose another with --port",
}
SPELLED = {code: f"\\x{code:02x}" for code in (*range(9), *range(11, 32), *range(127, 160))}
"""Control characters but tab and line feed: a name in a sheet must not move a terminal's cursor."""


def plain(words: str) -> str:
    """The words with every control character spelled out."""
    return words.translate(SPELLED)


def say(words: str) -> None:
    """Print a result."""
    print(plain(words), flush=True)


def complain(what: object, error: Exception) -> None:
    """Say on standard error what cannot be, and why, in a sentence."""
    print(plain(f"{what}: {reason(error)}"), file=sys.stderr, flush=True)


@contextmanager
def results_only() -> Iterator[None]:
    """Let what a library writes by itself go to standard error; standard output holds the result alone.

    HiGHS prints a line of its own at some programs, whatever it is told.
    """
    sys.stdout.flush()
    kept = os.dup(1)
    os.dup2(2, 1)
    try:
        yield
    finally:
        os.dup2(kept, 1)
        os.close(kept)


def read_or_tell(file: Path, work: Callable[[bytes], Answer]) -> Answer | None:
    """What the work makes of a file's bytes; None where it cannot be, which is told on standard error."""
    try:
        with results_only():
            return work(file.read_bytes())
    except FaultsError as error:
        tell_faults(error)
    except (MarquetryError, OSError) as error:
        complain(file, error)
    return None


def tell_faults(error: FaultsError) -> None:
    """Say on standard error every fault of a file, a line each, by its path."""
    print("\n".join(map(plain, str(error).splitlines())), file=sys.stderr, flush=True)


def reason(error: Exception) -> str:
    """Why something failed, told as what it is: a full disk, a locked file, a sheet that is none."""
    if isinstance(error, MarquetryError):
        return str(error)
    if isinstance(error, OSError):
        return REASONS.get(error.errno or 0, error.strerror or str(error))
    if isinstance(error, sqlite3.Error):
        return f"the database cannot be used: {error}"
    return str(error)
