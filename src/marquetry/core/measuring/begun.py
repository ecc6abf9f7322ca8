"""A watch begun: a family that fits its look, and over it all that sellers' texts say for sure."""

from collections.abc import Iterable

from marquetry.core.evidence.follow import followed
from marquetry.core.measuring.listing.read import read_listing
from marquetry.core.measuring.listing.result import Listing
from marquetry.core.measuring.listing.taken import WORDS, take
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source

SURE_SOURCES = frozenset({Source.MEASURED, Source.EXACT})
"""What was measured is not written over by what a seller says."""


def begun(family: Build, texts: Iterable[str]) -> Build:
    """The family's watch with every sure proposal of the texts taken, and what is assumed settled by them."""
    build = family
    for text in texts:
        kinds: set[str | None] = set()
        for listing in read_listing(text, family.anatomy):
            # A second one of a kind in one text lies beside the first: a slot holds one.
            if listing.kind not in kinds:
                build = with_listing(build, listing, sure_of(build, listing))
            kinds.add(listing.kind)
    return followed(build)


def with_listing(build: Build, listing: Listing, chosen: Iterable[str]) -> Build:
    """The build with what was chosen of one part's listing; what it does not say stays as it was."""
    kind = build.anatomy.kind(listing.kind) if listing.kind else None
    if kind is None or kind.is_many:
        return build
    document = dict(build.at(kind.key) or {})
    wanted = frozenset(chosen)
    taken = take(document, listing, wanted, kind)
    made = build.with_parts({kind.key: taken.document})
    # A word that the family had right is known from now on, though it reads the same.
    for path in taken.said:
        made = made.said(f"{kind.key}.{path}")
    return made


def sure_of(build: Build, listing: Listing) -> list[str]:
    """What *Use all sure values* takes: no doubted proposal, and nothing over what was measured."""
    if not listing.kind:
        return []
    prefix, asked = build.anatomy.kind(listing.kind).prefix, {slip.path for slip in listing.asks}
    sure = [
        str(number)
        for number, proposed in enumerate(listing.fields)
        if proposed.sure != "ask"
        and proposed.path not in asked
        and not is_measured(build, f"{prefix}.{proposed.path}")
    ]
    return [*sure, WORDS]


def is_measured(build: Build, path: str) -> bool:
    """Whether the dimension is measured or exact: no seller's figure is written over it."""
    known = build.dimensions.get(path)
    return known is not None and known.source in SURE_SOURCES
