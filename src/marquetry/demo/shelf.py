"""The demo's shelf: parts that go with the demo's watches or nearly so, suppliers, two donors.

`shelf.jsonl` holds a part a line. `like` names a part of a demo watch that it differs from by `set`.
"""

import json
from collections.abc import Mapping
from importlib.resources import files

from marquetry.core.fit.model import Model
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.faces import FACE
from marquetry.core.sheet.entries import Json
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import PART_LINK, PIECE_LINK, Part, parts_of
from marquetry.core.trade.terms import Terms
from marquetry.core.values.money import Money
from marquetry.store import shelf
from marquetry.store.database import Connection
from marquetry.store.donors import take_apart
from marquetry.store.pieces import Stock, add_piece, change_state, pieces_of_donor

SUPPLIERS = {
    "Sandbank Parts": "EUR",
    "Longshore Horology": "GBP",
    "Saltmarsh Tools": "EUR",
    "Fjell & Tang": "NOK",
}
CURRENCY_OF_OWN = "EUR"
DEARER = {"NOK": 11}
"""What the prices in `shelf.jsonl`, near the home currency's, are multiplied by."""


def stock_shelf(connection: Connection, builds: dict[str, Build]) -> None:
    """Put suppliers, parts and their pieces on the shelf."""
    for name, currency in SUPPLIERS.items():
        shelf.supplier_number(connection, name, currency)
    for line in files("marquetry.demo").joinpath("shelf.jsonl").read_text("utf-8").splitlines():
        row = json.loads(line)
        currency = SUPPLIERS.get(row["supplier"], CURRENCY_OF_OWN)
        price = Money.of(row["price"] * DEARER.get(currency, 1), currency) if "price" in row else None
        number = shelf.add_part(
            connection, _part(connection.model, row, builds), Terms("", row["supplier"], price)
        )
        for _ in range(row.get("pieces", 0)):
            add_piece(connection, number, Stock(row["place"], paid=price, supplier=row["supplier"]))


def with_pieces(connection: Connection, build: Build, terms: Mapping[str, Terms], only: str = "") -> Build:
    """The watch with a piece of the shelf in each slot; parts it shares with another watch are one part.

    `only` names the one kind of part that gets a piece.
    """
    for slot, kind, document in list(parts_of(build)):
        if only and kind.key != only:
            continue
        part = Part.of(kind, document)
        known = shelf.part_named(connection, kind.key, part.name)
        told = terms.get(part.name) or (known.terms if known else Terms())
        number = known.id if known else shelf.add_part(connection, part, told)
        stock = Stock(condition="new", paid=told.price, supplier=told.supplier)
        piece = add_piece(connection, number, stock)
        build = build.with_entry(slot, {**document, PART_LINK: number, PIECE_LINK: piece})
    return build


def take_donors_apart(connection: Connection, builds: dict[str, Build]) -> None:
    """Two donors: one much like Skerry Light with a faulty calendar, one slim and half described."""
    fair = builds["skerry-light"].renamed("Turnstone, from a fair")
    for key, name in (
        ("case", "Turnstone case 39"), ("dial", "Turnstone dial, worn"), ("hands", "Turnstone hands"),
        ("movement", "Tern 27 automatic, date, used"), ("crystal", "Turnstone crystal, scratched"),
    ):  # fmt: skip
        fair = fair.with_entry(f"{key}.name", name)
    for key in ("bezel", "bezel_insert", "holder", "crystal_gasket", "back_gasket"):
        fair = fair.without(key)
    for kind in (fair.anatomy.kind(key) for key in ("dial", "hands")):
        fair = _undressed(fair, kind)
    number = take_apart(connection, fair, Money(4500, "EUR"), "Bought at a fair; the date does not change.")
    for taken in pieces_of_donor(connection, number):
        if taken.kind == "crystal":
            change_state(connection, taken.id, "scrapped", "scratched too deep to polish")
    slim = builds["orchard"].renamed("Dunlin, out of a drawer")
    for key, name in (("case", "Dunlin case 35"), ("dial", "Dunlin dial"), ("strap", "Dunlin strap")):
        slim = slim.with_entry(key, {"name": name})
    for key in ("case_back", "chapter_ring", "holder", "back_gasket", "crystal_gasket"):
        slim = slim.without(key)
    take_apart(connection, slim, None, "Runs after cleaning. Case and dial not measured yet.")


OF_ITS_OWN = frozenset({"markers", "track", "window_frame", "window_shape", "inner_ring", "printing", "edge"})
"""What a part of the shelf keeps of the looks of the one that it is like; all else is its own."""


def _undressed(build: Build, kind: Kind) -> Build:
    """The build with that part's looks taken off, but for how it is laid out."""
    part = build.at(kind.prefix)
    bare = {key: value for key, value in part.items() if key not in {look.key for look in kind.looks}}
    if kind.face and FACE in part:
        bare[FACE] = {key: value for key, value in part[FACE].items() if key in OF_ITS_OWN}
    return build.with_parts({kind.key: kind.held(bare)})


def _part(model: Model, row: dict[str, Json], builds: dict[str, Build]) -> Part:
    if "like" in row:
        watch, _, kind = row["like"].partition("/")
        build = builds[watch]
    else:
        kind, build = (
            row["kind"],
            Build.empty("part", model.anatomy).with_entry(
                model.anatomy.kind(row["kind"]).slot, {"side": "dial"}
            ),
        )
    described = model.anatomy.kind(kind)
    build = _undressed(build, described)
    for path in row.get("drop", ()):
        build = build.without(f"{described.prefix}.{path}")
    for path, value in {"name": row["name"], **row.get("set", {}), **row.get("looks", {})}.items():
        old = build.dimensions.get(f"{described.prefix}.{path}")
        tolerated = {"value": value, "tol": old.tol, "source": old.source.value} if old else value
        build = build.with_entry(f"{described.prefix}.{path}", tolerated)
    if "face" in row:
        place = f"{described.prefix}.{FACE}"
        build = build.with_entry(place, {**(build.at(place) or {}), **row["face"]})
    return Part.of(described, build.at(described.prefix))
