"""How `findings.json` is described in OpenAPI; the figures themselves come from `formats/findings.py`."""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field


class DriverModel(BaseModel):
    """One dimension's share of a finding's doubt."""

    dimension: str = Field(description="path of the dimension, such as movement.face_to_stem")
    share: float = Field(description="share of the variance, 0 to 1")
    sensitivity: float = Field(description="change of the value for one unit of the dimension")


class FindingModel(BaseModel):
    """One finding; some checks add keys: pairs, remove, turn, span_error, heights, binding, issues."""

    model_config = ConfigDict(extra="allow")
    verdict: Literal["clear", "tight", "clash", "unmeasured", "skipped"]
    value: float | None = Field(description="nominal value in the check's unit")
    low: float | None = Field(description="worst case downwards")
    high: float | None = Field(description="worst case upwards")
    limits: list[float | None] = Field(description="[low, high], null for an open end")
    chance: float | None = Field(description="probability of lying within the limits")
    drivers: list[DriverModel] = Field(description="largest share first")
    missing: list[str] = Field(description="paths of dimensions that are not known")


class FindingsModel(BaseModel):
    """The findings on one watch, by check."""

    name: str
    findings: dict[str, FindingModel]
