"""Calibrating a unit with a known jig, and a stand-in unit to practise it on."""

from __future__ import annotations

import base64
from dataclasses import asdict
from typing import Any

from ...core.checks import InputError
from ...core.fields import from_fields
from ...core.gear.unit import UnitProfile, unit_to_dict
from ...core.hole.scene import Scene
from ...core.tuning import calibration
from ...core.tuning.calibration import Fit, GainReading
from ...core.wording import Sentence
from ...formats.mirror import Described
from ...stand_ins.sonar_unit import StandInUnit
from ...store import calibrations, lures, units
from ..blueprint import StepBlueprint
from ..contract import BODY, UnitOut, UnitPath, answers, plain
from ..database import database
from .contract import (
    CalibrationWanted,
    FitOut,
    KeptCalibration,
    LookOut,
    LookWanted,
    ReadingFields,
    RevealedOut,
    StandInWanted,
)
from .routes import unit_fields

api = StepBlueprint("calibration", __name__, "Calibration")


def _scene(water: Described) -> Scene:
    return Scene(bottom_kind="mud", visitors=0, **water.model_dump())


def _reading(given: ReadingFields) -> GainReading:
    lure = lures.get(database(), given.lure_id).lure
    return from_fields(GainReading, {**given.model_dump(exclude={"lure_id"}), "lure": lure}, "the reading")


def _nominal(unit_id: int) -> UnitProfile:
    """The unit's profile as it was before any calibration: what a fit starts from."""
    before = calibrations.find(database(), unit_id)
    return units.get(database(), unit_id).profile if before is None else before.before


def _fit(unit_id: int, body: CalibrationWanted) -> Fit:
    return calibration.fit(_scene(body.water), _nominal(unit_id), tuple(_reading(one) for one in body.readings))


def _plainly(said: Sentence) -> str:
    """A sentence with its values in SI units, as errors have them."""
    return said.text.format(**{name: f"{one.value:.1f} {one.unit}" for name, one in said.values.items()})


def _fit_out(unit_id: int, fit: Fit) -> dict[str, Any]:
    sure = fit.calibrated
    names = (
        "first_colour_db",
        "db_per_step",
        "colour_step_db",
        "residual_sd_db",
        "assumed",
        "doubts",
        "usable",
        "unseen",
    )
    return plain(
        {
            **{name: getattr(fit, name) for name in names},
            "first_colour_sd_db": sure.first_colour_sd_db,
            "db_per_step_sd": sure.db_per_step_sd,
            "colour_step_sd_db": sure.colour_step_sd_db,
            "used": sure.readings,
            "judged": [{k: v for k, v in vars(one).items() if k != "reading"} for one in fit.judged],
            "next_reading": fit.next_reading and asdict(fit.next_reading),
            "profile": {**unit_fields(units.get(database(), unit_id)), **unit_to_dict(fit.profile)},
        },
        FitOut,
    )


@api.get("/units/<int:unit_id>/calibration", responses=answers(200, KeptCalibration, 404))
def get_calibration(path: UnitPath) -> dict[str, Any]:
    """The readings a unit was calibrated from, or nulls."""
    units.get(database(), path.unit_id)
    kept = calibrations.find(database(), path.unit_id)
    if kept is None:
        return {"wanted": None, "applied_at": None}
    return plain({"wanted": kept.readings, "applied_at": kept.applied_at}, KeptCalibration)


@api.post("/units/<int:unit_id>/calibration/fit", responses=answers(200, FitOut, 404, *BODY))
def try_fit(path: UnitPath, body: CalibrationWanted) -> dict[str, Any]:
    """What the readings say, without keeping anything."""
    return _fit_out(path.unit_id, _fit(path.unit_id, body))


@api.put("/units/<int:unit_id>/calibration", responses=answers(200, UnitOut, 404, *BODY))
def calibrate(path: UnitPath, body: CalibrationWanted) -> dict[str, Any]:
    """Calibrate the unit from these readings: from now on everything uses its own numbers."""
    fit = _fit(path.unit_id, body)
    if not fit.usable:
        raise InputError(
            f"readings has {len(fit.judged)} that are no calibration yet: {' '.join(map(_plainly, fit.doubts))}"
        )
    unit = calibrations.apply(database(), path.unit_id, body.model_dump(mode="json"), fit.profile)
    return plain(unit_fields(unit), UnitOut)


@api.delete("/units/<int:unit_id>/calibration", responses=answers(200, UnitOut, 404))
def forget_calibration(path: UnitPath) -> dict[str, Any]:
    """Go back to the profile as it was before."""
    unit = calibrations.forget(database(), path.unit_id)
    return plain(unit_fields(unit), UnitOut)


@api.post("/units/<int:unit_id>/stand-in/look", responses=answers(200, LookOut, 404, *BODY))
def look(path: UnitPath, body: LookWanted) -> dict[str, Any]:
    """The picture that a stand-in for this unit, with hidden numbers, shows of the lure at a depth and gain."""
    unit, scene, at = _nominal(path.unit_id), _scene(body.water), _reading(body.reading)
    calibration.echo_level(scene, unit, at)  # refuses what cannot be
    levels, shown = StandInUnit(unit, body.seed).look(scene, at)
    return {
        "levels": base64.b64encode(levels.tobytes()).decode("ascii"),
        "pings": levels.shape[0],
        "rows": levels.shape[1],
        "top_m": shown.top_m,
        "bottom_m": shown.bottom_m,
    }


@api.post("/units/<int:unit_id>/stand-in/reveal", responses=answers(200, RevealedOut, 404, *BODY))
def reveal(path: UnitPath, body: StandInWanted) -> dict[str, Any]:
    """What the stand-in's hidden numbers were."""
    scale = StandInUnit(_nominal(path.unit_id), body.seed).reveal()
    return {"first_colour_db": scale.first_colour_db, "db_per_step": scale.db_per_step}
