"""What the page of a text sends: all that is typed and ticked, with every button, so that nothing is lost."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from marquetry.core.measuring.listing.kit import JOIN, LEAVE
from marquetry.core.measuring.listing.learnt import HEADS, LearntLabel, label_of
from marquetry.core.values.money import parse_money
from marquetry.store.pasted import Decided
from marquetry.web.kits.reading import ANOTHER, BESIDE, SAME, PartRead, TextRead
from marquetry.web.site.sent import Sent, number_in
from marquetry.web.site.sent import first as first_sent

TAKE = "take"
"""The button that uses all that is sure; every other only has the text read anew."""
LONGEST_TYPED = 80


@dataclass(frozen=True, slots=True)
class KitForm:
    """What is asked for, and all that was decided with it; `rates` by currency as they were typed."""

    does: str
    version: int
    decided: Decided
    rates: Mapping[str, str]
    fault: str


def read_form(sent: Sent, before: Decided, text: TextRead) -> KitForm:
    """The form as it was sent from the page that `before` and `text` made. DimensionError: a sum is none."""
    does = first_sent(sent, "do")
    typed = _typed(sent, before, text)
    decided = _with_button(typed, does, sent)
    rates = {key[5:8]: first_sent(sent, key).strip() for key in sent if key.startswith("rate-")}
    version = number_in(first_sent(sent, "version")) or 0
    return KitForm(does, version, decided, rates, first_sent(sent, "fault").strip()[:200])


def _typed(sent: Sent, before: Decided, text: TextRead) -> Decided:
    """What stands in the fields of every part that the page showed."""
    names, slots, lines = dict(before.names), dict(before.slots), dict(before.lines)
    prices = dict(before.prices)
    left = set(before.left)
    for part in text.parts:
        key = str(part.first)
        name = first_sent(sent, f"name-{key}").strip()[:LONGEST_TYPED]
        if f"name-{key}" in sent and name != part.listing.name:
            names[key] = name
        price = first_sent(sent, f"price-{key}")
        if f"price-{key}" in sent and plain_money(price) != plain_money(str(part.price.price or "")):
            parse_money("price", price, text.home)
            prices[key] = price
        if first_sent(sent, f"slot-{key}") in {SAME, ANOTHER, BESIDE}:
            slots[key] = first_sent(sent, f"slot-{key}")
        kind = first_sent(sent, f"kind-{key}")
        if kind and kind != (part.kind.key if part.kind else ""):
            lines[key] = kind
        left = _left(sent, part, left)
    seller = first_sent(sent, "seller").strip()[:LONGEST_TYPED] if "seller" in sent else before.seller
    taught = (*before.taught, *_taught(sent, text))
    made = replace(
        before, prices=prices, names=names, slots=slots, lines=lines, left=tuple(sorted(left)), seller=seller
    )
    return _with_leftovers(replace(made, taught=tuple(dict.fromkeys(taught))), sent, text)


def plain_money(words: str) -> str:
    """A sum as it is compared: a browser may send another space than it was shown."""
    return "".join(words.split()).upper()


def _left(sent: Sent, part: PartRead, before: set[str]) -> set[str]:
    """What of a part is not used: whatever the page showed a tick for, and has none now."""
    shown = set(first_sent(sent, f"shown-{part.first}").split())
    used = set(sent.get(f"use-{part.first}", []))
    keys = {f"{part.first}:{path}" for path in shown}
    return (before - keys) | {key for key in keys if key.partition(":")[2] not in used}


def _taught(sent: Sent, text: TextRead) -> list[LearntLabel]:
    """What words that were not read are said to mean, by what the seller calls them."""
    found = []
    for part in text.parts:
        for place, words in enumerate(part.listing.unread):
            means = first_sent(sent, f"means-{part.first}-{place}")
            label = label_of(words)
            if (
                means
                and label
                and part.kind is not None
                and part.kind.anatomy.is_quantity(f"{part.kind.prefix}.{means}")
            ):
                found.append(LearntLabel(part.kind.key, label, means))
    return found


def _with_leftovers(decided: Decided, sent: Sent, text: TextRead) -> Decided:
    """What lines that no part took are said to be: parts, or none; their first words are learnt."""
    lines, taught = dict(decided.lines), list(decided.taught)
    for number, words in text.kit.left:
        says = first_sent(sent, f"leftover-{number}")
        if says:
            lines[str(number)] = says
            label = label_of(words)
            taught += [LearntLabel(HEADS, label, says)] if label else []
    return replace(decided, lines=lines, taught=tuple(dict.fromkeys(taught)))


def _with_button(decided: Decided, does: str, sent: Sent) -> Decided:
    """What the pressed button decides: of the chosen line, `line:N:SAYS`, or `answer:FIRST:PATH:ANSWER`."""
    what, _, rest = does.partition(":")
    chosen = {"begin": first_sent(sent, "line-kind"), "goes-on": JOIN, "no-part": LEAVE}.get(what)
    if chosen:
        what, rest = "line", f"{first_sent(sent, 'line')}:{chosen}"
    if what == "line":
        number, _, says = rest.partition(":")
        return (
            replace(decided, lines={**decided.lines, number: says})
            if number.isdecimal() and says
            else decided
        )
    if what == "answer":
        key, _, answer = rest.rpartition(":")
        return replace(decided, answers={**decided.answers, key: answer})
    return decided
