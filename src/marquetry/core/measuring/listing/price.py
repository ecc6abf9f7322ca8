"""What a seller asks: the first price that is the part's own, not the postage's nor what it once was."""

import re

from marquetry.core.measuring.listing.line import ListingLine

CURRENCIES = {
    "$": "USD",
    "us$": "USD",
    "€": "EUR",
    "£": "GBP",
    "¥": "JPY",
    "kr": "NOK",
    "euro": "EUR",
    "euros": "EUR",
}
CODE = r"(?:usd|eur|gbp|chf|nok|sek|dkk|jpy|cad|aud|euros?|kr\b)"
AMOUNT = r"(?P<{0}>\d{{1,3}}(?:[.,' ]\d{{3}})+(?:[.,]\d{{1,2}})?|\d+(?:[.,]\d{{1,2}})?)"
PRICE = re.compile(
    rf"(?P<before>us\$|[$€£¥]|\b{CODE})\s*{AMOUNT.format('first')}(?![\d])"
    rf"|(?<![\w.,]){AMOUNT.format('second')}(?:[.,][-–])?\s*(?P<after>[$€£¥]|{CODE}(?![a-z]))"
)
NOT_THE_PRICE = re.compile(
    r"(?:\ball (?:for|together)|\bfor all|\bkit(?: price)?|\b(?:whole|complete) (?:kit|set|lot)|\bshipping|\bpostage|\bp&p|\bversand(?:kosten)?|\bporto|\blivraison|\bport\b|\bwas\b|\binstead of|\bstatt|\bau lieu de|"
    r"\bsave|\bsaving|\brrp|\buvp|\bold price|\bfrom\s+over|\boff\b|\bdeposit|\+)[^\d$€£]{0,14}$"
)
OF_THE_WHOLE = re.compile(r"\b(?:total|sum|gesamt(?:preis)?|zusammen|bundle|set)\b[^\d$€£]{0,14}$")
FOR_THE_WHOLE = re.compile(
    r"\s*(?:for (?:both|all|everything|the (?:kit|set|lot))|altogether|together|in total|total|zusammen|insgesamt|au total)\b"
)
"""Before and behind the price of a kit: what all its parts cost; of one part, it is the part's."""
POSTAGE_AFTER = re.compile(r"\s*(?:shipping|postage|p&p|versand|livraison|off\b|extra)")


def price_of(lines: list[ListingLine], *, of_kit: bool = False) -> tuple[float, str] | None:
    """Amount and ISO code of the currency, or None; `of_kit`, where the lines are one of several parts."""
    for line in lines:
        for match in PRICE.finditer(line.plain):
            before, after = line.plain[: match.start()], line.plain[match.end() :]
            if NOT_THE_PRICE.search(before) or POSTAGE_AFTER.match(after):
                continue
            if of_kit and (OF_THE_WHOLE.search(before) or FOR_THE_WHOLE.match(after)):
                continue
            written = match["first"] or match["second"]
            return amount_of(written), currency_of(match["before"] or match["after"])
    return None


def prices_at(plain: str) -> list[tuple[int, int]]:
    """Where in the line prices stand, whatever they are asked for."""
    return [match.span() for match in PRICE.finditer(plain)]


def amount_of(written: str) -> float:
    """The sum, whichever sign parts thousands and whichever hundredths; in the currency's main unit."""
    bare = re.sub(r"[' ]", "", written)
    found = re.fullmatch(r"(?P<whole>[\d.,]*?)(?:[.,](?P<cents>\d{1,2}))?", bare)
    if found is None:
        return float(re.sub(r"[.,]", "", bare))
    return float(re.sub(r"[.,]", "", found["whole"]) + "." + (found["cents"] or "0"))


def currency_of(written: str) -> str:
    """The ISO code of a currency's sign or code."""
    return CURRENCIES.get(written, written.upper())
