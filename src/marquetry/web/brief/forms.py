"""What the brief's forms send."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from marquetry.core.brief.answer import LONGEST_ANSWER
from marquetry.core.brief.topics import LONGEST, TOPIC_BY_KEY
from marquetry.core.brief.wish import Brief, WishState, WishStep
from marquetry.core.values.errors import NotFoundError
from marquetry.web.site.sent import FormKey

WishWords = Annotated[str, Field(max_length=LONGEST)]


class WishForm(BaseModel):
    """One step on one wish; `seen` is the last step that the page showed."""

    model_config = ConfigDict(extra="ignore")
    sent: FormKey = ""
    seen: Annotated[int, Field(ge=0)]
    topic: Annotated[str, Field(max_length=40)]
    act: Literal["propose", "agree", "open", "settle", "back"] = "propose"
    """`settle` proposes and agrees in one: what was said over the table."""
    value: WishWords = ""
    words: WishWords = ""
    teller: Literal["workshop", "client"] = "workshop"

    def steps(self, brief: Brief) -> list[WishStep]:
        """The steps that it comes to. DimensionError or SheetError for a value that cannot be."""
        if self.topic not in TOPIC_BY_KEY:
            raise NotFoundError(f"wish “{self.topic[:40]}”")
        wish = brief.wish(self.topic)
        if self.act == "open":
            return [WishStep(self.topic, WishState.OPEN, "", self.words, self.teller)]
        if self.act == "back":
            return list(wish.take_back(self.teller))
        if self.act == "agree":
            return [wish.agree(self.words, self.teller)] if wish.value else []
        proposed = wish.propose(self.value, self.words, self.teller)
        if self.act == "settle" and proposed.state is not WishState.OPEN:
            return [WishStep(self.topic, WishState.AGREED, proposed.value, self.words, self.teller)]
        return [proposed]


class SignForm(BaseModel):
    """The client's yes to the version that was looked at."""

    model_config = ConfigDict(extra="ignore")
    sent: FormKey = ""
    version: Annotated[int, Field(ge=1)]
    name: Annotated[str, Field(max_length=80)] = ""
    words: WishWords = ""


class AnswerForm(BaseModel):
    """The client's answer as text, and whether it is to be taken as it was understood."""

    model_config = ConfigDict(extra="ignore")
    sent: FormKey = ""
    text: Annotated[str, Field(max_length=LONGEST_ANSWER)] = ""
    seen: Annotated[int, Field(ge=0)] = 0
