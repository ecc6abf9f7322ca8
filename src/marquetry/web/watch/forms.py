"""What the pages' forms send, and the build each makes of it."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.measuring.listing.taken import without_words
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import with_one_date_window
from marquetry.core.sheet.described.holder import SPACERS
from marquetry.core.sheet.entries import Json, assumed_entry, dimension_as_json
from marquetry.core.sheet.schema import Count, Entry, Flag, Names, PlainSize, Quantity
from marquetry.core.values.dimension import Dimension, Source
from marquetry.core.values.entry import parse_entry, parse_figure
from marquetry.core.values.errors import SheetError

STEP, STEP_FAR = 0.01, 0.1
"""What an arrow key moves a figure by while trying, in its own unit."""
Path = Annotated[str, Field(max_length=80, pattern=r"^[a-z0-9_]+(\.[a-z0-9_\-]+)*$")]
Typed = Annotated[str, Field(max_length=400)]


class VersionForm(BaseModel):
    """Every form that changes a watch names the version it was looking at."""

    model_config = ConfigDict(extra="ignore")
    version: Annotated[int, Field(ge=1)]


class BackForm(VersionForm):
    """A change that may be made on the page Next, which is then where it leads back to."""

    back: Literal["", "next"] = ""


class NamedEdit(VersionForm):
    """A name for something new."""

    name: Annotated[str, Field(max_length=80)] = ""


class EntryEdit(VersionForm):
    """One entry of a part, as typed; an empty value makes it unknown."""

    path: Path
    value: Typed = ""
    tol: Typed = ""
    source: Source = Source.MEASURED
    place: Literal["tray", "ledger"] = "ledger"
    offer: Typed = ""
    """What the value was meant to be, where an offered correction was taken."""
    step: Annotated[str, Field(pattern=r"^((value|tol)-(up|down)(-far)?)?$")] = ""
    """A step of value or tolerance, up or down, by a hundredth or as far as a tenth."""

    def applied_to(self, build: Build) -> Build:
        """The build with this entry. Raises DimensionError, SheetError or NotFoundError."""
        entry = build.anatomy.entry_at(self.path)[-1]
        if not self.value.strip():
            return build.without(self.path) if build.at(self.path) is not None else build
        told = without_words(build.with_entry(self.path, self._read(entry)), self.path)
        return with_one_date_window(build, told)

    def _read(self, entry: Entry) -> Json:
        typed = (self.offer or self.value).strip()
        match entry:
            case Quantity():
                dimension = self._dimension(entry)
                by_spread = self.source is Source.ASSUMED and not self.tol.strip() and not self.step
                return assumed_entry(dimension.value) if by_spread else dimension_as_json(dimension)
            case PlainSize():
                return parse_figure(entry.label, typed, "mm")
            case Names():
                return [word.strip() for word in typed.split(",") if word.strip()]
            case Flag():
                return {"yes": True, "no": False}.get(typed, typed)
            case Count():
                return int(typed) if typed.isdecimal() else typed
            case _:
                return typed

    def _dimension(self, quantity: Quantity) -> Dimension:
        value, tol = parse_entry("value", self.offer or self.value, quantity.unit)
        if tol is None and self.tol.strip():
            tol = parse_figure("tolerance", self.tol, quantity.unit)
        if self.step:
            value, tol = self._stepped(value, tol)
        return Dimension.of(value, tol, self.source, quantity.unit)

    def _stepped(self, value: float, tol: float | None) -> tuple[float, float | None]:
        """Value and tolerance after the step; a tolerance never goes below nothing."""
        by = (STEP_FAR if self.step.endswith("-far") else STEP) * (-1 if "down" in self.step else 1)
        if self.step.startswith("value"):
            return round(value + by, 6), tol
        return value, None if tol is None else max(round(tol + by, 6), 0.0)


class PathEdit(VersionForm):
    """A part or a thing in a list to add or to take away."""

    path: Path

    def added_to(self, build: Build) -> Build:
        """The build with an empty part or thing at the path."""
        return build.with_entry(self.path, {})

    def taken_from(self, build: Build) -> Build:
        """The build without what stands at the path."""
        return build.without(self.path)


class SpacerEdit(VersionForm):
    """A spacer to add: side and thickness are all that the heights need."""

    side: Literal["dial", "movement"]
    value: Typed = ""
    tol: Typed = ""
    source: Source = Source.MEASURED

    def applied_to(self, build: Build) -> Build:
        """The build with one spacer more."""
        if not self.value.strip():
            raise SheetError("thickness", "a number in mm, such as 0.74", "nothing")
        number = build.count(SPACERS.key)
        empty = build.with_entry(f"{SPACERS.key}.-", {"side": self.side})
        thickness = EntryEdit(
            version=self.version,
            path=f"{SPACERS.key}.{number}.thickness",
            value=self.value,
            tol=self.tol,
            source=self.source,
        )
        return thickness.applied_to(empty)
