"""The cheapest orders found by trying every count of packs, in decimals: for small demands, and another way."""

import itertools
import random
from collections.abc import Iterator
from datetime import date, timedelta
from decimal import ROUND_HALF_EVEN, Decimal
from typing import Any

DECIMALS = {"EUR": 2, "GBP": 2, "SEK": 2, "JPY": 0, "TND": 3}
RATES = {"GBP": "1.17", "SEK": "0.0876", "JPY": "0.0061", "TND": "0.2964"}
MOST_PIECES = 8


def rounded(amount: Decimal, currency: str) -> Decimal:
    return amount.quantize(Decimal(1).scaleb(-DECIMALS[currency]), ROUND_HALF_EVEN)


def demand(seed: int) -> dict[str, Any]:
    """A small demand in which packs, breaks, postage, limits, duty, days and stock all matter."""
    draw = random.Random(seed)
    suppliers = []
    for number in range(draw.randint(1, 3)):
        currency = draw.choice(list(DECIMALS))
        suppliers.append({"name": f"S{number}", "currency": currency, "days": draw.randint(2, 12)})
        for key, chance, least, most in (
            ("postage", 0.7, 1, 6), ("free_over", 0.5, 4, 18), ("minimum", 0.3, 3, 9), ("duty_percent", 0.4, 1, 9),
        ):  # fmt: skip
            if draw.random() < chance:
                amount = Decimal(draw.randint(least * 4, most * 4)) / 4
                suppliers[-1][key] = str(amount if key == "duty_percent" else in_currency(amount, currency))
        suppliers[-1].setdefault("postage", "0")
    needs, offers = [], []
    for number in range(draw.randint(1, 2)):
        price = Decimal(draw.randint(150, 700)) / 100
        for _ in range(draw.choice((1, 1, 1, 2))):
            needs.append({"part": f"P{number}", "pieces": draw.randint(1, 2)})
            if draw.random() < 0.3:
                needs[-1]["by"] = f"2026-12-0{draw.randint(1, 6)}"
        sellers = [supplier for supplier in suppliers if draw.random() < 0.8]
        offers += [_offer(draw, supplier, f"P{number}", price) for supplier in sellers]
    stock = {"P0": 1} if draw.random() < 0.3 else {}
    return {
        "format": "marquetry-orders/1", "home": "EUR", "rates": RATES, "needs": needs, "stock": stock,
        "suppliers": suppliers, "offers": offers, "today": "2026-11-24",
    }  # fmt: skip


def in_currency(euros: Decimal, currency: str) -> Decimal:
    return rounded(euros / Decimal(RATES.get(currency, "1")), currency)


def _offer(draw: random.Random, supplier: dict[str, Any], part: str, euros: Decimal) -> dict[str, Any]:
    currency = supplier["currency"]
    price = in_currency(euros * draw.randint(85, 120) / 100, currency)
    offer: dict[str, Any] = {"supplier": supplier["name"], "part": part, "price": str(price)}
    if draw.random() < 0.3:
        offer["pack"] = draw.randint(2, 3)
    if draw.random() < 0.2:
        offer["price"] = str(price) + ("5" if "." in str(price) else ".5")
    if draw.random() < 0.3:
        offer["breaks"] = [[4, str(rounded(price * 9 / 10, currency))], [2, str(price)]]
    if draw.random() < 0.3:
        offer["stock"] = draw.randint(0, 5)
    return offer


def _line(offer: dict[str, Any], pieces: int, currency: str) -> Decimal:
    reached = [step for step in offer.get("breaks", ()) if step[0] <= pieces]
    price = max(reached, key=lambda step: int(step[0]))[1] if reached else offer["price"]
    return rounded(pieces * Decimal(price), currency)


def _lacking(asked: dict[str, Any]) -> dict[str, list[tuple[str, int]]]:
    found: dict[str, list[tuple[str, int]]] = {}
    left = dict(asked["stock"])
    for need in sorted(asked["needs"], key=lambda need: need.get("by", "9")):
        used = min(left.get(need["part"], 0), need["pieces"])
        left[need["part"]] = left.get(need["part"], 0) - used
        if need["pieces"] > used:
            found.setdefault(need["part"], []).append((need.get("by", "9"), need["pieces"] - used))
    return found


def _ways(asked: dict[str, Any], part: str, wanted: list[tuple[str, int]]) -> Iterator[tuple[int, ...]]:
    """Packs of each offer of the part, where they bring enough by every day."""
    arrives = {
        s["name"]: (date.fromisoformat(asked["today"]) + timedelta(days=s["days"])).isoformat()
        for s in asked["suppliers"]
    }
    offers = [o for o in asked["offers"] if o["part"] == part]
    days = sorted({day for day, _ in wanted})
    ranges = []
    for offer in offers:
        most = MOST_PIECES // offer.get("pack", 1)
        if "stock" in offer:
            most = min(most, offer["stock"] // offer.get("pack", 1))
        ranges.append(range(most + 1 if arrives[offer["supplier"]] <= days[-1] else 1))
    for packs in itertools.product(*ranges):
        if sum(count * o.get("pack", 1) for count, o in zip(packs, offers, strict=True)) > MOST_PIECES:
            continue
        if all(
            sum(
                n * o.get("pack", 1)
                for n, o in zip(packs, offers, strict=True)
                if arrives[o["supplier"]] <= day
            )
            >= sum(pieces for by, pieces in wanted if by <= day)
            for day in days
        ):
            yield packs


Rank = tuple[Decimal, int, list[str], int]


def cheapest(asked: dict[str, Any]) -> tuple[Rank | None, list[str]]:
    """Total, suppliers and pieces of the best orders, and what cannot be had; None where an order is too small."""
    lacking = _lacking(asked)
    ways = {part: list(_ways(asked, part, wanted)) for part, wanted in lacking.items()}
    missing = [
        part for part in dict.fromkeys(need["part"] for need in asked["needs"]) if ways.get(part) == []
    ]
    parts = [part for part in ways if part not in missing]
    best: Rank | None = None
    for chosen in itertools.product(*(ways[part] for part in parts)):
        found = _rank(asked, dict(zip(parts, chosen, strict=True)))
        if found is not None and (best is None or found < best):
            best = found
    return best, missing


def _rank(asked: dict[str, Any], packs: dict[str, tuple[int, ...]]) -> Rank | None:
    total, names, pieces = Decimal(0), [], 0
    taken = {
        id(offer): count
        for part, counts in packs.items()
        for offer, count in zip((o for o in asked["offers"] if o["part"] == part), counts, strict=True)
    }
    for supplier in asked["suppliers"]:
        currency, goods, any_line = supplier["currency"], Decimal(0), False
        for offer in asked["offers"]:
            count = taken.get(id(offer), 0) * offer.get("pack", 1)
            if offer["supplier"] == supplier["name"] and count:
                goods += _line(offer, count, currency)
                any_line, pieces = True, pieces + count
        if not any_line:
            continue
        if goods < Decimal(supplier.get("minimum", "0")):
            return None
        free = "free_over" in supplier and goods >= Decimal(supplier["free_over"])
        duty = rounded(goods * Decimal(supplier.get("duty_percent", "0")) / 100, currency)
        paid = goods + duty + (0 if free else Decimal(supplier["postage"]))
        total += rounded(paid * Decimal(RATES.get(currency, "1")), "EUR")
        names.append(supplier["name"])
    return total, len(names), names, pieces
