"""The log in and out, weather from a station of one's own, and a backup of everything with its way back."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any

from flask import Response, current_app, request

from ... import __version__
from ...core.checks import InputError
from ...core.log.outing import Outing, moment
from ...core.log.weather import pressure_at, trend_at
from ...core.trip.sun import SunTimes
from ...formats import log_file, station_csv
from ...store import backup, lakes, log_exchange, outings
from ...store.outings import KeptOuting
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from ..database import database, utc
from ..files import attachment
from ..trip.surfaces import Surfaces
from .contract import BackupOut, LogFileAsked, LogFileKind, TakenInOut, WeatherOut, WeatherWanted
from .noting import sun_then

api = StepBlueprint("log_files", __name__, "Log")


@api.get("/log/file", responses=answers(200, None, 422))
def give_log(query: LogFileAsked) -> Response:
    """The whole log as a file: JSON, or three tables of CSV in a ZIP."""
    kind: LogFileKind = query.kind
    everything = log_exchange.everything(database())
    if kind == "json":
        return attachment(log_file.write_json(everything), "log", "log", "json")
    return attachment(log_file.write_tables(everything), "log", "log", "zip")


@api.post("/log/file", responses=answers(200, TakenInOut, *BODY))
def take_log() -> dict[str, Any]:
    """Take a log in, as JSON or as a ZIP of tables: what is here already is not taken twice. All of it, or nothing."""
    content = request.get_data()
    if not content:
        raise InputError("the body is empty: a log file is accepted")
    if content.startswith(b"PK"):
        given = log_file.read_tables(content)
    else:
        try:
            given = log_file.read_json(content.decode("utf-8-sig"))
        except UnicodeDecodeError:
            raise InputError("the file is neither a ZIP nor text in UTF-8: a log file is accepted") from None
    return plain(log_exchange.take_in(database(), given, _sun_of()), TakenInOut)


def _sun_of() -> Callable[[int | None, Outing], SunTimes | None]:
    known = {one.id: one.lake for one in lakes.every(database())}

    def sun(lake_id: int | None, outing: Outing) -> SunTimes | None:
        lake = None if lake_id is None else known[lake_id]
        return sun_then(lake, outing.began_at, outing.utc_offset_min)

    return sun


@api.post("/log/weather", responses=answers(200, WeatherOut, *BODY))
def take_weather(body: WeatherWanted) -> dict[str, Any]:
    """Fill in pressure and its trend from a station's CSV, on outings where nobody noted them."""
    readings = station_csv.read(body.text, body.utc_offset_min)
    filled = 0
    for kept in outings.every(database()):
        outing = kept.outing
        if outing.pressure_hpa is not None and outing.pressure_trend is not None:
            continue
        began = moment("began_at", outing.began_at)
        pressure, trend = pressure_at(readings, began), trend_at(readings, began)
        told = {
            "pressure_hpa": outing.pressure_hpa if pressure is None or outing.pressure_hpa is not None else pressure,
            "pressure_trend": outing.pressure_trend or trend,
        }
        if (told["pressure_hpa"], told["pressure_trend"]) == (outing.pressure_hpa, outing.pressure_trend):
            continue
        mended = Outing(**{**vars(outing), **told})
        outings.change(database(), KeptOuting(kept.id, kept.version, kept.lake_id, kept.sun, mended))
        filled += 1
    return plain({"readings": len(readings), "filled": filled}, WeatherOut)


@api.get("/backup", responses=answers(200, None))
def give_backup() -> Response:
    """Everything as one file with its checksum."""
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "backup"
        backup.back_up(database(), made, utc(), __version__)
        return attachment(made.read_bytes(), f"hollow glint {utc()[:10]}", "backup", "zip")


@api.post("/backup", responses=answers(200, BackupOut, *BODY))
def restore_backup() -> dict[str, Any]:
    """Put a backup in place of everything. One that was cut short or altered is refused, and nothing is changed; what
    was here before stays beside the store."""
    content = request.get_data()
    if not content:
        raise InputError("the body is empty: a backup file is accepted")
    store = database()
    with tempfile.TemporaryDirectory(dir=store.path.parent) as folder:
        given = Path(folder) / "given"
        given.write_bytes(content)
        told = backup.restore(store, given)
    current_app.config["surfaces"] = Surfaces()  # of other lakes now
    return plain({**asdict(told), "kept_before": backup.kept_before(store.path).name}, BackupOut)
