"""The application: routes, refusals, and the pages."""

import contextlib
from collections.abc import AsyncIterator, Callable, Mapping
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.routing import APIRoute
from pydantic import BaseModel
from sqlalchemy import Engine, text
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import FileResponse, Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

from yielding_coil import VERSION
from yielding_coil.analyser.link import Link, Simulated
from yielding_coil.analyser.profiles import Profile
from yielding_coil.api import (
    analyser,
    bench,
    build,
    choice,
    design,
    diagnosis,
    drawer,
    jobs,
    line,
    log,
    matching,
    quantities,
    reach,
    sheet,
    sweep,
    tables,
    trim,
    winding,
    wire,
)
from yielding_coil.api.http import (
    RESPONSES,
    Guard,
    Inside,
    Jobs,
    QueuedJobs,
    Reach,
    Relay,
    Telling,
    install_problems,
)
from yielding_coil.api.sweep import Antennas
from yielding_coil.core.errors import RefusedError
from yielding_coil.searchers import Searchers
from yielding_coil.store.migrate import newest_shape

PAGES = Path(__file__).parents[2] / "web" / "dist"


class Health(BaseModel):
    """The application answers."""

    version: str


class NotReadyError(RefusedError):
    """It answers, and cannot do its work yet."""

    code = "not_ready"
    status = 503


class _Pages(StaticFiles):
    """The built front end; addresses inside the application get its one page."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        try:
            response = await super().get_response(path, scope)
        except HTTPException as error:
            last = path.rsplit("/", 1)[-1]
            if error.status_code != 404 or path.startswith(("api/", "assets/")) or "." in last:
                raise
            response = await super().get_response("index.html", scope)
        asset = path.startswith("assets/")
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if asset else "no-cache"
        return response


def create_app(
    engine: Engine,
    pages: Path = PAGES,
    revive: Callable[[], None] | None = None,
    simulated: Simulated | None = None,
    is_disk_full: Callable[[], bool] = lambda: False,
    reached: Reach | None = None,
    profiles: Mapping[str, Profile] | None = None,
    queued: QueuedJobs | None = None,
    hub: str | None = None,
    inside: bool = False,
    in_lines: bool = False,
) -> FastAPI:
    """The application on a database; without built pages it serves the API alone.

    `revive` brings a database back that has stopped; it is called when one does not answer, unless `is_disk_full`
    says why. `simulated` starts the simulated analyser. `reached` says who is served beside this computer,
    `profiles` how analysers are spoken to where the owner wrote some of his own.

    Of several processes each shares `queued` work; one is the hub, `inside`, which the others ask at its socket,
    `hub`.
    `in_lines` writes down each request as a line of JSON.
    """
    searchers = Searchers()

    @contextlib.asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        """The process that stands ready to search goes with the application."""
        yield
        searchers.stop()

    app = FastAPI(
        lifespan=lifespan,
        title="Yielding Coil",
        version=VERSION,
        generate_unique_id_function=_operation_id,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.engine = engine
    app.state.antennas = Antennas()
    app.state.revive = revive
    app.state.is_disk_full = is_disk_full
    app.state.reach = reached or Reach()
    app.state.link = Link(simulated, profiles)
    app.state.jobs = Jobs()
    app.state.queued = queued
    app.state.transfers = build.Transfers()
    app.state.searchers = searchers
    app.state.closing = lambda: False
    install_problems(app)
    if hub is not None and queued is not None:
        app.add_middleware(Relay, socket=hub, is_shared=queued.knows, hub_kinds=jobs.HUB_KINDS)
    # A phone at the end of the garden has little of a network.
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=4)
    app.add_middleware(Inside if inside else Guard)
    if in_lines and not inside:
        app.add_middleware(Telling)

    @app.get("/api/health", tags=["health"])
    async def health() -> Health:
        """Whether the application answers; it waits for no thread and no database."""
        return Health(version=VERSION)

    @app.get("/api/ready", tags=["health"], responses=RESPONSES)
    def ready(request: Request) -> Health:
        """Whether it can do its work: its database answers, in the shape that this version uses."""
        with request.app.state.engine.connect() as connection:
            shape = connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one()
        if shape != newest_shape():
            raise NotReadyError(f"the database is in shape {shape}; this version uses {newest_shape()}")
        return Health(version=VERSION)

    ground = (tables, sweep, wire, drawer, line, analyser, design, bench, build)
    desks = (winding, matching, choice, trim, log, sheet, diagnosis, reach)
    routers = [router for room in (*ground, *desks) for router in room.ROUTERS]
    for router in (*routers, quantities.router, jobs.router):
        app.include_router(router)
    if pages.is_dir():

        @app.get("/api/docs", include_in_schema=False)
        def docs() -> FileResponse:
            """The API's own page; everything it needs is served from here."""
            return FileResponse(pages / "api-docs.html")

        app.mount("/", _Pages(directory=pages, html=True))
    return app


def _operation_id(route: APIRoute) -> str:
    return route.name
