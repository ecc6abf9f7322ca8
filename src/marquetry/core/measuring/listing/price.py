"""What a seller asks: the figure that touches a currency, never the nearest one; per piece where both are told.

A sign may stand before or behind its amount, and a figure that is no money may stand on its other side (“pip at
12 $25”). Which of the two is the amount, the gaps say; where both touch alike, the habit of the sign.
"""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import islice

from marquetry.core.measuring.listing.aside import INCLUDED, is_aside, is_part_of_the_whole, whole_at
from marquetry.core.measuring.listing.line import ListingLine

CURRENCIES = {
    "$": "USD", "us$": "USD", "ca$": "CAD", "c$": "CAD", "a$": "AUD", "au$": "AUD", "€": "EUR", "£": "GBP", "¥": "JPY", "kr": "NOK", "euro": "EUR", "euros": "EUR",
    "dollar": "USD", "dollars": "USD", "pounds": "GBP", "pound": "GBP", "quid": "GBP", "francs": "CHF", "franken": "CHF", "fr.": "CHF", "sfr": "CHF", "sfr.": "CHF", "fr": "CHF",
}  # fmt: skip
SIGN = re.compile(
    r"(?:us|ca|au|c|a)?\$|[€£¥]|(?<![a-z])(?:usd|eur|gbp|chf|nok|sek|dkk|jpy|cad|aud|euros?|dollars?|pounds?|quid|francs|franken|s?fr\b\.?|kr)(?![a-z])"
)
AMOUNT = r"\d{1,3}(?:[.,']\d{3})+(?:[.,]\d{1,2})?|(?<![a-z] )[1-9] \d{3}[.,]\d{2}|\d+(?:[.,]\d{1,2})?"
AHEAD = re.compile(rf"(?P<gap>\s{{0,2}})(?P<amount>{AMOUNT})(?:[.,]?-{{1,2}})?(?!\d|[.,]\d)")
BEHIND = re.compile(rf"(?<![\w.,/])(?P<amount>{AMOUNT})(?:[.,]-{{1,2}})?(?P<gap>\s{{0,2}})$")
SPLIT_BY_SIGN = re.compile(r"(?<![\w.,])(?P<whole>\d{1,5})(?P<sign>[€£$])(?P<cents>\d{2})(?!\d)")
"""As in “12€50”."""
WINDOW = 24
"""Letters before a sign in which its amount is looked for: the whole line each time would be its length times itself."""
MOST_PRICES = 12
"""Prices of a line that are read; a seller's line has one or two, and each is held against the words round it."""
SIGNS_BEFORE = frozenset("$£¥")
"""Signs that are written before their amount where nothing else tells."""
NOT_THE_PRICE = re.compile(
    r"(?:\bshipping|\bpostage|\bdelivery|\bp&p|\bversand(?:kosten)?|\bporto|\blivraison|\bport\b|\bwas\b|\binstead of|\bstatt|\bau lieu de|\bnormally|\busually|"
    r"\bsave|\bsaving|\brrp|\buvp|\bold price|\bfrom\s+over|\bover\b|\babove\b|\babove|\bab\b|\bover|\bmore than|\boff\b|\bdeposit|\bvat|\btax|\bmwst|\btva|\+)[^\d$€£]{0,14}$"
)
POSTAGE_AFTER = re.compile(
    r"\s*(?:shipping|postage|p&p|delivery|versand|livraison|de port|off\b|extra|discount|rabatt|deposit)"
)
OF_ONE_BEFORE = re.compile(
    r"(?:@|\bje(?:weils)?\b|\ba\b|\beach\b|\bper (?:piece|pc|unit)\b|\bunit price|\beinzelpreis|\bstuckpreis|\bprix unitaire|\bpro stuck\b)[^\d$€£]{0,10}$"
)
OF_ONE_AFTER = re.compile(
    r"\s*(?:/\s*(?:pc|piece|stk|stuck|st|ea|unit|pce)\b|each\b|ea\b|apiece\b|per (?:piece|pc|unit|set|one)\b|je\b|pro stuck|das stuck|(?:la |par |/ ?)?piece\b|l.unite|chacune?|per\b)"
)
OF_THE_WHOLE = re.compile(
    r"\b(?:all (?:for|together)|for all|kit(?: price)?|(?:whole|complete) (?:kit|lot)|total|sum|gesamt(?:preis)?|zusammen|bundle)\b[^\d$€£]{0,14}$"
)
FOR_THE_WHOLE = re.compile(
    r"\s*(?:for (?:both|all|everything|the (?:kit|lot))|altogether|together|in total|total|zusammen|insgesamt|au total)\b"
)
"""Before and behind the price of a kit: what all its parts cost; of one part, it is the part's."""


@dataclass(frozen=True, slots=True)
class PriceAt:
    """A price where it stands in a line: amount, ISO code of the currency, and whether it is said to be of one piece."""

    amount: float
    currency: str
    start: int
    end: int
    of_one: bool = False


@lru_cache(maxsize=1024)
def prices_in(plain: str) -> tuple[PriceAt, ...]:
    """Every price of the line, whatever it is asked for, in order."""
    return tuple(islice(_prices(plain), MOST_PRICES))


def _prices(plain: str) -> Iterator[PriceAt]:
    taken = 0
    for match in SPLIT_BY_SIGN.finditer(plain):
        amount = float(f"{match['whole']}.{match['cents']}")
        yield _priced(plain, amount, match["sign"], match.start(), match.end())
    split = [match.span() for match in SPLIT_BY_SIGN.finditer(plain)]
    for sign in SIGN.finditer(plain):
        if any(start <= sign.start() < end for start, end in split):
            continue
        chosen = _amount_of_sign(plain, sign, taken)
        if chosen is None:
            continue
        written, start, end = chosen
        taken = end
        yield _priced(plain, amount_of(written), sign[0], start, end)


def _amount_of_sign(plain: str, sign: re.Match[str], taken: int) -> tuple[str, int, int] | None:
    """The amount that a sign goes with and where both stand; None for a sign that touches no figure."""
    ahead = AHEAD.match(plain, sign.end())
    since = max(taken, sign.start() - WINDOW)
    behind = BEHIND.search(plain[since : sign.start()])
    if ahead is None and behind is None:
        return None
    if ahead is not None and (behind is None or _belongs_ahead(sign[0], ahead, behind)):
        return ahead["amount"], sign.start(), ahead.end()
    assert behind is not None  # noqa: S101  # one of the two is there, and the other was not chosen
    return behind["amount"], since + behind.start(), sign.end()


def _belongs_ahead(sign: str, ahead: re.Match[str], behind: re.Match[str]) -> bool:
    """Whether a sign between two figures goes with the one after it: the nearer, else the one with cents."""
    if len(ahead["gap"]) != len(behind["gap"]):
        return len(ahead["gap"]) < len(behind["gap"])
    cents = [re.search(r"[.,]\d\d$", found["amount"]) is not None for found in (ahead, behind)]
    return cents[0] if cents[0] != cents[1] else sign[-1] in SIGNS_BEFORE


def _priced(plain: str, amount: float, sign: str, start: int, end: int) -> PriceAt:
    of_one = OF_ONE_BEFORE.search(plain, max(0, start - WINDOW), start) or OF_ONE_AFTER.match(plain, end)
    return PriceAt(amount, currency_of(sign), start, end, bool(of_one))


def asked_of(line: ListingLine, *, of_kit: bool) -> list[PriceAt]:
    """The prices of a line that a part can be asked: no postage, nothing that it once was, no whole kit's."""
    if line.asked is not None:
        start = line.text.find(line.asked[0])
        return [
            PriceAt(
                amount_of(line.asked[0]),
                currency_of(line.asked[1]),
                start,
                start + len(line.asked[0]),
                of_one=True,
            )
        ]
    if is_aside(line) or (of_kit and (whole_at(line) is not None or is_part_of_the_whole(line))):
        return []
    return [price for price in prices_in(line.plain) if _is_asked(line.plain, price, of_kit=of_kit)]


def _is_asked(plain: str, price: PriceAt, *, of_kit: bool) -> bool:
    before, after = plain[max(0, price.start - 2 * WINDOW) : price.start], plain[price.end :]
    before = INCLUDED.sub("", before)
    if NOT_THE_PRICE.search(before) or POSTAGE_AFTER.match(after):
        return False
    return not (of_kit and (OF_THE_WHOLE.search(before) or FOR_THE_WHOLE.match(after)))


def price_of(
    lines: Iterable[ListingLine], *, count: int = 1, of_kit: bool = False
) -> tuple[float, str] | None:
    """Amount and currency of one piece, or None; `of_kit`, where the lines are one of several parts.

    Where a line tells the price of one and the sum of all, the one that is said to be of one counts, else the lesser
    of two that are `count` apart.
    """
    found = [price for line in lines for price in asked_of(line, of_kit=of_kit)]
    if not found:
        return None
    of_one = next((price for price in found if price.of_one), None) if count > 1 or found[0].of_one else None
    chosen = of_one or _of_one(found, count)
    return chosen.amount, chosen.currency


def _of_one(found: list[PriceAt], count: int) -> PriceAt:
    first = found[0]
    for other in found[1:]:
        sums = count > 1 and abs(first.amount - count * other.amount) < 0.005 * count  # half a cent
        if sums and other.currency == first.currency:
            return other
    return first


def kit_price_of(lines: Iterable[ListingLine]) -> tuple[float, str] | None:
    """What the whole order costs: the last sum of its lines that is no subtotal; None where none is told."""
    whole = None
    for line in lines:
        since = whole_at(line)
        prices = prices_in(line.plain)
        if since is not None and prices and not is_part_of_the_whole(line):
            price = next((price for price in prices if price.end > since), prices[-1])
            whole = (price.amount, price.currency)
        elif behind := next((p for p in prices if FOR_THE_WHOLE.match(line.plain, p.end)), None):
            whole = (behind.amount, behind.currency)
    return whole


def prices_at(plain: str) -> list[tuple[int, int]]:
    """Where in the line prices stand, whatever they are asked for."""
    return [(price.start, price.end) for price in prices_in(plain)]


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
