"""The application factory: everything the browser can reach, put together."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from flask import Response, send_from_directory
from flask_openapi3 import Info, OpenAPI
from pydantic import BaseModel

from .. import __version__
from ..store.database import Database
from . import bench, guard, hole, log, problems
from .contract import FrameOut, Health, Problem
from .live import LiveBenches

STATIC = Path(__file__).parent / "static"
MOST_BODY_BYTES = 64 * 1024


class FrameDocument(BaseModel):
    """Not an address: it puts the stream's frame into the OpenAPI document, for generated types."""

    frame: FrameOut


def create_app(database: Database, bound_to: str = "127.0.0.1") -> OpenAPI:
    """The application over `database`, answering to requests for the address it is `bound_to`."""
    app = OpenAPI(
        "hollow_glint",
        info=Info(title="Hollow Glint", version=__version__, description="All values in SI units."),
        validation_error_status=422,
        validation_error_model=Problem,
        validation_error_callback=problems.invalid,
        doc_prefix="/api",
        static_folder=None,
    )
    app.config["database"] = database
    app.config["live_benches"] = LiveBenches()
    app.config["MAX_CONTENT_LENGTH"] = MOST_BODY_BYTES
    app.json.sort_keys = False  # type: ignore[attr-defined]
    guard.register(app, bound_to)
    problems.register(app)

    @app.get("/api/health", responses={200: Health})
    def health() -> dict[str, Any]:
        """Whether the program is up, and how many live benches it runs."""
        live: LiveBenches = app.config["live_benches"]
        return {"status": "ok", "version": __version__, "live_benches": live.count(), "most_live_benches": live.most}

    @app.get("/api/frame-format", responses={200: FrameDocument})
    def frame_format() -> dict[str, Any]:
        """The JSON schema of the `frame` events in a bench's stream."""
        return FrameOut.model_json_schema()

    for blueprint in (hole.api, bench.api, log.api):
        app.register_api(blueprint)

    @app.route("/")
    def page() -> Response:
        return send_from_directory(STATIC, "index.html", max_age=0)

    @app.route("/<path:name>")
    def static_file(name: str) -> Response:
        # Vite puts a hash of the contents into the names under assets, so those never change.
        return send_from_directory(STATIC, name, max_age=31_536_000 if name.startswith("assets/") else 0)

    return app
