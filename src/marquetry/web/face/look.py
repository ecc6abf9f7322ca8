"""What the face's page shows, as its address says it: light, time, the chosen part, parts tried on."""

import re
from typing import Annotated, Literal
from urllib.parse import urlencode

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.face.night import LONGEST
from marquetry.drawing.sheet import USUAL_TIME
from marquetry.web.site.deps import TIME

Show = Literal["day", "night", "wrist"]
SHOWS: tuple[tuple[Show, str], ...] = (("day", "By day"), ("night", "By night"), ("wrist", "On the wrist"))
WORN = re.compile(r"([a-z_]{1,30})\.(\d{1,12})")
MOST_WORN = 12


class FaceLook(BaseModel):
    """The address's query. `wear` names parts of the shelf, `dial.12,hands.7`: nothing of it is stored."""

    model_config = ConfigDict(extra="ignore")
    show: Show = "day"
    minutes: Annotated[float, Field(ge=0, le=LONGEST, allow_inf_nan=False)] = 0.0
    time: Annotated[str, Field(max_length=20)] = ""
    part: Annotated[str, Field(max_length=40)] = ""
    wear: Annotated[str, Field(max_length=400)] = ""
    edit: bool = False

    @property
    def hands_at(self) -> str:
        """The time that the hands show."""
        return self.time if TIME.fullmatch(self.time) else USUAL_TIME

    @property
    def worn(self) -> dict[str, int]:
        """Parts of the shelf that are tried on: number by kind. What cannot be read is nothing."""
        found = WORN.findall(self.wear)[:MOST_WORN]
        return {kind: int(number) for kind, number in found}

    def wearing(self, kind: str, number: int | None) -> str:
        """The address's query with another part tried on, or with what the watch has."""
        worn = {**self.worn, kind: number}
        text = ",".join(f"{key}.{n}" for key, n in worn.items() if n is not None)
        return self.address(part=kind, wear=text)

    def address(self, **changed: object) -> str:
        """The same look with something changed, as the address's query."""
        now = {**self.model_dump(exclude_defaults=True), **changed}
        if now.get("edit"):
            now["edit"] = "true"
        if "minutes" in now:
            now["minutes"] = f"{float(now['minutes']):g}"
        usual = {"show": "day", "minutes": "0", "edit": False}
        kept = {
            key: value for key, value in now.items() if value not in {"", None} and usual.get(key) != value
        }
        return f"?{urlencode(kept)}"
