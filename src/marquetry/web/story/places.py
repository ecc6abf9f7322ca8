"""Where the place that a moment speaks of is in the program."""

from collections.abc import Callable, Mapping

from marquetry.core.story.moment import PlaceKind, StoryPlace
from marquetry.web.site.addresses import Address

PlaceLink = Callable[[Address, str, str], str]


def _part(address: Address, watch: str, key: str) -> str:
    return f"{address('watch', watch_id=watch)}?open={key}#part-{key}"


def _step(address: Address, watch: str, key: str) -> str:
    return str(address("build_step", watch_id=watch, step=key) if key else address("build", watch_id=watch))


def _proof(address: Address, watch: str, key: str) -> str:
    return str(address("proof", watch_id=watch, key=key) if key else address("prove", watch_id=watch))


def _of_watch(route: str) -> PlaceLink:
    return lambda address, watch, _: str(address(route, watch_id=watch))


PLACES: Mapping[PlaceKind, PlaceLink] = {
    "part": _part,
    "step": _step,
    "proof": _proof,
    "made": lambda address, watch, _: str(address("make", watch_id=watch)),
    "order": lambda address, _, key: str(address("supply_order", number=key)),
    "quote": lambda address, watch, key: str(address("told_quote", watch_id=watch, number=key)),
    "lesson": lambda address, _, key: f"{address('lessons')}#lesson-{key}",
    "money": _of_watch("money"),
    "brief": _of_watch("brief"),
    "series": _of_watch("series"),
    "variant": _of_watch("compare"),
    "life": _of_watch("away"),
}
"""By kind of place; what speaks of none has no link."""


def place_link(address: Address, watch: int, place: StoryPlace) -> str:
    """The address of a place; empty for none."""
    link = PLACES.get(place.kind)
    return link(address, str(watch), place.key) if link else ""
