"""What an order costs beside its parts: postage, tools, and whether the price of the whole is an offer."""

import re
from collections.abc import Iterator

from marquetry.core.measuring.listing.line import ListingLine
from marquetry.core.measuring.listing.price import asked_of, prices_in
from marquetry.core.measuring.listing.read import KitRead
from marquetry.core.values.money import Money

OFFER = re.compile(
    r"\b(?:kit|bundle|lot|package|together|altogether|everything|all (?:of it )?for|for (?:both|all)"
    r"|zusammen|alles|komplett\w*|ensemble|le tout)\b"
)
"""What makes the price of a whole an offer, and not only the sum of an order."""
POSTAGE = re.compile(r"shipping|postage|versand|porto|livraison|frais de port|delivery")
THRESHOLD = re.compile(r" (?:over|ab) ")
"""“Free shipping over 50 €” tells what must be bought, and not what sending costs."""


def is_offer(kit: KitRead) -> bool:
    """Whether a priced line speaks of the parts as one: “all together 95 €”."""
    of_parts = (line for part in kit.parts for line in part.text.split("\n"))
    plain = (ListingLine.of(words).plain for words in (*(words for _, words in kit.aside), *of_parts))
    return any(OFFER.search(words) and prices_in(words) for words in plain)


def postage_of(kit: KitRead) -> Money | None:
    """What sending costs; None where no line says so."""
    for _, words in kit.aside:
        plain = ListingLine.of(words).plain
        prices = prices_in(plain)
        if prices and POSTAGE.search(plain) and not THRESHOLD.search(plain):
            return Money.of(prices[0].amount, prices[0].currency)
    return None


def beside_parts(kit: KitRead) -> Iterator[Money]:
    """What the price of the whole holds and is no part's: tools, postage."""
    for _, words in (*kit.left, *kit.aside):
        for price in asked_of(ListingLine.of(words), of_kit=True)[:1]:
            yield Money.of(price.amount, price.currency)
    postage = postage_of(kit)
    if postage is not None:
        yield postage
