"""How the demo's finished watch was proved: a crown that leaked at first, and everything passed after that.

Sound and pressure come from the stand-ins and are read as the program reads them; pictures are the demo's
own.
"""

import random
import time
from dataclasses import dataclass, field
from pathlib import Path

from marquetry.core.bench.procedure import procedure
from marquetry.core.bench.run import Run
from marquetry.core.bench.situation import Situation
from marquetry.core.fit.report import report_on
from marquetry.core.proving.angle import picture_angle
from marquetry.core.proving.asked import readiness
from marquetry.core.proving.lume_decay import lume_reading
from marquetry.core.proving.meeting import looks
from marquetry.core.proving.positions import POSITIONS
from marquetry.core.proving.pressure import hold
from marquetry.core.proving.record import Proof, ProofKind, ProofVerdict
from marquetry.core.proving.rounds import LOUPE, functions_of
from marquetry.core.proving.sound.recording import recording_of
from marquetry.core.proving.wrist import WristEntry
from marquetry.core.proving.wrist_records import wrist_result
from marquetry.core.sheet.entries import Json
from marquetry.demo.proof_pictures import CENTRE, LAMP, MARKER, PATCHES, TIPS, dark, noon, tip_of
from marquetry.devices.chamber import Chamber, ChamberCase
from marquetry.devices.watch_sound import WatchSound
from marquetry.formats.pressure_csv import hold_document, series_text
from marquetry.formats.timing_json import timing_document
from marquetry.store import bench_log, photos, proofs, watches
from marquetry.store.database import Connection
from marquetry.store.photo_light import patch_light

MINUTE_MS, HOUR_MS = 60_000, 3_600_000
BENCH = "Kittiwake Bench"
HEARD = {
    "dial_up": (5.0, 288.0), "dial_down": (7.5, 284.0), "crown_up": (-2.0, 256.0),
    "crown_right": (1.5, 259.0), "crown_down": (8.0, 252.0), "crown_left": (3.0, 255.0),
}  # fmt: skip
"""Rate in s a day and swing in degrees, by position."""
RECORDED_S, RECORDED_HZ = 8.0, 16_000
WANTED_BAR = 10.0
WORN = (
    (0.0, 0.0, "set", "worn"), (14.0, 2.3, "read", "worn"), (22.5, 4.1, "read", "dial_up"),
    (38.0, 6.2, "read", "worn"),
)  # fmt: skip
"""Hours since it was set, seconds fast, what was entered, how it was kept until then."""
RADIUS = 12


@dataclass
class Proving:
    """One watch being proved: the moment, and how many records there are."""

    connection: Connection
    database: Path
    watch_id: int
    situation: Situation
    at_ms: int
    count: int = field(default=0)

    def keep(  # noqa: PLR0913, PLR0917  # one argument a field of the record
        self,
        kind: ProofKind,
        item: str,
        verdict: ProofVerdict = "",
        words: str = "",
        means: str = "",
        result: dict[str, Json] | None = None,
        photo: int | None = None,
        series: str = "",
    ) -> None:
        """One record, two minutes after the one before."""
        self.count += 1
        self.at_ms += 2 * MINUTE_MS
        key = f"demo-proof-{self.count:04}"
        made = Proof(key, kind, item, self.at_ms, verdict, words, means, BENCH, result or {}, "", photo)
        proofs.keep_proofs(self.connection, self.watch_id, [made], series)

    def picture(self, content: bytes, caption: str) -> int:
        """Keep a picture of the proofs."""
        return photos.add_photo(self.connection, self.database, "proof", self.watch_id, content, caption)


def prove_watch(connection: Connection, database: Path, watch_id: int) -> None:
    """Everything the watch asks for, in the order in which it is asked, from an hour after it was closed."""
    build = watches.watch(connection, watch_id).build
    situation = Situation(report_on(build, connection.model.rules_of(build)))
    log = bench_log.entries_of(connection, watch_id)
    run = Run(procedure(situation), log, log[-1].at_ms)
    proving = Proving(connection, database, watch_id, situation, (run.closed_ms or log[-1].at_ms) + HOUR_MS)
    _wet_first(proving)
    _tried(proving)
    _heard(proving)
    _straight(proving)
    _faded(proving)
    _held(proving, "sound")
    _worn(proving)
    for each in LOUPE:
        proving.keep("loupe", each.key, "passed")
    ready = readiness(situation, proofs.proofs_of(connection, watch_id), run.closed_ms)
    if not ready.is_ready:
        left = [(state.test.key, state.words) for state in ready.states if state.state != "passed"]
        raise ValueError(f"the demo's finished watch is not ready: {left}")


def prove_briefly(connection: Connection, database: Path, watch_id: int, draw: random.Random) -> str:
    """Functions, rate in six positions, pressure and the loupe, once it was closed; gives the day."""
    build = watches.watch(connection, watch_id).build
    situation = Situation(report_on(build, connection.model.rules_of(build)))
    last = bench_log.entries_of(connection, watch_id)[-1].at_ms
    proving = Proving(connection, database, watch_id, situation, last + HOUR_MS)
    for each in functions_of(situation):
        proving.keep("functions", each.key, "passed")
    middle = draw.gauss(3.0, 3.0)
    for position in POSITIONS:
        result: dict[str, Json] = {
            "rate_s_per_day": round(middle + draw.gauss(0.0, 2.5), 2), "rate_u": 0.2,
            "beat_error_ms": round(abs(draw.gauss(0.2, 0.1)), 2),
            "amplitude_deg": round(draw.gauss(272.0, 10.0), 1), "lift_angle_deg": 52.0,
        }  # fmt: skip
        proving.keep("sound", position.key, means="simulated watch", result=result)
    _held(proving, "sound")
    for each in LOUPE:
        proving.keep("loupe", each.key, "passed")
    return time.strftime("%Y-%m-%d", time.gmtime(proving.at_ms / 1000))


def _wet_first(proving: Proving) -> None:
    """The first test leaked; the crown's gasket had been left dry."""
    _held(proving, "crown")
    proving.keep("opened", "back", words="Crown out, its gasket greased and seated anew.")


def _held(proving: Proving, case: ChamberCase) -> None:
    readings = list(Chamber(case, WANTED_BAR, 90.0, seed=7).readings())
    found = hold(readings)
    verdict: ProofVerdict = "passed" if found.verdict == "tight" else "failed"
    means = "chamber stand-in (simulated)"
    series = series_text(readings, [means])
    proving.keep("dry", "case", verdict, means=means, result=hold_document(found), series=series)


def _tried(proving: Proving) -> None:
    for each in functions_of(proving.situation):
        proving.keep("functions", each.key, "passed")
    for meeting in looks(proving.situation.hands):
        proving.keep("meeting", meeting.item, "passed")
    proving.keep("date", "jump", "passed", result={"jump_min": 4, "began_min": -38})


def _heard(proving: Proving) -> None:
    from marquetry.core.proving.sound.timing import timing  # noqa: PLC0415  # wanted where a demo is begun

    for position in POSITIONS:
        rate, swing = HEARD[position.key]
        watch = WatchSound(rate=rate, amplitude=swing, beat_error=0.3)
        sound = watch.recorded(RECORDED_S, RECORDED_HZ, seed=3)
        found = timing_document(timing(recording_of(sound, RECORDED_HZ)))
        means = "simulated watch"
        proving.keep("sound", position.key, means=means, result={**found, "lift_angle_deg": 52.0})


def _straight(proving: Proving) -> None:
    number = proving.picture(noon(), "angle")
    states = readiness(proving.situation, []).by_key
    for item in (item.key for item in states["angle"].items):
        tip = tip_of(item) if item in TIPS else MARKER
        angle = picture_angle(CENTRE, MARKER, tip)
        result: dict[str, Json] = {"degrees": round(angle.degrees, 4), "u_degrees": round(angle.u, 4)}
        proving.keep("angle", item, "passed", means="photograph", result=result, photo=number)


def _faded(proving: Proving) -> None:
    states = readiness(proving.situation, []).by_key
    glowing = [item.key for item in states["lume"].items] if "lume" in states else []
    for minutes in (1.0, 10.0, 60.0) if glowing else ():
        number = proving.picture(dark(minutes), "lume")
        spots = {"reference": LAMP, **{key: PATCHES[key] for key in glowing}}
        light = patch_light(proving.database, photos.photo(proving.connection, number), spots, RADIUS)
        for key in glowing:
            read = lume_reading(minutes, light[key], light["reference"])
            result: dict[str, Json] = {"minutes": minutes, "brightness": round(read.brightness, 6)}
            proving.keep("lume", key, means="photograph", result=result, photo=number)


def _worn(proving: Proving) -> None:
    begun = proving.at_ms
    for hours, offset, what, how in WORN:
        proving.at_ms = begun + round(hours * HOUR_MS)
        entry = WristEntry(proving.at_ms / 1000.0, "set" if what == "set" else "read", offset, how)
        proving.keep("wrist", "worn", result=wrist_result(entry))
