"""The run file: what a run of the strike drill started from and every command with its frame, as one JSON object.

Documented in docs/run-file.md. Played again it gives the same frames to the byte.
"""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from ..core.bench.command import Command
from ..core.fish.day import Day
from ..core.fish.states import Newcomer
from ..core.gear.lures import Lure
from ..core.gear.settings import Settings
from ..core.gear.unit import unit_from_dict
from ..core.hole import scene
from ..core.runs.run_log import RunLog, RunSetup
from . import json_file
from .fields import RunFields

MARK = "hollow_glint_run"
VERSION = 1


def to_fields(log: RunLog) -> dict[str, Any]:
    """Plain fields, as `fields.RunFields` has them. A command holds only what it asks for."""
    setup = {name: value for name, value in asdict(log.setup).items() if name != "schedule"}
    return {
        "setup": {**setup, "schedule": [{"at_s": at, **asdict(fish)} for at, fish in log.setup.schedule]},
        "commands": [{"frame": at, **_said(command)} for at, command in log.commands],
        "frames": log.frames,
    }


def _said(command: Command) -> dict[str, Any]:
    plain = Command()
    return {
        name: value if name != "settings" else asdict(value)
        for name, value in vars(command).items()
        if value != getattr(plain, name)
    }


def from_fields(given: dict[str, Any]) -> RunLog:
    """The run of plain fields. Raises ValueError naming what is wrong."""
    setup = dict(given["setup"])
    unit = unit_from_dict(setup["unit"])
    schedule = []
    for one in setup["schedule"]:
        fish = dict(one)
        at = fish.pop("at_s")
        schedule.append((at, Newcomer(**fish)))
    commands = []
    for one in given["commands"]:
        asked = {name: value for name, value in one.items() if value is not None}
        at = asked.pop("frame")
        if "settings" in asked:
            asked["settings"] = Settings(**asked["settings"]).checked(unit)
        commands.append((at, Command(**asked)))
    setup |= {
        "unit": unit,
        "scene": scene.scene_from_dict(setup["scene"]),
        "settings": Settings(**setup["settings"]).checked(unit),
        "lure": Lure(**setup["lure"]),
        "day": Day(**setup["day"]),
        "schedule": tuple(schedule),
    }
    return RunLog(RunSetup(**setup), tuple(commands), given["frames"])


def write(log: RunLog) -> str:
    """The file's text."""
    return json_file.write(MARK, VERSION, to_fields(log))


def read(text: str) -> RunLog:
    """The run that a file's text holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a run file", RunFields, from_fields)
