"""The application factory: everything the browser can reach, put together."""

from __future__ import annotations

import threading
from pathlib import Path
from typing import Any

from flask import Response, send_from_directory
from flask_openapi3 import Info, OpenAPI

from .. import __version__
from ..core.acoustics.bottom import BOTTOM_KINDS
from ..core.card.ice_guidance import INCH
from ..core.fish import hand
from ..core.gear.lures import OFF_BOTTOM_M
from ..core.gear.unit import FOOT
from ..core.pocket.along import MOST_COMBINATIONS
from ..core.search.usual import (
    PACE_M,
    USUAL_FISH_M_S,
    USUAL_SCHOOL_M,
    USUAL_SCHOOLS_PER_KM2,
    USUAL_SURE_M2,
)
from ..core.tuning.company import NEIGHBOUR_SHARE
from ..store.database import Database
from . import busy, guard, problems, removals, working
from .bench import routes as bench
from .bench import scenes
from .bench.first_fish import FirstFish
from .bench.live import LiveBenches
from .blueprint import StepBlueprint
from .card import routes as card
from .card import shelter
from .contract import Health, Problem
from .crew import roles
from .crew import routes as crew
from .gear import calibration
from .gear import routes as gear
from .hole import routes as hole
from .keeping import Keeper
from .log import files as log_files
from .log import outings, season
from .log import places as log_places
from .log import routes as log
from .pocket import routes as pocket
from .read import drills, photos, recordings
from .search import fan_cards, fans, looks, searches
from .search import routes as search
from .search.fans import LiveFans
from .search.first_look import FirstLook
from .search.looks import LiveLooks
from .strike import lab_and_sheet, runs
from .trip import day as trip_day
from .trip import lake_files, lakes, rig, sharing, shelter_places
from .trip import routes as trip
from .trip.surfaces import Surfaces

STATIC = Path(__file__).parent / "static"
MOST_BODY_BYTES = 64 * 1024
# What the page needs of the core besides the spans of fields.
CONSTANTS = {
    "foot_m": FOOT,
    "inch_m": INCH,
    "off_bottom_m": OFF_BOTTOM_M,
    "lift_slowly_m_s": hand.LIFT_SLOWLY,
    "lift_faster_m_s": hand.LIFT_FASTER,
    "lift_fast_m_s": hand.LIFT_FAST,
    "lower_slowly_m_s": hand.LOWER_SLOWLY,
    "let_sink_m_s": hand.LET_SINK,
    "draws_m_s": hand.DRAWS,
    "neighbour_share": NEIGHBOUR_SHARE,
    "pace_m": PACE_M,
    "most_combinations": MOST_COMBINATIONS,
    "usual_school_m": USUAL_SCHOOL_M,
    "usual_fish_m_s": USUAL_FISH_M_S,
    "usual_schools_per_km2": USUAL_SCHOOLS_PER_KM2,
    "usual_sure_m2": USUAL_SURE_M2,
    "hard_bottoms": [name for name, kind in BOTTOM_KINDS.items() if kind.feel == "hard"],
}


class Application(OpenAPI):
    """The application, with an OpenAPI document that tells the whole truth about errors."""

    def __init__(self, *given: Any, **named: Any) -> None:
        super().__init__(*given, **named)
        self._describing = threading.Lock()
        self._whole: dict[str, Any] = {}

    @property
    def api_doc(self) -> dict[str, Any]:
        """The OpenAPI document: every error is a problem document, and every id in a path may be unknown."""
        with self._describing:
            if not self.spec_json:
                for one in self.blueprints.values():
                    if isinstance(one, StepBlueprint):
                        one.describe(self)
                self._whole = self._told()
            return self._whole

    def _told(self) -> dict[str, Any]:
        document: dict[str, Any] = super().api_doc
        document["x-constants"] = CONSTANTS
        for name, schema in document["components"]["schemas"].items():
            model = problems.MODELS.get(name)
            if model is not None:
                _take_extensions(schema, model.model_json_schema())
        for path, operations in document["paths"].items():
            for operation in operations.values():
                answers = operation["responses"]
                # Any address may find the store or the machine too busy, or the disk full.
                answers.setdefault("503", {"description": "Busy"})
                answers.setdefault("507", {"description": "Disk full"})
                if "{" in path:
                    answers.setdefault("404", {"description": "Not Found"})
                    # An id that is no number leads to no address, or to one that takes other methods.
                    answers.setdefault("405", {"description": "Method Not Allowed"})
                for status, answer in answers.items():
                    if int(status) >= 400:
                        name = "StaleProblem" if status == "412" else "Problem"
                        schema = {"$ref": f"#/components/schemas/{name}"}
                        answer["content"] = {"application/problem+json": {"schema": schema}}
        return document


def _take_extensions(schema: Any, own: Any) -> None:
    """Give back to a schema the x- extensions (units, words) that the library drops on its way into the document."""
    if isinstance(schema, dict) and isinstance(own, dict):
        for name, value in own.items():
            if name.startswith("x-"):
                schema[name] = value
            elif name in schema:
                _take_extensions(schema[name], value)
    elif isinstance(schema, list) and isinstance(own, list):
        for one, same in zip(schema, own, strict=False):
            _take_extensions(one, same)


def create_app(
    database: Database,
    bound_to: str = "127.0.0.1",
    pace: float = 1.0,
    demo: bool = False,
    crew_url: str | None = None,
) -> Application:
    """The application over `database`, answering at the address it is `bound_to`, its water `pace` times as fast; in a
    `demo` a willing fish comes first. With a `crew_url`, at which others on the network find it, they may come in as
    members of a crew; without one every request is the host's."""
    app = Application(
        "hollow_glint",
        info=Info(title="Hollow Glint", version=__version__, description="All values in SI units."),
        validation_error_status=422,
        validation_error_model=Problem,
        validation_error_callback=problems.invalid,
        doc_prefix="/api",
        security_schemes={},  # none, said so: left out, the document would hold a null
        static_folder=None,
    )
    app.config["database"] = database
    app.config["first_fish"] = FirstFish(demo)
    app.config["live_benches"] = LiveBenches(pace=pace)
    app.config["first_look"] = FirstLook(demo)
    app.config["live_looks"] = LiveLooks(pace)
    app.config["live_fans"] = LiveFans(pace)
    app.config["imports"] = recordings.Imports()
    app.config["surfaces"] = Surfaces()
    app.config["keeper"] = Keeper(database)
    app.config["MAX_CONTENT_LENGTH"] = MOST_BODY_BYTES
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.config["crew"] = crew_url is not None
    app.config["crew_url"] = crew_url
    app.config["crew_news"] = crew.News()
    guard.register(app, bound_to)
    roles.register(app)
    problems.register(app)
    busy.register(app)
    working.register(app)

    @app.get("/api/health", responses={200: Health})
    def health() -> dict[str, Any]:
        """Whether the program is up, and how many live benches it runs."""
        live: LiveBenches = app.config["live_benches"]
        benches = {"live_benches": live.count(), "most_live_benches": live.most}
        return {"status": "ok", "version": __version__, **benches, "crew": app.config["crew"]}

    for blueprint in (
        hole.api,
        card.api,
        shelter.api,
        bench.api,
        gear.api,
        calibration.api,
        scenes.api,
        recordings.api,
        photos.api,
        drills.api,
        runs.api,
        lab_and_sheet.api,
        log.api,
        outings.api,
        season.api,
        log_files.api,
        log_places.api,
        search.api,
        searches.api,
        looks.api,
        fans.api,
        fan_cards.api,
        trip.api,
        lakes.api,
        lake_files.api,
        sharing.api,
        trip_day.api,
        shelter_places.api,
        rig.api,
        pocket.api,
        crew.api,
        removals.api,
        working.api,
    ):
        app.register_api(blueprint)

    @app.route("/")
    def page() -> Response:
        return send_from_directory(STATIC, "index.html", max_age=0)

    @app.route("/favicon.ico")  # asked for by browsers that open a bare address of the API
    @app.route("/icon.svg")
    def icon() -> Response:
        return send_from_directory(STATIC, "icon.svg", max_age=0)

    @app.route("/crew", endpoint="crew_page")
    def crew_page() -> Response:
        return send_from_directory(STATIC / "crew", "crew.html", max_age=0)

    @app.route("/crew/<path:name>", endpoint="crew_file")
    def crew_file(name: str) -> Response:
        return send_from_directory(STATIC / "crew", name, max_age=31_536_000)

    @app.route("/assets/<path:name>")
    def asset(name: str) -> Response:
        # Vite puts a hash of the contents into these names, so they never change.
        return send_from_directory(STATIC / "assets", name, max_age=31_536_000)

    return app
