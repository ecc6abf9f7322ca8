"""Puts the application together: guards, routes, error pages, shipped files."""

from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.staticfiles import StaticFiles

from marquetry import __version__
from marquetry.core.fit.model import Model
from marquetry.core.section.undrawable import refuse_undrawable
from marquetry.devices.caliper import Caliper
from marquetry.store.open_connections import OpenConnections
from marquetry.store.statecache import StateCache
from marquetry.web.bench import begin
from marquetry.web.bench import routes as bench
from marquetry.web.brief import routes as brief
from marquetry.web.build import mishap_routes as mishaps
from marquetry.web.build import routes as build
from marquetry.web.build import timers, together
from marquetry.web.face import routes as face
from marquetry.web.finder import routes as finder
from marquetry.web.finder.finds import Find
from marquetry.web.handbook import routes as handbook
from marquetry.web.handbook import tour
from marquetry.web.handbook.written import Writer
from marquetry.web.house import routes as house
from marquetry.web.kits import routes as kits
from marquetry.web.make import batches, versions, workshop
from marquetry.web.make import routes as make
from marquetry.web.make.bodies import Bodies
from marquetry.web.measuring import caliper, rounds
from marquetry.web.measuring import routes as cards
from marquetry.web.next import routes as next_routes
from marquetry.web.order import money, stock, suppliers
from marquetry.web.order import routes as order
from marquetry.web.order.plans import Plans
from marquetry.web.prove import picture_routes, sound_routes, stand_ins, water_routes, wrist_routes
from marquetry.web.prove import routes as prove
from marquetry.web.rehearsal import routes as rehearsal
from marquetry.web.remedies import gaskets
from marquetry.web.remedies import routes as remedies
from marquetry.web.shelf import donors, exchange, parts, pieces
from marquetry.web.shelf import routes as shelf
from marquetry.web.site import patterns, sharing
from marquetry.web.site.addresses import addresses
from marquetry.web.site.errors import add_error_pages
from marquetry.web.site.guards import BodyLimit, OriginGuard, PlainPath, SecurityHeaders
from marquetry.web.site.jobs import Jobs, Work
from marquetry.web.site.live import BenchLines, Wedge
from marquetry.web.site.pages import STATIC, make_templates
from marquetry.web.site.sharing import Doorkeeper, Sharing
from marquetry.web.story import away_routes, card_routes, workshop_routes
from marquetry.web.story import routes as story
from marquetry.web.watch import downloads, filling, stated, trial, wanted
from marquetry.web.watch import routes as watch
from marquetry.web.watch.reports import Reports

ROUTES = (
    bench, begin, caliper, house, brief, face, workshop, batches, versions, make, next_routes, kits, rounds,
    trial, cards, shelf, exchange, order, suppliers, money, stock, build, mishaps, together, timers,
    sound_routes, stand_ins, wrist_routes, water_routes, picture_routes, prove,
    story, card_routes, away_routes, workshop_routes, rehearsal, handbook, tour,
    sharing, filling, finder, remedies, gaskets, wanted, stated,
    watch, downloads, parts, pieces, donors, patterns,
)  # fmt: skip
"""In this order: `watch` ends with an address that takes any word."""
QUICK = 4
"""Half the time of the usual level, for a twentieth more bytes over a wire that is none."""
LOCAL_HOSTS = ("127.0.0.1", "localhost", "[::1]")


def begin_on(app: FastAPI, database: Path, model: Model, kept: StateCache | None = None) -> None:
    """Give the application a workshop, and nothing yet of what it keeps in mind while it runs (in `kept`).

    An application may be given another one: finding out its routes takes longer than most of its pages.
    """
    app.state.database, app.state.model = database, model
    app.state.works, app.state.wedge, app.state.caliper = Jobs[Work]("pieces of work"), Wedge(), Caliper()
    kept = app.state.kept = StateCache() if kept is None else kept
    app.state.connections = OpenConnections(database, model, kept)
    app.state.reports, app.state.bodies = Reports(kept), Bodies(kept)
    app.state.bench_lines, app.state.chamber_line = BenchLines(), Wedge()
    app.state.finds, app.state.plans = Jobs[Find]("searches"), Plans(kept)


@asynccontextmanager
async def _lifespan(app: FastAPI) -> AsyncIterator[None]:
    yield
    app.state.connections.close()


def create_app(
    database: Path, model: Model, allowed_hosts: Sequence[str] = (), shared: Sharing | None = None
) -> FastAPI:
    """The application on one workshop's database; it answers to this machine's names and `allowed_hosts`.

    `shared` where it is on the local network: then nothing answers without the passphrase.
    """
    refuse_undrawable(model)
    app = FastAPI(title="Marquetry", version=__version__, docs_url=None, redoc_url=None, lifespan=_lifespan)
    begin_on(app, database, model)
    app.state.sharing = shared
    app.state.templates = make_templates(app)
    app.state.templates.env.globals["tour_stop"] = tour.tour_stop
    app.state.handbook = Writer(model, addresses(app))
    app.include_router(finder.watch_router)
    app.include_router(order.watch_router)
    for routes in ROUTES:
        app.include_router(routes.router)
    app.mount("/static", StaticFiles(directory=STATIC), name="static")
    add_error_pages(app)
    # The last one added meets a request first.
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=QUICK)
    if shared is not None:
        app.add_middleware(Doorkeeper, sharing=shared)
    app.add_middleware(BodyLimit)
    app.add_middleware(PlainPath)
    app.add_middleware(OriginGuard)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=[*LOCAL_HOSTS, *allowed_hosts])
    app.add_middleware(SecurityHeaders)
    return app
