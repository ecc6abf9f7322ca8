"""A table pasted with its heading row: which column counts pieces, which asks a price, which only adds up."""

import re
from collections.abc import Iterable
from dataclasses import replace
from itertools import pairwise

from marquetry.core.measuring.listing.line import ListingLine

GAP = re.compile(r"\t+|\s*\|\s*|\s{2,}")
"""What parts one cell of a row from the next."""
COLUMNS: tuple[tuple[str, str], ...] = (
    ("count", r"qty\.?|quantity|pcs\.?|pieces|count|no\. of pieces|menge|anzahl|stuck|stk\.?|quantite|qte\.?|nombre|pieces?"),
    ("price", r"(?:unit |item |single )?price(?: each)?(?: per (?:piece|pc|unit))?|each|(?:einzel|stuck)preis|preis|prix(?: unitaire)?|p\.?u\.?"),
    ("sum", r"(?:line )?(?:total|sum|amount)|subtotal|total price|gesamt(?:preis)?|summe|betrag|montant|prix total|total (?:ttc|ht)"),
    ("number", r"no\.?|nr\.?|#|pos(?:ition)?\.?|line|ref(?:erence)?\.?|code|sku|item no\.?|art(?:icle|ikel)?\.?[- ]?nr\.?|n°|numero"),
    ("words", r"parts?|items?|descriptions?|details?|products?|names?|goods|specs?|specifications?|notes?|remarks?|artikel|bezeichnung|teil|beschreibung|article|designation|description|produit|piece"),
)  # fmt: skip
OF_COLUMN = tuple(
    (name, re.compile(rf"(?:{pattern})\s*[(\[]?\s*(?:in )?(?P<unit>[$€£]|usd|eur|gbp|chf|mm)?\s*[)\]]?"))
    for name, pattern in COLUMNS
)
FEWEST_COLUMNS = 2
AMOUNT = re.compile(r"\d+(?:[.,']\d{3})*(?:[.,]\d{1,2})?")


def in_columns(lines: Iterable[ListingLine]) -> list[ListingLine]:
    """The lines, with the count and the price of each row of a table beside it, and what only adds up blanked.

    The heading row itself is no part's: it is marked as such. A row keeps its letters at their places, so that
    what is read of it can be shown in the seller's text.
    """
    made: list[ListingLine] = []
    columns: list[tuple[str, str]] = []
    for line in lines:
        headed = _columns_of(line)
        if headed:
            columns = headed
            made.append(replace(line, is_heading_row=True))
            continue
        cells = _cells(line.plain)
        if columns and len(cells) not in {len(columns), len(columns) - 1}:
            columns = [] if len(cells) == 1 else columns
        made.append(_row(line, cells, columns) if columns and len(cells) == len(columns) else line)
    return made


def _cells(plain: str) -> list[tuple[int, int]]:
    """Where the cells of a line stand; a line drawn with bars has none outside of its bars."""
    start, end = (len(plain) - len(plain.lstrip("| ")), len(plain.rstrip("| ")))
    edges = [start, *(place for found in GAP.finditer(plain, start, end) for place in found.span()), end]
    return [(first, last) for first, last in list(pairwise(edges))[::2] if last > first]


def _columns_of(line: ListingLine) -> list[tuple[str, str]]:
    """The columns that a heading row names, each with the currency in its heading; none of any other line."""
    cells = [line.plain[start:end].strip(" :") for start, end in _cells(line.plain)]
    if len(cells) < FEWEST_COLUMNS or any(letter.isdigit() for letter in line.plain):
        return []
    named = [_column(cell) for cell in cells]
    known = [column for column in named if column]
    if len(known) < max(FEWEST_COLUMNS, len(cells) - 1) or not {"count", "price", "sum"} & {
        c[0] for c in known
    }:
        return []
    return [column or ("words", "") for column in named]


def _column(cell: str) -> tuple[str, str] | None:
    for name, pattern in OF_COLUMN:
        if match := pattern.fullmatch(cell):
            return name, match["unit"] or ""
    return None


def _row(line: ListingLine, cells: list[tuple[int, int]], columns: list[tuple[str, str]]) -> ListingLine:
    plain, count, price = line.plain, line.count, line.asked
    names = [name for name, _ in columns]
    for (start, end), (name, unit) in zip(cells, columns, strict=True):
        cell = plain[start:end].strip()
        if name == "count" and (found := re.fullmatch(r"(\d{1,4})(?:\s*(?:x|pcs?\.?|stk\.?|st\.?))?", cell)):
            count = int(found[1])
        if name == "price" and unit and AMOUNT.fullmatch(cell):
            price = (cell, unit)
        if name in {"count", "number"} or (name == "sum" and "price" in names):
            plain = plain[:start] + "\0" * (end - start) + plain[end:]
    return replace(line, plain=plain, count=count, asked=price, is_row=True)
