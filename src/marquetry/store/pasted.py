"""A seller's text that was pasted and is being read, with what the builder decided about it so far."""

import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from typing import Any, Literal

from marquetry.core.measuring.listing.learnt import LearntLabel
from marquetry.store.database import Connection

PastedFor = Literal["watch", "part", "shelf"]
ON_THE_SHELF = 0
"""The number that stands for the shelf as a whole."""
MOST_TAUGHT = 60
LONGEST_SELLER = 200
LABEL_KEYS = frozenset({"kind", "label", "means"})


@dataclass(frozen=True, slots=True)
class Decided:
    """What the builder decided, parts named by the number of their first line.

    `lines`: what begins or ends at a line (kit.py's words); `slots`: same, another or beside; `left`: the
    proposals that are not used, `FIRST:path`; `answers` to doubts by the same key; `taken`: the number in the
    catalogue of each part that was used.
    """

    lines: Mapping[str, str] = field(default_factory=dict)
    names: Mapping[str, str] = field(default_factory=dict)
    slots: Mapping[str, str] = field(default_factory=dict)
    left: tuple[str, ...] = ()
    answers: Mapping[str, str] = field(default_factory=dict)
    prices: Mapping[str, str] = field(default_factory=dict)
    """What one piece costs, as it was typed over what was read; nothing typed is no price."""
    taught: tuple[LearntLabel, ...] = ()
    taken: Mapping[str, int] = field(default_factory=dict)
    seller: str = ""
    sender: str = ""
    """The mail address that the text came from, where it was a mail."""

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> "Decided":
        """What a row keeps; whatever is not of this form is left out: it is a convenience, no record."""
        words = {name: _pairs(told.get(name)) for name in ("names", "slots", "answers", "prices")}
        lines = {key: says for key, says in _pairs(told.get("lines")).items() if key.isdecimal()}
        taken = told.get("taken") if isinstance(told.get("taken"), dict) else {}
        numbers = {key: number for key, number in (taken or {}).items() if isinstance(number, int)}
        left = tuple(one for one in _list(told.get("left")) if isinstance(one, str))
        labels = (_pairs(one) for one in _list(told.get("taught"))[:MOST_TAUGHT])
        taught = tuple(LearntLabel(**one) for one in labels if one.keys() == LABEL_KEYS)
        seller, sender = (str(told.get(name, ""))[:LONGEST_SELLER] for name in ("seller", "sender"))
        return cls(
            lines=lines, names=words["names"], slots=words["slots"], left=left, answers=words["answers"],
            prices=words["prices"], taught=taught, taken=numbers, seller=seller, sender=sender,
        )  # fmt: skip

    @property
    def by_line(self) -> dict[int, str]:
        """What begins or ends at a line, by its number."""
        return {int(number): says for number, says in self.lines.items()}


def _pairs(told: Any) -> dict[str, str]:  # noqa: ANN401  # whatever a JSON parser returned
    return (
        {key: words for key, words in told.items() if isinstance(words, str)}
        if isinstance(told, dict)
        else {}
    )


def _list(told: Any) -> list[Any]:  # noqa: ANN401  # as above
    return told if isinstance(told, list) else []


@dataclass(frozen=True, slots=True)
class Pasted:
    """The text, empty where none is being read, and what was decided about it."""

    text: str = ""
    decided: Decided = Decided()


def keep(
    connection: Connection, owner: PastedFor, number: int, text: str, decided: Decided | None = None
) -> None:
    """Keep the text in place of one pasted before."""
    told = json.dumps(asdict(decided or Decided()), ensure_ascii=False)
    connection.execute(
        """INSERT OR REPLACE INTO pasted (owner, owner_id, text, decided)
           VALUES (:owner, :id, :text, :decided)""",
        {"owner": owner, "id": number, "text": text, "decided": told},
    )


def pasted_for(connection: Connection, owner: PastedFor, number: int) -> Pasted:
    """The text being read with what was decided; an empty one where none is."""
    row = connection.execute(
        "SELECT text, decided FROM pasted WHERE owner = :owner AND owner_id = :id",
        {"owner": owner, "id": number},
    ).fetchone()
    return Pasted() if row is None else Pasted(str(row["text"]), Decided.of(json.loads(row["decided"])))


def put_away(connection: Connection, owner: PastedFor, number: int) -> None:
    """Forget the text."""
    connection.execute(
        "DELETE FROM pasted WHERE owner = :owner AND owner_id = :id", {"owner": owner, "id": number}
    )
