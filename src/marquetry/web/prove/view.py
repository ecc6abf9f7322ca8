"""The page of all proofs, and what the pages of single ones have in common."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cached_property

from marquetry.core.face.face import seen_face
from marquetry.core.proving.asked import wanted_bar
from marquetry.core.proving.ready import OPENED, Readiness, TestState
from marquetry.core.proving.record import Proof
from marquetry.core.proving.told import proof_told
from marquetry.core.proving.water_claim import water_claim
from marquetry.core.values.figures import figure
from marquetry.drawing.proving.proof_plate import STATE_LOOKS, STATE_TOLD, ProofNote, proof_plate
from marquetry.drawing.scene import Scene
from marquetry.store.photos import Photo, photos_of
from marquetry.store.watches import StoredWatch
from marquetry.web.prove.readiness import readiness_of
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough

MOST_TOLD = 40


@dataclass(frozen=True, slots=True)
class ProofRow:
    """A record in a history: its day, words, whether it counts, its file and picture."""

    proof: Proof
    day: str
    words: str
    counts: bool
    photo: Photo | None


@dataclass(frozen=True)
class ProvePage:
    """What every page of Prove shows; `key` is the proof whose page it is, empty on the page of all."""

    watch: StoredWatch
    way: WayThrough
    ready: Readiness
    photos: Mapping[int, Photo]
    key: str = ""
    fault: str = ""
    plate: Scene | None = None

    @property
    def looks(self) -> Mapping[str, str]:
        """The look of each state."""
        return {str(state): look for state, look in STATE_LOOKS.items()}

    @property
    def told(self) -> Mapping[str, str]:
        """Each state in a word."""
        return {str(state): words for state, words in STATE_TOLD.items()}

    @property
    def state(self) -> TestState:
        """Where the proof of this page stands."""
        return self.ready.by_key[self.key]

    @property
    def opened_ways(self) -> Mapping[str, str]:
        """What may have been opened."""
        return {str(key): words for key, words in OPENED.items()}

    @cached_property
    def history(self) -> list[ProofRow]:
        """Records of this proof, or of all, the newest first."""
        kinds = {self.key} | ({"wet"} if self.key == "dry" else set())
        shown = [proof for proof in reversed(self.ready.standing) if not self.key or proof.kind in kinds]
        counting = self._counting
        return [
            ProofRow(
                proof, day_of(proof.at_ms), proof_told(proof), proof.key in counting,
                self.photos.get(proof.photo or 0),
            )
            for proof in shown[:MOST_TOLD]
        ]  # fmt: skip

    @cached_property
    def _counting(self) -> set[str]:
        tests = [state.test for state in self.ready.states]
        counting = {proof.key for test in tests for proof in self.ready.counting(test)}
        wet_since = self.ready.since_ms(self.ready.test("dry"))
        counting |= {proof.key for proof in self.ready.alone}
        return counting | {
            proof.key
            for proof in self.ready.standing
            if proof.kind == "opened" or (proof.kind == "wet" and proof.at_ms >= wet_since)
        }

    @property
    def claim(self) -> str:
        """What may be said of water, and how long it holds; empty where nothing was tested since."""
        claim = water_claim(self.ready)
        return claim.words(day_of(claim.at_ms)) if claim else ""

    @property
    def wanted_bar(self) -> str:
        """The pressure to be held for the depth that is wanted."""
        return figure(wanted_bar(self.ready.situation), 1, "bar")

    @property
    def left(self) -> int:
        """How many have still to pass."""
        return len(self.ready.states) - self.ready.passed

    @property
    def here(self) -> str:
        """The proof to go on with: the first that has not passed."""
        return next((str(state.test.key) for state in self.ready.states if state.state != "passed"), "")


def day_of(at_ms: int) -> str:
    """A moment as `2027-01-15 09:41`, of this machine's clock."""
    return datetime.fromtimestamp(at_ms / 1000.0, UTC).astimezone().strftime("%Y-%m-%d %H:%M")


def prove_page(visit: Visit, key: str = "", fault: str = "") -> ProvePage:
    """The page of one proof, or of all of them with the plate."""
    ready = readiness_of(visit)
    pictures = {photo.id: photo for photo in photos_of(visit.connection, "proof", visit.stored.id)}
    plate = None if key else _plate(visit, ready)
    return ProvePage(visit.stored, visit.way("prove"), ready, pictures, key, fault, plate)


def _plate(visit: Visit, ready: Readiness) -> Scene:
    report, links = ready.situation.report, visit.request.app
    watch = str(visit.stored.id)
    notes: Sequence[ProofNote] = [
        ProofNote(
            state.test.key, state.test.label, state.state, state.words,
            str(links.url_path_for("proof", watch_id=watch, key=state.test.key)),
        )
        for state in ready.states
    ]  # fmt: skip
    return proof_plate(seen_face(report.build, report), notes, visit.stored.build.name)
