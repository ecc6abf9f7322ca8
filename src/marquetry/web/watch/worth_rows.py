"""Beside a listed figure: the tolerance that its seller's figures have earned, in force or proposed."""

from dataclasses import replace

from marquetry.core.fit.rules import Rules
from marquetry.core.fit.sellers import SellersWorth
from marquetry.core.sheet.build import Build
from marquetry.core.values.dimension import Source
from marquetry.core.values.figures import figure
from marquetry.store.database import Connection
from marquetry.store.sellers_worth import sellers_worth
from marquetry.web.watch.rows import Fold, PartView, Row

ALIKE = 0.005
"""Two tolerances nearer than this are told alike, mm or degrees."""


def worth_told(connection: Connection, rules: Rules) -> tuple[SellersWorth, bool]:
    """What sellers' figures are worth, and whether the report goes by it."""
    return (sellers_worth(connection), False) if rules.worth is None else (rules.worth, True)


def fold_with_worth(fold: Fold, build: Build, worth: SellersWorth | None, *, in_force: bool) -> Fold:
    """The fold with what its listed figures are worth beside them, where it is open."""
    if fold.view is None or worth is None:
        return fold
    return replace(fold, view=view_with_worth(fold.view, build, worth, in_force=in_force))


def view_with_worth(view: PartView, build: Build, worth: SellersWorth, *, in_force: bool) -> PartView:
    """A part's rows, and those of all that is in it, with what its listed figures are worth."""
    rows = tuple(row_with_worth(row, build, worth, in_force=in_force) for row in view.rows)
    inner = tuple(view_with_worth(part, build, worth, in_force=in_force) for part in view.inner)
    return replace(view, rows=rows, inner=inner)


def row_with_worth(row: Row, build: Build, worth: SellersWorth | None, *, in_force: bool) -> Row:
    """One row; a remark or an error that stands there already goes first."""
    dimension = build.dimensions.get(row.path) if row.kind == "quantity" else None
    if worth is None or dimension is None or dimension.source is not Source.LISTED or row.remark or row.error:
        return row
    found = worth.at(build, row.path)
    if found is None:
        return row
    unit = build.anatomy.quantity_at(row.path).unit
    pairs = "one figure" if found.pairs == 1 else f"{found.pairs} figures"
    told = figure(found.tolerance, 2, unit)
    how = "Counts with" if in_force else "Worth"
    remark = f"{how} ±{told}, by {pairs} of {found.supplier} that were measured."
    if in_force or abs(found.tolerance - dimension.tol) < ALIKE:
        return replace(row, remark=remark)
    return replace(row, remark=remark, offers=((f"Use ±{told}", f"{row.value} ±{figure(found.tolerance)}"),))
