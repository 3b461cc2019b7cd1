"""The application: routers, problem details, and the built pages."""

from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from functools import partial
from pathlib import Path

from fastapi import FastAPI, HTTPException, Response
from starlette.middleware.gzip import GZipMiddleware
from starlette.routing import BaseRoute

from jade_perch import __version__
from jade_perch.api import (
    evening,
    events,
    eyepiece,
    instruments,
    journal,
    keeping,
    kit,
    lists,
    paper,
    places,
    plan,
    powers,
    practice,
    rehearsal,
    setup,
    solar,
    targets,
    weather,
)
from jade_perch.api.body_limit import BodyLimit
from jade_perch.api.broker import Broker
from jade_perch.api.document import document
from jade_perch.api.doors import Doors
from jade_perch.api.hours import Hours
from jade_perch.api.pages import built_routes, page_of
from jade_perch.api.porter import Porter
from jade_perch.api.problems import install_problem_handlers, unexpected
from jade_perch.api.rehearsals import Stage
from jade_perch.api.seal import Sealed
from jade_perch.core.sky.catalogue import Catalogue, catalogue
from jade_perch.devices.clock import Clock, HouseClock
from jade_perch.devices.hub import InstrumentHub
from jade_perch.devices.keeper import Keeper
from jade_perch.exchange.archive import MOST_ARCHIVE_BYTES
from jade_perch.exchange.pictures import MOST_PICTURE_BYTES
from jade_perch.standins.weather import USUAL_SEED
from jade_perch.store.connection import DATABASE_NAME, one_at_a_time
from jade_perch.store.copies import keep_copy
from jade_perch.store.damage import look_over
from jade_perch.store.opening import make_ready

# what is asked for over a slow way is packed; a short answer would only grow
LEAST_PACKED_BYTES, PACKING_LEVEL = 4_000, 4
EVERY_VERB = ["GET", "HEAD", "POST", "PUT", "PATCH", "DELETE"]


def create_app(
    data_dir: Path,
    clock: Clock,
    hosts: tuple[str, ...] = (),
    things: Catalogue | None = None,
    weather_seed: int = USUAL_SEED,
) -> FastAPI:
    """Return the application over the database in ``data_dir``, its schema brought forward.

    ``hosts`` are further names it answers to beside the loopback ones; ``things`` what can be
    looked at, where that is not the shipped catalogue; ``weather_seed`` chooses what the simulated
    weather service makes up.
    """
    with one_at_a_time(data_dir):
        look_over(data_dir, clock.real_utc())
        make_ready(data_dir / DATABASE_NAME, clock.now_utc())
    keeper = Keeper(partial(keep_copy, data_dir), lambda: clock.real_utc().date())
    whole = partial(_while_kept, keeper)
    app = FastAPI(
        title="Jade Perch",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        lifespan=whole,
        routes=[*built_routes(), *_stations()],
    )
    app.openapi = partial(document, app)  # type: ignore[method-assign]
    house_clock = app.state.clock = HouseClock(clock)
    app.state.stage = Stage(data_dir, house_clock)
    app.state.porter = Porter()
    app.state.keeper = keeper
    app.state.catalogue = catalogue() if things is None else things
    app.state.hours = Hours(weather_seed)
    broker = app.state.broker = Broker()
    app.state.instruments = InstrumentHub(partial(events.tell_reading, broker))
    install_problem_handlers(app)
    app.add_api_route("/api/openapi.json", app.openapi, include_in_schema=False)
    app.add_middleware(events.Announcer, broker=broker)
    larger = {"/api/journal/pictures": MOST_PICTURE_BYTES, keeping.UPLOAD: MOST_ARCHIVE_BYTES}
    app.add_middleware(BodyLimit, larger=larger)
    app.add_middleware(Doors, names=hosts)
    app.add_middleware(GZipMiddleware, minimum_size=LEAST_PACKED_BYTES, compresslevel=PACKING_LEVEL)
    app.add_middleware(Sealed, crashed=unexpected)
    _all_else(app)
    return app


def _stations() -> Sequence[BaseRoute]:
    """Return the routes of every station; they hold nothing of an application."""
    planning = (plan, places, weather, paper)
    working = (setup, solar, instruments, eyepiece, rehearsal, practice)
    stations = (kit, powers, *working, *planning, journal, lists, keeping, evening, targets)
    return [route for station in (*stations, events) for route in station.router.routes]


def _all_else(app: FastAPI) -> None:
    """Answer every address that is no route: nothing, a built file, or the one page."""

    @app.api_route("/api/{path:path}", methods=EVERY_VERB, include_in_schema=False)
    def nothing(path: str) -> Response:
        raise HTTPException(404, f"There is nothing at /api/{path}.")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        return page_of(path)


@asynccontextmanager
async def _while_kept(keeper: Keeper, _: FastAPI) -> AsyncIterator[None]:
    """Have the daily copy made as long as the application answers."""
    keeper.start()
    yield
    keeper.stop()
