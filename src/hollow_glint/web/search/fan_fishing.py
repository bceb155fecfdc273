"""Fishing under a fan that looks down: begun in a hole of the water, told of with every frame, moved by the hand."""

from __future__ import annotations

import threading
from dataclasses import asdict, dataclass, field, replace
from typing import Any

import numpy as np

from ...core.bench.command import HandCommand
from ...core.checks import InputError
from ...core.fan.card import FanCard, card_at
from ...core.fan.fishing import FanFishing, Seats, frame_due
from ...core.fan.head import FanHang, FanHead
from ...core.fan.look import FanLook
from ...core.fan.lures_heard import turn_for_all
from ...core.fan.reading import FanReader, FanReading
from ...core.fan.settings import FanSettings
from ...core.fields import from_fields
from ...core.gear.lures import USUAL_JIG
from ...core.search.made import seen_from
from ...core.search.patch import Patch
from ...store import lures
from ..bench.open_water import told
from ..database import database
from ..read.recording_contract import moment_fields
from .fan_fishing_contract import FishingWanted

READ_EVERY = 3  # frames from reading to reading


@dataclass(frozen=True)
class FishedWater:
    """What fishing begins from."""

    patch: Patch
    head: FanHead
    hang: FanHang
    settings: FanSettings
    start_s: float
    seed: int


@dataclass
class LiveFishing:
    """Fishing with what the hand was asked on the way in."""

    fishing: FanFishing
    lure_name: str
    reader: FanReader = field(default_factory=FanReader)
    lock: threading.Lock = field(default_factory=threading.Lock)
    commands: list[HandCommand] = field(default_factory=list)
    reading: dict[str, Any] | None = None  # the newest, as fields of `FanReadingOut`: a few a second are made
    _frames: int = 0

    def obey(self, command: HandCommand) -> None:
        """Queue a command for the next frame."""
        with self.lock:
            self.commands.append(command)

    def advance(self, seconds: float) -> None:
        """So much further [s], with what was asked since."""
        with self.lock:
            commands, self.commands = self.commands, []
        self.fishing.advance(seconds, commands, newest_only=True)
        if self._frames % READ_EVERY == 0:
            self.reading = fan_reading_fields(self.fishing.look, self.reader.see(self.fishing.look))
        self._frames += 1

    def fields(self) -> dict[str, Any]:
        """How things stand, as fields of `FishedOut`."""
        fished = self.fishing.fished
        return {**vars(fished), "events": [told(one) for one in fished.events], "reading": self.reading}

    def begun(self) -> dict[str, Any]:
        """As it begins, as fields of `FishingOut`."""
        fishing = self.fishing
        return {
            **asdict(fishing.seats), "lure": asdict(fishing.lure), "lure_name": self.lure_name,
            "lure_depth_m": fishing.fished.lure_depth_m, "bottom_depth_m": fishing.bottom_depth_m,
            "ice_m": fishing.striking.scene.ice_thickness_m,
        }  # fmt: skip


def fan_reading_fields(look: FanLook, reading: FanReading) -> dict[str, Any]:
    """What the picture says, with the turn of the handle that has all lures, as fields of `FanReadingOut`."""
    turn = turn_for_all(look, reading.lures)
    return {
        "time_s": reading.time_s, "touching": reading.touching, "lures": [asdict(one) for one in reading.lures],
        "fish": [asdict(one) for one in reading.fish],
        "moment": moment_fields(reading.moment),
        "turn": turn and {"said": asdict(turn.said), "aim_deg": turn.change and turn.change.value},
    }  # fmt: skip


def fishing_card(patch: Patch, wanted: FishingWanted, head: FanHead) -> FanCard:
    """The fan's card for a hole of the water, as far as one knows it there: how deep it is and how clear."""
    at = np.array([wanted.hole_east_m]), np.array([wanted.hole_north_m])
    card = card_at(float(patch.depth_at(*at)[0]), patch.clarity, "fish", head)
    # The handle points to one's own line, so that it hangs in the plane.
    return replace(card, hang=replace(card.hang, aim_deg=_seats(wanted).bearing_deg))


def searching_settings(patch: Patch, head: FanHead) -> FanSettings:
    """What the fan's card for searching sets at the first hole of a water: by its depth and clarity, nothing else."""
    return card_at(patch.bottom_depth_m, patch.clarity, "search", head).settings


def _seats(wanted: FishingWanted) -> Seats:
    return from_fields(Seats, wanted.model_dump(include={"apart_m", "bearing_deg", "beside_m"}), "the seats")


def begin_fishing(wanted: FishingWanted, water: FishedWater) -> LiveFishing:
    """Sit down at a hole of the water. Raises ValueError for one that is not fit to fish, NotFound for the lure."""
    if water.hang.mounting != "down":
        raise InputError(f"mounting is {water.hang.mounting!r}: accepted is 'down' to fish under the head")
    lure, name = USUAL_JIG, "The usual jig"
    if wanted.lure_id is not None:
        kept = lures.get(database(), wanted.lure_id)
        lure, name = kept.lure, kept.lure.name
    fishing = FanFishing(
        seen_from(water.patch, wanted.hole_east_m, wanted.hole_north_m), water.head, water.hang, water.settings,
        np.random.default_rng([water.seed, 3]), _seats(wanted), lure, water.start_s,
        wanted.lure_depth_m,
    )  # fmt: skip
    frame_due(fishing)
    return LiveFishing(fishing, name)
