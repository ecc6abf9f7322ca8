"""The way through a watch: its stages with the state of each, on every page of it."""

from dataclasses import dataclass

from marquetry.core.fit.report import Report
from marquetry.core.values.verdict import Verdict
from marquetry.store.watches import StoredWatch


@dataclass(frozen=True, slots=True)
class Stop:
    """One stage or view of a watch. `route` is its address's name, `key` the key that opens it."""

    route: str
    label: str
    key: str
    state: str = ""
    verdict: Verdict | None = None


@dataclass(frozen=True, slots=True)
class WayThrough:
    """The stages, the views that hang on Fit, and which of them is open."""

    watch_id: int
    name: str
    here: str
    stages: tuple[Stop, ...]
    views: tuple[Stop, ...]

    @property
    def stage(self) -> str:
        """The stage that the open page belongs to: what is no stage of its own hangs on Fit."""
        return self.here if self.here in {stop.route for stop in self.stages} else "watch"


VIEWS = (
    Stop("watch", "Section", "g"),
    Stop("face", "Face", "v"),
    Stop("remedies", "Remedies", "m"),
    Stop("measure", "Measure next", "n"),
    Stop("watch_listing", "Listing", "l"),
    Stop("finder", "Finder", "f"),
    Stop("compare", "Compare", "c"),
)
"""What hangs on the stage Fit."""


def way_through(stored: StoredWatch, report: Report, here: str) -> WayThrough:
    """The way through a watch as it is stored, with the state of each stage."""
    build = stored.build
    held, described = sum(build.has(part.key) for part in build.anatomy.parts), len(build.anatomy.parts)
    missing = len(report.missing())
    state = f"{held} of {described}" + (f", {missing} to measure" if missing else "")
    stages = (
        Stop("brief", "Brief", "d"),
        Stop("watch_parts", "Parts", "p", state),
        Stop("watch", "Fit", "", report.worst.value, report.worst),
        Stop("make", "Make", "a"),
        Stop("order", "Order", "o"),
        Stop("build", "Build", "h"),
        Stop("prove", "Prove", "y"),
        Stop("story", "Story", "z"),
    )
    return WayThrough(stored.id, build.name, here, stages, VIEWS)
