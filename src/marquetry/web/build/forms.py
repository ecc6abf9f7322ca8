"""What the bench's screens send: entries made there, perhaps a while ago, each with a key of its own."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.bench.log import LONGEST_WORDS, BenchWhat

KEY = r"^[A-Za-z0-9_-]{8,60}$"
STEP = r"^(?:[a-z0-9_]{0,40}|alter:[^\x00-\x1f\x7f]{1,80})$"
LONGEST_AGO_MS = 31 * 24 * 3_600_000
"""An entry that waited longer on a tablet counts as made so long ago."""
MOST_AT_ONCE = 500
MADE_HERE = {"mishap", "photo", "timer"}
"""Entries that the program makes itself, with what belongs to them."""


class TapForm(BaseModel):
    """A tap as a form sends it; `value` is what was typed.

    `turns` and `pitch` come with a gap: by how many turns the crown stood short of home. `sure` is said of a
    figure that was asked about.
    """

    model_config = ConfigDict(extra="ignore")

    step: Annotated[str, Field(pattern=STEP)] = ""
    what: BenchWhat | Literal["unsure"]
    value: Annotated[str, Field(max_length=40)] = ""
    turns: Annotated[str, Field(max_length=20)] = ""
    pitch: Annotated[str, Field(max_length=20)] = ""
    sure: bool = False
    words: Annotated[str, Field(max_length=LONGEST_WORDS)] = ""


class SentEntry(TapForm):
    """The same from a screen that holds entries back: its own key, and how long `ago`, ms."""

    key: Annotated[str, Field(pattern=KEY)]
    undoes: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{0,64}$")] = ""
    ago: Annotated[float, Field(ge=0, allow_inf_nan=False)] = 0


class SentEntries(BaseModel):
    """Several, in the order in which they were made, from one device; each is read by itself.

    So one that cannot be read is told by its key, and none of the others is held up by it.
    """

    device: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{0,60}$")] = ""
    entries: Annotated[list[dict[str, Any]], Field(max_length=MOST_AT_ONCE)]
