"""The bench's figures of trade: plans, shares, the order room's pages."""

import json
import random
import time
from pathlib import Path
from typing import Any

from starlette.testclient import TestClient

from marquetry.core.trade.plan import plan
from marquetry.core.trade.shares import shared
from marquetry.core.trade.solver import warm_up
from marquetry.formats.orders import read_demand
from marquetry.web.site.app import create_app
from tests.bench_pages import bare_client, median_ms, tell
from tests.strategies import MODEL

PARTS, SUPPLIERS, DEMANDS = 40, 8, 12
RATES = {"GBP": "1.17", "SEK": "0.0876", "NOK": "0.0855"}


def demand(seed: int) -> dict[str, Any]:
    """Forty parts at eight suppliers in four currencies: packs, breaks, postage, limits, duty, stock."""
    draw = random.Random(seed)
    suppliers, needs, offers = [], [], []
    for number in range(SUPPLIERS):
        currency = draw.choice(["EUR", "EUR", *RATES])
        worth = float(RATES.get(currency, "1"))
        suppliers.append({"name": f"S{number}", "currency": currency, "days": draw.randint(2, 20)})
        suppliers[-1]["postage"] = f"{draw.choice((0, 4.5, 6.5, 9)) / worth:.2f}"
        if draw.random() < 0.5:
            suppliers[-1]["free_over"] = f"{draw.choice((60, 120, 180, 300)) / worth:.2f}"
        if draw.random() < 0.4:
            suppliers[-1]["duty_percent"] = draw.choice(["2.5", "4.5", "10"])
    for number in range(PARTS):
        base = draw.choice((0.4, 1.9, 5, 12, 25, 60))
        needs.append({"part": f"P{number}", "pieces": draw.randint(1, 6 if base < 10 else 3)})
        for supplier in suppliers:
            if draw.random() < 0.8:
                price = base * draw.uniform(0.8, 1.3) / float(RATES.get(str(supplier["currency"]), "1"))
                offer = {"supplier": supplier["name"], "part": f"P{number}", "price": f"{price:.2f}"}
                if draw.random() < 0.3:
                    offer |= {"breaks": [[5, f"{price * 0.9:.2f}"], [10, f"{price * 0.8:.2f}"]]}
                if draw.random() < 0.2:
                    offer |= {"pack": draw.choice((2, 3, 5))}
                offers.append(offer)
    return {
        "format": "marquetry-orders/1", "home": "EUR", "rates": RATES, "needs": needs, "stock": {},
        "suppliers": suppliers, "offers": offers, "today": "2026-11-24",
    }  # fmt: skip


def bench_trade(database: Path) -> None:
    """Plans of forty parts at eight suppliers, a share against a plain division, the pages against a bare one."""
    start = time.perf_counter()
    warm_up()
    tell("solver_import", time.perf_counter() - start, "s")
    spent, gaps = [], 0.0
    for seed in range(DEMANDS):
        asked = read_demand(json.dumps(demand(seed)).encode())
        start = time.perf_counter()
        gaps = max(gaps, plan(asked).gap)
        spent.append(time.perf_counter() - start)
    spent.sort()
    tell("plan_40_parts_8_suppliers", spent[len(spent) // 2], "s", worst=spent[-1], most=2.0, gap=gaps)
    bare = median_ms(lambda: [123_457 // 40 for _ in range(40)])
    tell("shares_of_40", median_ms(lambda: shared(123_457, list(range(1, 41)))), "ms", bare=bare)
    with TestClient(create_app(database, MODEL), base_url="http://127.0.0.1") as client:
        plain = bare_client()
        nothing = median_ms(lambda: plain.get("/"))
        for name, path in (
            ("orders", "/orders"),
            ("money", "/watches/1/money"),
            ("supply_order", "/orders/2"),
            ("stock", "/stock"),
        ):
            client.get(path)
            page = median_ms(lambda path=path: client.get(path))  # type: ignore[misc]  # a default of a lambda
            tell(f"page_{name}", page, "ms", bare=nothing, times_bare=page / nothing)
