"""What a client is asked, described once: forms, the client's sheet, the answer and the target read this."""

import re
from calendar import monthrange
from dataclasses import dataclass
from typing import Literal

from marquetry.core.sheet.described.target import WISHES, Wish
from marquetry.core.sheet.described.words import FUNCTIONS, told_function
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.plain import has_control
from marquetry.core.values.entry import parse_figure
from marquetry.core.values.errors import DimensionError, SheetError
from marquetry.core.values.money import USUAL_CURRENCY, parse_money

TopicNature = Literal["words", "number", "functions", "money", "day"]
LONGEST = 400
MONTHS = 12
DAY = re.compile(r"(2[0-9]{3})-([0-9]{2})-([0-9]{2})")


@dataclass(frozen=True, slots=True)
class Topic:
    """One thing that is wished. `asks` is the question to the client, `target` what of the sheet it becomes.

    `looks`: its words are looks, which the Finder ranks parts by.
    """

    key: str
    label: str
    asks: str
    nature: TopicNature = "words"
    target: str = ""
    looks: bool = False

    @property
    def wish(self) -> Wish | None:
        """The target's plain number, where it becomes one."""
        return next((wish for wish in WISHES if wish.key == self.target), None)

    @property
    def unit(self) -> str:
        """What stands behind the figure."""
        return self.wish.unit if self.wish else ""

    def read(self, typed: str) -> str:
        """The wish as it is kept. DimensionError or SheetError where it is none, naming the topic."""
        text = " ".join(typed.split())
        if len(text) > LONGEST or has_control(text):
            raise SheetError(self.label, f"at most {LONGEST} letters of plain words")
        if not text:
            return ""
        match self.nature:
            case "number":
                return f"{self._number(text):g}"
            case "functions":
                return ", ".join(_functions(self.label, text))
            case "money":
                return str(parse_money(self.label, text, USUAL_CURRENCY)).replace("\u00a0", " ")
            case "day":
                return _day(self.label, text)
            case _:
                return text

    def _number(self, text: str) -> float:
        """The figure in the topic's unit, mm or m, with or without the unit behind it."""
        value = parse_figure(self.label, text.removesuffix(self.unit), "mm")
        most = self.wish.most if self.wish else 0.0
        if not 0 < value <= most:
            raise DimensionError(
                self.label, f"{value:g}", self.unit, f"more than 0, at most {most:g} {self.unit}"
            )
        return value

    def told(self, value: str) -> str:
        """The wish as a reader has it: a figure with its unit, functions by name."""
        if self.nature == "functions":
            return ", ".join(told_function(name.strip()) for name in value.split(","))
        return f"{value} {self.unit}".strip()

    def in_target(self, value: str) -> Json:
        """What of the sheet's target the agreed wish becomes; None takes it away."""
        if not value:
            return None
        return [name.strip() for name in value.split(",")] if self.nature == "functions" else float(value)


def _functions(label: str, text: str) -> list[str]:
    by_words = {told_function(name): name for name in FUNCTIONS}
    found = []
    for word in (part.strip().lower() for part in re.split(r"[,;]", text) if part.strip()):
        name = word if word in FUNCTIONS else by_words.get(word, "")
        if not name:
            raise SheetError(label, f"some of {', '.join(map(told_function, FUNCTIONS))}", f"“{word[:40]}”")
        found.append(name)
    return list(dict.fromkeys(found))


def _day(label: str, text: str) -> str:
    found = DAY.fullmatch(text)
    if found is None or not 1 <= int(found[2]) <= MONTHS:
        raise SheetError(label, "a day such as 2027-03-20", f"“{text[:40]}”")
    if not 1 <= int(found[3]) <= monthrange(int(found[1]), int(found[2]))[1]:
        raise SheetError(label, "a day that its month has", f"“{text}”")
    return text


TOPICS = (
    Topic("whom", "For whom", "Who will wear it?"),
    Topic("occasion", "Occasion", "What is it for?"),
    Topic("wrist", "Wrist", "How far is it round the wrist?", "number", "wrist_circumference_mm"),
    Topic("diameter", "Diameter, at most", "How wide may it be at most?", "number", "max_diameter_mm"),
    Topic("height", "Height, at most", "How high may it stand at most?", "number", "max_height_mm"),
    Topic("span", "Lug to lug, at most", "How long may it be at most?", "number", "max_lug_to_lug_mm"),
    Topic("functions", "Functions", "What is it to show and do?", "functions", "functions"),
    Topic("depth", "Water depth", "How deep into water will it go?", "number", "water_depth_m"),
    Topic("colours", "Colours", "Which colours?", looks=True),
    Topic("finishes", "Finishes", "Brushed, polished, matt?", looks=True),
    Topic("lume", "Lume", "Should it glow, and in which colour?", looks=True),
    Topic("straps", "Strap or straps", "Which strap, and a second one?"),
    Topic("case_finish", "Case's finish to change", "Is the case to be brushed or polished anew?"),
    Topic("budget", "Budget", "What may it cost?", "money"),
    Topic("day", "Wanted by", "When is it to be ready?", "day"),
    Topic("choice", "Choice", "Which of the proposals?"),
    Topic("other", "Anything else", "What else matters?"),
)
"""In the order in which they are talked over."""
FINISHES = "finishes"
CHOICE = "choice"
"""Among the proposals: asked beside them, where there are several."""
TOPIC_BY_KEY = {topic.key: topic for topic in TOPICS}
