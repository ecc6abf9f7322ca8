"""Figures of Prove: a recording of twenty seconds analysed, its command from start to end, its pages."""

import subprocess
import sys
import time
from pathlib import Path

from starlette.testclient import TestClient

from marquetry.core.proving.sound.recording import recording_of
from marquetry.core.proving.sound.timing import timing
from marquetry.formats.wav import wav_bytes
from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.proving.ticking import ticking
from tests.strategies import MODEL

SECONDS = 20.0


def bench_proofs(database: Path) -> None:
    """Core, the command, pages; the sample rates of a phone's file, of a sound card, and the highest."""
    for hertz in (22_050, 48_000, 192_000):
        sound = recording_of(ticking(hertz=hertz, seconds=SECONDS), hertz)
        tell(f"timing_20_s_at_{hertz}_hz", median_ms(lambda sound=sound: timing(sound)), "ms", bar=1000.0)  # type: ignore[misc]  # a default of a lambda
    raw = wav_bytes(ticking(hertz=48_000, seconds=SECONDS), 48_000)
    file = database.with_name("heard.wav")
    file.write_bytes(raw)
    begun = time.perf_counter()
    command = [sys.executable, "-m", "marquetry.cli", "timing", str(file), "--json"]
    subprocess.run(command, check=True, capture_output=True)
    tell("timing_command", (time.perf_counter() - begun) * 1000.0, "ms", bar=1000.0)
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        plain = bare_client()
        nothing = median_ms(lambda: plain.get("/"))
        for name in ("", "/sound", "/meeting", "/dry", "/lume"):
            client.get(f"/watches/4/prove{name}")
            page = median_ms(lambda name=name: client.get(f"/watches/4/prove{name}"))  # type: ignore[misc]  # as above
            label = name.strip("/") or "all"
            tell(f"page_prove_{label}", page, "ms", bar=100.0, bare=nothing, times_bare=page / nothing)
