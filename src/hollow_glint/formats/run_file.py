"""The run file: what a run of the strike drill started from and every command with its frame, as one JSON object.

Documented in docs/run-file.md. Played again it gives the same frames to the byte.
"""

from __future__ import annotations

from dataclasses import asdict, replace
from typing import Any

from ..core import fields
from ..core.bench.command import Command
from ..core.runs.run_log import RunLog, RunSetup
from . import json_file
from .fields import RunFields

MARK = "hollow_glint_run"
VERSION = 1


def to_fields(log: RunLog) -> dict[str, Any]:
    """Plain fields, as `fields.RunFields` has them. A command holds only what it asks for."""
    return {
        "setup": asdict(log.setup),
        "commands": [{"frame": at, **_asked(command)} for at, command in log.commands],
        "frames": log.frames,
    }


def _asked(command: Command) -> dict[str, Any]:
    plain = Command()
    return {
        name: value if name != "settings" else asdict(value)
        for name, value in vars(command).items()
        if value != getattr(plain, name)
    }


def from_fields(given: dict[str, Any]) -> RunLog:
    """The run of plain fields. Raises ValueError naming what is wrong."""
    setup = fields.from_fields(RunSetup, given["setup"], "the setup")
    setup = replace(setup, settings=setup.settings.checked(setup.unit))
    commands = []
    for one in given["commands"]:
        asked = {name: value for name, value in one.items() if value is not None}
        at = asked.pop("frame")
        command = fields.from_fields(Command, asked, "a command")
        if command.settings is not None:
            command = replace(command, settings=command.settings.checked(setup.unit))
        commands.append((at, command))
    return RunLog(setup, tuple(commands), given["frames"])


def write(log: RunLog) -> str:
    """The file's text."""
    return json_file.write(MARK, VERSION, to_fields(log))


def read(text: str) -> RunLog:
    """The run that a file's text holds, or ValueError with the line and field at fault."""
    return json_file.read(text, MARK, VERSION, "a run file", RunFields, from_fields)
