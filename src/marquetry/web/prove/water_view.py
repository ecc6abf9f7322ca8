"""Water: the curve of a dry test while it grows and after it, what it means, where to look when it leaks."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from marquetry.core.proving.pressure import Hold, hold
from marquetry.core.proving.pressure_words import CAUTION, METHODS, PLACES, SAID, WHERE, hold_words
from marquetry.core.proving.record import Proof
from marquetry.core.proving.told import proof_told
from marquetry.devices.chamber import LOSSES
from marquetry.drawing.proving.give_curve import give_curve
from marquetry.drawing.scene import Scene
from marquetry.formats.pressure_csv import read_series
from marquetry.store import proofs
from marquetry.web.prove.view import ProvePage, day_of
from marquetry.web.watch.visit import Visit


@dataclass(frozen=True, slots=True)
class Held:
    """A series and the verdict on it, as the page shows them."""

    scene: Scene
    found: Hold
    words: Sequence[str]

    @property
    def leaks(self) -> bool:
        """Whether there is somewhere to look."""
        return self.found.verdict == "leak"

    @property
    def look(self) -> str:
        """The look of the verdict."""
        looks = {"tight": "proof-passed", "leak": "proof-failed", "short": "proof-begun"}
        return looks.get(self.found.verdict, "proof-unsure")

    @property
    def word(self) -> str:
        """The verdict in a word."""
        return SAID[self.found.verdict].partition(":")[0]


def held_of(raw: bytes) -> Held:
    """The verdict on a file. SheetError, naming the line, where it is no series."""
    readings = read_series(raw)
    found = hold(readings)
    return Held(give_curve(readings, found), found, hold_words(found))


@dataclass(frozen=True)
class WaterPage:
    """The page of the dry test."""

    page: ProvePage
    last_proof: Proof | None
    last_series: str
    template: str = "dry"

    @cached_property
    def last(self) -> Held | None:
        """The newest test that counts, with its curve."""
        return held_of(self.last_series.encode()) if self.last_series else None

    @property
    def last_told(self) -> str:
        """When and by whom it was made."""
        proof = self.last_proof
        if proof is None:
            return ""
        return ", ".join(filter(None, (day_of(proof.at_ms), proof.means, proof.by)))

    @property
    def empty(self) -> Scene:
        """The frame in which a curve will grow."""
        return give_curve((), None)

    @property
    def where(self) -> Sequence[tuple[str, str]]:
        """Where to look when it leaks."""
        return WHERE

    @property
    def caution(self) -> str:
        """What has to be said beside every test."""
        return CAUTION

    @property
    def methods(self) -> Mapping[str, str]:
        """How a test may have been made whose outcome is typed."""
        return METHODS

    @property
    def places(self) -> Sequence[str]:
        """Where a case may be seen to leak."""
        return PLACES

    @property
    def last_words(self) -> str:
        """What the newest test said, where it has no series."""
        return proof_told(self.last_proof) if self.last_proof and not self.last_series else ""

    @property
    def leaks(self) -> bool:
        """Whether the newest test says that there is somewhere to look."""
        return self.last_proof is not None and self.last_proof.verdict == "failed"

    @property
    def cases(self) -> Mapping[str, str]:
        """What the stand-in's case may do."""
        return {str(case): "sound" if case == "sound" else f"leaks at the {case}" for case in LOSSES}

    @property
    def may_be_wet(self) -> bool:
        """Whether a wet test may follow: only after a dry one that passed."""
        tests = self.page.ready.dry_tests
        return bool(tests) and tests[-1].verdict == "passed"

    @property
    def by(self) -> str:
        """Who tested last, so that it is not typed twice."""
        named = [proof.by for proof in self.page.ready.standing if proof.by]
        return named[-1] if named else ""


def water_page(page: ProvePage, visit: Visit) -> WaterPage:
    """The page with the newest test."""
    decides = page.ready.dry_tests or page.ready.counting(page.ready.test("dry"))
    last = decides[-1] if decides else None
    is_series = last is not None and bool(last.id) and not last.result.get("typed")
    series = proofs.series_of(visit.connection, visit.stored.id, last.id) if last and is_series else ""
    return WaterPage(page, last, series)
