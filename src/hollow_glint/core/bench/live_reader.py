"""The reader beside a living picture: what it says now, and the newest moment for as long as it holds."""

from __future__ import annotations

from ..gear.lures import Lure
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..reader.evidence import ReaderSetup
from ..reader.reader import Reader
from ..reader.report import Moment, PictureReading
from .frame import STEP_S, Frame
from .tape import pings_of_frame

MOMENT_HOLDS_S = 4.0  # how long a moment stays on the screen


class LiveReader:
    """Reads frame after frame. It sees only the picture and the rod, as an angler does."""

    def __init__(self, unit: UnitProfile, lure: Lure) -> None:
        self.unit, self.lure = unit, lure
        self.reading: PictureReading | None = None
        self.moment: Moment | None = None
        self._reader: Reader | None = None

    def see(self, frame: Frame, scene: Scene) -> None:
        """One frame further; of the scene only what an angler knows: where the face hangs, and how cold it is."""
        setup = ReaderSetup(self.unit, frame.settings, scene.face_depth_m, scene.temperature_c, self.lure)
        if self._reader is None:
            self._reader = Reader(setup)
        else:
            self._reader.turn(setup)
        for seen in pings_of_frame(frame, frame.time_s - STEP_S):
            now = self._reader.see(seen)
            self.reading = now if now.complete else self.reading
            for moment in now.moments:
                self.moment = moment
        if self.moment is not None and frame.time_s - self.moment.time_s > MOMENT_HOLDS_S:
            self.moment = None
