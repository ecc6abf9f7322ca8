"""What the forms about made parts send."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.making.batch import MOST_BLANKS, FinishTrial, TrialKind
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.version import PrintedBy, VersionState
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.core.values.money import Money, parse_money
from marquetry.web.watch.forms import Typed, VersionForm

Name = Annotated[str, Field(max_length=80)]
NOZZLES, LAYERS = (0.1, 2.0), (0.02, 1.0)


class FeatureForm(VersionForm):
    """A feature of a part switched on or off."""

    key: Annotated[str, Field(max_length=30)]
    on: bool = False


class SizeForm(VersionForm):
    """A size taken as the watch proposes it; all of them where no path is named."""

    path: Annotated[str, Field(max_length=80)] = ""


class VersionMadeForm(VersionForm):
    """A new version: who prints it, in what, how fine, and what is to be remembered."""

    printer: Name = ""
    material: Name = ""
    nozzle: Typed = "0.4"
    layer: Typed = "0.1"
    notes: Typed = ""
    corrected: bool = False

    def read(self) -> PrintedBy:
        """Printer, material and setting; DimensionError where nozzle or layer are none."""
        setting = PrintSetting(_within("nozzle", self.nozzle, NOZZLES), _within("layer", self.layer, LAYERS))
        return PrintedBy(self.printer.strip(), self.material.strip(), setting)


def _within(field: str, text: str, limits: tuple[float, float]) -> float:
    value = parse_figure(field, text, "mm")
    if not limits[0] <= value <= limits[1]:
        raise DimensionError(field, f"{value:g}", "mm", f"{limits[0]:g} to {limits[1]:g} mm")
    return value


class VersionToldForm(BaseModel):
    """How a version came out; `made` is the version of its record that the form was made from."""

    model_config = ConfigDict(extra="ignore")
    made: Annotated[int, Field(ge=1)]
    state: VersionState
    notes: Typed = ""
    minutes: Annotated[str, Field(pattern=r"^\s*\d{0,6}\s*$")] = ""
    cost: Typed = ""

    def read_minutes(self) -> int | None:
        """Minutes of work, None where nothing is said."""
        return int(self.minutes) if self.minutes.strip() else None

    def read_cost(self, home: str) -> Money | None:
        """What it cost, in home's currency where none is said; DimensionError where that is no amount."""
        return parse_money("cost", self.cost, home)


class BatchForm(BaseModel):
    """A batch to begin."""

    model_config = ConfigDict(extra="ignore")
    name: Annotated[str, Field(min_length=1, max_length=80)]
    wanted: Annotated[int, Field(ge=1, le=1000)] = 1
    bought: Annotated[str, Field(pattern=r"^\s*\d{0,4}\s*$")] = ""

    def read_bought(self) -> int:
        """How many blanks it begins with."""
        return min(int(self.bought), MOST_BLANKS) if self.bought.strip() else 0


class BlankCountForm(BaseModel):
    """Blanks to add to a batch."""

    model_config = ConfigDict(extra="ignore")
    count: Annotated[int, Field(ge=1, le=MOST_BLANKS)] = 1


class BlanksToldForm(BaseModel):
    """What is told of the chosen blanks: a stage and its cost, what became of them, or that there are none.

    `blanks` are pairs `number:version`, as they were seen.
    """

    model_config = ConfigDict(extra="ignore")
    what: Literal["stage", "work", "good", "test", "spoilt", "gone"] = "stage"
    blanks: Annotated[
        list[Annotated[str, Field(pattern=r"^\d{1,9}:\d{1,9}$")]], Field(max_length=MOST_BLANKS)
    ] = []
    stage: Annotated[str, Field(max_length=40)] = ""
    cost: Typed = ""
    why: Annotated[str, Field(max_length=200)] = ""

    def chosen(self) -> dict[int, int]:
        """The blanks by their numbers in the workshop, with the versions they were seen at."""
        if not self.blanks:
            raise SheetError("blanks", "the blanks it is about, chosen by their numbers", "none")
        pairs = (pair.split(":") for pair in self.blanks)
        return {int(number): int(version) for number, version in pairs}

    def named_stage(self) -> str:
        """The stage, which has to have a name."""
        if not self.stage.strip():
            raise SheetError("stage", "a stage, such as base coat", "nothing")
        return self.stage.strip()

    def read_cost(self, home: str) -> Money | None:
        """What the stage cost for each of them; DimensionError where that is no amount."""
        return parse_money("cost", self.cost, home)


class TrialForm(BaseModel):
    """A trial of a finish to note."""

    model_config = ConfigDict(extra="ignore")
    kind: TrialKind
    what: Annotated[str, Field(min_length=1, max_length=120)]
    layers: Annotated[int, Field(ge=1, le=50)] = 1
    blank: Name = ""
    on: Annotated[str, Field(pattern=r"^\d{0,9}$")] = ""
    """The blank of the watch that it was done on, by its number in the workshop."""
    did: Annotated[str, Field(max_length=400)] = ""

    def read(self) -> FinishTrial:
        """The trial, not chosen yet."""
        return FinishTrial(
            kind=self.kind,
            what=self.what.strip(),
            layers=self.layers,
            blank=self.blank.strip(),
            did=self.did.strip(),
            blank_id=int(self.on) if self.on else None,
        )


class TrialToldForm(VersionForm):
    """What a trial did, and whether it is the one that is taken."""

    did: Annotated[str, Field(max_length=400)] = ""
    chosen: bool = False
