"""Figures that are no length: counts, prices, years, numbers of models, ratings, water, hours, percentages."""

import re
from functools import lru_cache

BEFORE = re.compile(
    r"(?:\b(?:no|nr|num|nos)\b\.?|\bnumber|\bnummer|\bnumero|\bn°|\bitem|\bref(?:erence|erenz)?\b\.?|\bart\b\.?|\bartikel|"
    r"\bmodel+e?|\bsku|\bpart\b(?: no\.?)?|#|\bcode|\bean|\bset of|\bpack of|\blot of|\bsatz von|\blot de|\bgrade|\border|"
    r"\bcalib(?:re|er)|\bcal\b\.?|\bsince|\best\b\.?|\bseit|\bdepuis|\bversion|\bv\b\.?|\bstock|\bqty|\bquantity|\bmenge|"
    r"\bjewels|\bpower reserve|\bgangreserve|\bbeats per hour|\bvph|\bbph|\bvibrations(?: per hour)?|\blift angle|"
    r"\brating|\bseries|\bgen|\btype|\bshipping|\bversand|\blivraison|\bpostage|\b(?:[a-z]{1,4})-)\s*[.:#-]*\s*$"
)
AFTER = re.compile(
    r"\s*(?:%|percent|prozent|pcs?\b|pieces?\b|stuck\b|stk\b|pairs?\b|sold\b|verkauft|vendus?|reviews?|ratings?|jewels?|"
    r"rubine?|steine|rubis|pierres|h\b|hrs?\b|hours?|stunden|std\b|heures|days?|tage|jours|weeks?|wochen|semaines|"
    r"months?|years?|bph|vph|a/h|alt/h|beats|vibrations|halbschwingungen|hz\b|notches|clicks?\b|klicks|positions|atm\b|"
    r"bars?\b|m\b|ft\b|feet\b|meters?|metres?|meter\b|g\b|grams?|gramm|kg\b|x\b(?!\s*\d)|×(?!\s*\d)|parts?\b|sets?\b|stars?|in stock|"
    r"available|left\b|€|\$|£|eur\b|usd|gbp|chf|nok|sek|dkk|kr\b|th\b|st\b|nd\b|rd\b|s/d|sec|minutes?|min\b|hands\b|l\b(?=\s+steel)|"
    r"gen\b|-?hand\b|tpi|k\b|c\b|people|orders?|watchers|followers|feedback|-[a-z]\b|/5\b|/10\b|\s*/\s*5(?!\d))"
)
LENGTH_AFTER = re.compile(r"\s*(?:%|€|\$|£|eur\b|usd|gbp)")
MONEY_BEFORE = re.compile(r"(?:[$€£¥]|\b(?:eur|usd|gbp|chf|nok|sek|dkk|aud|cad|jpy|kr)\b\.?)\s*$")
WORDS_BEFORE = 48
"""Letters before a figure that may tell what it is: the whole line each time would be its length times itself."""
YEAR = re.compile(r"(?:19|20)\d\d")


@lru_cache(maxsize=2048)
def is_trap(plain: str, start: int, end: int, *, has_unit: bool) -> bool:
    """Whether the figure between two places of the line is no length."""
    since = max(0, start - WORDS_BEFORE)
    if MONEY_BEFORE.search(plain, since, start):
        return True
    if has_unit:
        return bool(LENGTH_AFTER.match(plain, end))
    written = plain[start:end].strip()
    return bool(BEFORE.search(plain, since, start) or AFTER.match(plain, end) or YEAR.fullmatch(written))
