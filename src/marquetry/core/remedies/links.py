"""A bracelet brought to the wrist: no check asks for it, and every bracelet wants it done."""

from collections.abc import Iterator

from marquetry.core.fit.figures import LINKS_OUT
from marquetry.core.fit.report import Report
from marquetry.core.remedies.idea import Idea
from marquetry.core.sheet.build import Build

LINKS = "strap.links"


def errands(build: Build, report: Report) -> Iterator[Idea]:
    """Links to take out or to put in, by whole links; nothing where the bracelet fits or is not described."""
    told = report.figures.get(LINKS_OUT)
    links = build.at(LINKS)
    if told is None or told.value is None or not isinstance(links, int):
        return
    count = int(told.value)
    if count == 0 or links - count < 1:
        return
    words = f"{abs(count)} link{'s' * (abs(count) > 1)}"
    changed = build.with_entry(LINKS, links - count)
    if count > 0:
        yield Idea("links_out", f"Take {words} out of the bracelet: {links - count} are wanted", changed, 1)
    else:
        yield Idea("links_in", f"Put {words} more into the bracelet: {links - count} are wanted", changed, 2)
