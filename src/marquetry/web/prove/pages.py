"""The page of each proof, by its key: what it shows beyond what all of them do."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from marquetry.core.face.face import seen_face
from marquetry.core.proving.meeting import HandsMeeting, looks
from marquetry.core.proving.rounds import LOUPE, Tried, functions_of
from marquetry.core.values.errors import NotFoundError
from marquetry.core.values.figures import band
from marquetry.drawing.proving.hands_meet import hands_meet
from marquetry.drawing.scene import Scene
from marquetry.web.prove.light_view import LightPage, light_page
from marquetry.web.prove.sound_view import SoundPage, sound_page
from marquetry.web.prove.straight_view import StraightPage, straight_page
from marquetry.web.prove.view import ProvePage, prove_page
from marquetry.web.prove.water_view import WaterPage, water_page
from marquetry.web.prove.wrist_view import WristPage, wrist_page
from marquetry.web.watch.visit import Visit

CROWNS = {"in": "Crown pressed in", "first": "Crown at its first place", "last": "Crown drawn out", "": ""}
"""The crown's positions in words."""


@dataclass(frozen=True)
class TriedPage:
    """Things tried one after another."""

    page: ProvePage
    things: tuple[Tried, ...]
    template: str = "tried"

    @property
    def crowns(self) -> Mapping[str, str]:
        """Where the crown stands, in words."""
        return CROWNS


@dataclass(frozen=True)
class MeetingPage:
    """Times at which hands meet, with a dial for each."""

    page: ProvePage
    meetings: tuple[tuple[HandsMeeting, Scene], ...]
    template: str = "meeting"


@dataclass(frozen=True)
class DatePage:
    """When the date jumps."""

    page: ProvePage
    limit: str
    template: str = "date"


AnyPage = TriedPage | MeetingPage | DatePage | SoundPage | WristPage | WaterPage | StraightPage | LightPage


def _functions(page: ProvePage, visit: Visit) -> TriedPage:
    del visit
    return TriedPage(page, tuple(functions_of(page.ready.situation)))


def _loupe(page: ProvePage, visit: Visit) -> TriedPage:
    del visit
    return TriedPage(page, LOUPE)


def _meeting(page: ProvePage, visit: Visit) -> MeetingPage:
    del visit
    situation = page.ready.situation
    found = looks(situation.hands, raised(page))
    return MeetingPage(page, tuple((each, hands_meet(each, situation.hands)) for each in found))


def raised(page: ProvePage) -> list[tuple[str, float]]:
    """What stands up from the dial, by its angle from twelve: applied markers, a frame round a window."""
    report = page.ready.situation.report
    dial = seen_face(report.build, report).dial
    if dial is None:
        return []
    hours = dict.fromkeys(
        round(marker.angle / 30.0) % 12 or 12 for marker in dial.markers if marker.height > 0
    )
    frames = [
        (f"the {window.name} window's frame", window.angle)
        for window in dial.windows
        if window.frame == "applied"
    ]
    return [*((f"the marker at {hour}", hour * 30.0 % 360.0) for hour in hours), *frames]


def _date(page: ProvePage, visit: Visit) -> DatePage:
    del visit
    return DatePage(page, band(page.ready.situation.rules.band("date_jump"), 0, "min"))


PAGES: Mapping[str, Callable[[ProvePage, Visit], AnyPage]] = {
    "functions": _functions,
    "loupe": _loupe,
    "meeting": _meeting,
    "date": _date,
    "sound": sound_page,
    "wrist": wrist_page,
    "dry": water_page,
    "angle": straight_page,
    "lume": light_page,
}


def page_of(visit: Visit, key: str, fault: str = "") -> AnyPage:
    """The page of one proof. NotFoundError where this watch asks for none of that name."""
    page = prove_page(visit, key, fault)
    if key not in PAGES or key not in page.ready.by_key:
        raise NotFoundError(f"proof “{key[:40]}” of this watch")
    return PAGES[key](page, visit)
