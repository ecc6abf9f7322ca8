"""What of a listing a builder takes: fields, looks and words put into a part, and the text kept with it."""

from collections.abc import Collection
from dataclasses import dataclass

from marquetry.core.measuring.listing.result import Listing
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.entries import Json, assumed_entry, dimension_as_json
from marquetry.core.sheet.families import LISTING
from marquetry.core.sheet.kind import Kind
from marquetry.core.values.dimension import Dimension, Source

WORDS = "words"
"""What stands for all that is no dimension: name, looks, functions, windows."""
ADHESIVE = "adhesive"
LONGEST_KEPT = 20_000


@dataclass(frozen=True, slots=True)
class PartTaken:
    """The part as it is with what was taken, and how many values that were."""

    document: dict[str, Json]
    count: int
    said: tuple[str, ...] = ()
    """Paths below the part that the seller told: no longer assumed, though they may read the same."""


def take(document: dict[str, Json], listing: Listing, chosen: Collection[str], kind: Kind) -> PartTaken:
    """The part's document with the chosen proposals, by their number, and its words where they are chosen.

    What was known of such a field is replaced. The text stays with the part, with the words each came from.
    """
    build = _alone(document, kind)
    read: dict[str, str] = {}
    for number, proposed in enumerate(listing.fields):
        if str(number) in chosen:
            dimension = proposed.dimension
            value: Json = proposed.entry if dimension is None else dimension_as_json(dimension)
            build = build.with_entry(f"{kind.prefix}.{proposed.path}", value)
            read[proposed.path] = proposed.words
    if WORDS in chosen:
        build = _with_words(build, listing, kind)
    found: dict[str, Json] = dict(build.at(kind.prefix))
    if kind.is_many and "side" not in document:
        found.pop("side", None)
    found[LISTING] = _kept(document.get(LISTING), listing.text, read)
    return PartTaken(found, len(read), (*read, *(said_words(listing) if WORDS in chosen else ())))


def said_words(listing: Listing) -> tuple[str, ...]:
    """Paths below the part of all that is no size and was told."""
    lists = (("functions", listing.functions), ("windows", listing.windows), ("drive", listing.drive))
    return (*listing.looks, *(key for key, names in lists if names))


def _alone(document: dict[str, Json], kind: Kind) -> Build:
    sided = {"side": "dial", **document} if kind.is_many else document
    return Build.empty(kind.label, kind.anatomy).with_parts({kind.key: kind.held(sided)})


def _with_words(build: Build, listing: Listing, kind: Kind) -> Build:
    """The build with name, looks, functions and windows as told; what it is called already stays."""
    told: dict[str, Json] = dict(listing.looks)
    if not build.at(f"{kind.prefix}.name") and listing.name:
        told["name"] = listing.name
    if listing.functions:
        told["functions"] = listing.functions
    if listing.windows:
        told["windows"] = listing.windows
    told |= {key: names for key, names in (("suits", listing.suits), ("calibres", listing.calibres)) if names}
    if listing.drive:
        told["drive"] = listing.drive
    known = {entry.key for entry in (*kind.entries, *kind.looks)}
    for key, value in told.items():
        if key in known:
            build = build.with_entry(f"{kind.prefix}.{key}", value)
    if kind.key == "dial" and build.at(f"{kind.prefix}.windows") == []:
        build = _without_window(build, kind)
    for name in listing.without:
        build = _without(build, kind, name)
    return _with_adhesive(build, listing, kind)


def _without_window(build: Build, kind: Kind) -> Build:
    """The build without the place of a window that the seller says is not there."""
    for path in (f"{kind.prefix}.date_window_angle", f"{kind.prefix}.date_window_radius"):
        known = build.dimensions.get(path)
        if known is not None and not known.source.is_known:
            build = build.without(path)
    return build


def _without(build: Build, kind: Kind, name: str) -> Build:
    """The build without a hand that the seller denies: neither hand nor post nor function."""
    for path in (f"{kind.prefix}.{name}", f"{kind.prefix}.posts.{name}"):
        build = build.without(path) if build.at(path) is not None else build
    functions = build.at(f"{kind.prefix}.functions")
    if isinstance(functions, list) and name in functions:
        build = build.with_entry(f"{kind.prefix}.functions", [kept for kept in functions if kept != name])
    return build


def _with_adhesive(build: Build, listing: Listing, kind: Kind) -> Build:
    """The build with an insert's adhesive as told: how thick it is nobody says, so that it is assumed."""
    path = f"{kind.prefix}.{ADHESIVE}"
    if listing.adhesive is None or not build.anatomy.is_quantity(path):
        return build
    usual = assumed_entry(build.anatomy.quantity_at(path).usual)
    if listing.adhesive:
        return build if build.at(path) is not None else build.with_entry(path, usual)
    return build.with_entry(path, dimension_as_json(Dimension(0.0, 0.0, Source.LISTED)))


def _kept(before: Json, text: str, read: dict[str, str]) -> Json:
    """Text and words of this listing, added to those of one that was kept before."""
    held = before if isinstance(before, dict) else {}
    old, words = held.get("text"), held.get("read")
    texts = [old] if isinstance(old, str) and old and old != text else []
    whole = "\n\n".join([*texts, text])[-LONGEST_KEPT:]
    return {"text": whole, "read": {**(words if isinstance(words, dict) else {}), **read}}


def words_behind(build: Build, path: str) -> str:
    """The seller's words that a listed dimension was read from; nothing where it came from elsewhere."""
    dimension = build.dimensions.get(path)
    if dimension is None or dimension.source not in {Source.LISTED, Source.ASSUMED}:
        return ""
    key, _, below = path.partition(".")
    kind = build.anatomy.kind(key) if build.anatomy.has_kind(key) else None
    if kind is not None and kind.is_many:
        index, _, below = below.partition(".")
        key = f"{key}.{index}"
    read = _held(build.at(key), "read")
    words = read.get(below) if isinstance(read, dict) else None
    return words if isinstance(words, str) else ""


def text_kept(document: Json) -> str:
    """The listing that a part keeps; nothing where it keeps none."""
    text = _held(document, "text")
    return text if isinstance(text, str) else ""


def _held(document: Json, what: str) -> Json:
    """What a part's document keeps of a listing; None where it keeps none."""
    held = document.get(LISTING) if isinstance(document, dict) else None
    return held.get(what) if isinstance(held, dict) else None


def without_words(build: Build, path: str) -> Build:
    """The build without the seller's words behind a value that somebody typed over: they told another one."""
    key, _, below = path.partition(".")
    held = build.at(key)
    read = _held(held, "read")
    if not isinstance(held, dict) or not isinstance(read, dict) or below not in read:
        return build
    kept = {**held[LISTING], "read": {place: words for place, words in read.items() if place != below}}
    return build.with_parts({key: {**held, LISTING: kept}})
