"""Figures of measuring from a picture: twelve megapixels by the command, its time and its memory."""

import resource
import subprocess
import sys
import time
from pathlib import Path

from marquetry.devices.bench_camera import BenchCamera
from marquetry.devices.bench_parts import dial_back
from tests.bench_pages import tell

FEET = ({"radius": 11.9, "angle": 40.0, "diameter": 0.75}, {"radius": 11.9, "angle": 220.0, "diameter": 0.75})


def bench_seeing(database: Path) -> None:
    """The command on a picture of a dial's back, and a command that imports nothing of it."""
    picture = database.with_name("dial.jpg")
    picture.write_bytes(BenchCamera(size=(4000, 3000), samples=1).picture(dial_back(28.5, 2.0, FEET)))
    bare = _seconds("--version")
    taken = _seconds("picture", str(picture), "--kind", "dial-back", "--json")
    tell("picture_12_megapixels", taken, "s", bar=5.0, bare=bare, times_bare=taken / bare)
    most = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    tell("picture_12_megapixels_memory", most, "MB", bar=1000.0)


def _seconds(*words: str) -> float:
    begun = time.perf_counter()
    subprocess.run([sys.executable, "-m", "marquetry.cli", *words], check=True, capture_output=True)
    return time.perf_counter() - begun
