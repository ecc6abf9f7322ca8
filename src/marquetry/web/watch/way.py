"""The way through a watch: its stages with the state of each, on every page of it."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from marquetry.core.fit.report import Report, WatchWord
from marquetry.core.values.dimension import Dimension, Source
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


def counted(sizes: Mapping[str, Dimension]) -> dict[str, int]:
    """How many of these sizes were measured, told, planned, or are only assumed: plain counts."""
    sources = Counter(found.source for found in sizes.values())
    measured = sources[Source.MEASURED] + sources[Source.EXACT]
    return {
        "measured": measured,
        "listed": sources[Source.LISTED],
        "planned": sources[Source.PLANNED],
        "assumed": sources[Source.ASSUMED],
    }


def counted_words(sizes: Mapping[str, Dimension]) -> str:
    """The same in words, none of which counts nothing; empty where there is no size at all."""
    return ", ".join(f"{count} {word}" for word, count in counted(sizes).items() if count)


MARKS: dict[WatchWord, Verdict] = {
    "clash": Verdict.CLASH,
    "tight": Verdict.TIGHT,
    "open": Verdict.ASSUMED,
    "clear": Verdict.CLEAR,
}
"""The mark that stands for the watch's own word."""
VIEWS = (
    Stop("watch", "Section", "g"),
    Stop("face", "Face", "v"),
    Stop("remedies", "Remedies", "m"),
    Stop("next", "Next", "n"),
    Stop("watch_listing", "Listing", "l"),
    Stop("finder", "Finder", "f"),
    Stop("compare", "Compare", "c"),
)
"""What hangs on the stage Fit."""


def way_through(stored: StoredWatch, report: Report, here: str) -> WayThrough:
    """The way through a watch as it is stored, with the state of each stage."""
    build = stored.build
    state = counted_words(build.dimensions)
    stages = (
        Stop("brief", "Brief", "d"),
        Stop("watch_parts", "Parts", "p", state),
        Stop("watch", "Fit", "", report.standing.verdict, MARKS[report.standing.verdict]),
        Stop("make", "Make", "a"),
        Stop("order", "Order", "o"),
        Stop("build", "Build", "h"),
        Stop("prove", "Prove", "y"),
        Stop("story", "Story", "z"),
    )
    return WayThrough(stored.id, build.name, here, stages, VIEWS)
