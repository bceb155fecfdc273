"""A living bench: a scene, a unit, a lure and what swims, stepped through time. Commands in, frames out.

A run is a pure function of its generator's seed and the list of commands, to the byte, so that any run can be played
again. It knows no clock: the caller decides when the next step is due.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ..acoustics import sonar_equation
from ..checks import Floats, InputError
from ..fish.day import Day, draw_day
from ..fish.events import Event, Eyes
from ..fish.states import Newcomer
from ..fish.strike import Striking
from ..gear.lures import Lure
from ..gear.settings import Settings, picture_rate, smallest_range
from ..gear.unit import UnitProfile
from ..hole import scatterers, shoals
from ..hole.scene import Scene
from ..hole.swing import tilt_of
from ..sonar import picture, ping, receiver
from ..sonar.transmission import Levels, Transmission, transmit
from ..tuning.situation import Situation
from ..tuning.touched_mark import HeardPing
from ..tuning.verdicts import hanging
from .command import Command
from .frame import STEP_S, Frame
from .luck import Luck

SWAY_S = (2.7, 3.4)  # a transducer on a free cable swings round in about this [s], along x and y
SILT_HALF_LIFE_S = 60.0  # what a fight near the bottom stirs up has half settled after this. Common practice
REMEMBERED_S = 300.0  # how far back a mark can still be asked about
FOUND_IN_PINGS = 4  # the newest, of however many a block has
FOUND_FRAMES = 40  # for how many frames with pings it is remembered where the unit saw the bottom
LOCK_PINGS = 8  # how many pings automatic range looks at before it moves


class BenchRun:
    """A bench being run. `advance` it; read `settings` and `lure_depth_m` between steps."""

    def __init__(  # noqa: PLR0913 - all that a start is made of
        self,
        scene: Scene,
        unit: UnitProfile,
        settings: Settings,
        lure: Lure,
        rng: np.random.Generator,
        lure_depth_m: float | None = None,
        day: Day | None = None,
        line: str = "braid",
        schedule: Sequence[Newcomer] | None = None,
        first: Newcomer | None = None,
    ) -> None:
        """Start with the lure still at `lure_depth_m` [m], or just under the ice, eyes on the sonar.

        Without a `day` it is one on which fish are willing; `schedule` says who comes when, else chance does; `first`
        comes before those of chance. Raises ValueError for settings that the unit does not have.
        """
        self.scene = scene
        self.unit = unit
        self.lure = lure
        self.settings = settings.checked(unit)
        self.eyes: Eyes = "sonar"
        self._luck = Luck(rng)
        if day is None:
            day = draw_day("hot", scene.ice_thickness_m, scene.bottom_depth_m, self._luck.another())
        self.striking = Striking(scene, lure, day, line, self._luck.fish, lure_depth_m, schedule)
        if first is not None:
            self.striking.expect(first)
        self._swimming = shoals.set_swimming(scene, self._luck.another())
        self._frames = 0
        self._line_in_m = 0.0  # since the last ping
        self._pings = 0
        self._next_ping_s = 0.0
        self._silt = 0.0
        self._touching = False
        self._past: Levels | None = None
        self._past_of: object = None
        self._loud: list[Levels] = []
        self._found_bottom_m = scene.bottom_range_m
        self._found_lately: deque[float] = deque(maxlen=FOUND_FRAMES)
        self.lock_m: float | None = None
        self.margins_db = (0.0, 0.0)  # what is not known of the water, as the card has it
        self.target_depth_m = 0.0
        self.heard: deque[HeardPing] = deque(maxlen=int(REMEMBERED_S * unit.ping_rate_hz))
        self.recent: deque[tuple[NDArray[np.uint8], picture.Window]] = deque(maxlen=60)

    @property
    def lure_depth_m(self) -> float:
        """Where the lure is [m below the surface]."""
        return self.striking.lure_depth_m

    @property
    def day(self) -> Day:
        """The day's mood and rise line."""
        return self.striking.day

    @property
    def time_s(self) -> float:
        """Simulated time since the start [s]."""
        return self._frames * STEP_S

    @property
    def water(self) -> Scene:
        """The scene with the silt that fights have stirred up, in tenths so that it is worked out anew only seldom."""
        stirred = round(min(self.scene.silt + self._silt, 1.0), 1)
        return self.scene if stirred == self.scene.silt else replace(self.scene, silt=stirred)

    @property
    def transmission(self) -> Transmission:
        """The still part of a ping at the present settings."""
        return transmit(self.water, self.unit, self.settings)

    @property
    def ping_rate_hz(self) -> float:
        """Pings a second: the unit's rate, what the range allows, less what rejection costs [Hz]."""
        most = sonar_equation.max_ping_rate(self.settings.range_m, self.transmission.sound_speed_m_s)
        return picture_rate(self.unit, self.settings, most)

    @property
    def zoom(self) -> picture.Window:
        """The magnified window; the full column where none is asked for."""
        return picture.window(self.settings, self._found_bottom_m)

    @property
    def shown(self) -> picture.Window:
        """The main picture: the window, unless it stands beside the full column."""
        return picture.full_column(self.settings) if self.settings.beside else self.zoom

    @property
    def situation(self) -> Situation:
        """What the coach looks at."""
        return Situation(
            self.water,
            self.unit,
            self.settings,
            self.lure,
            self.lure_depth_m,
            self.shown,
            self.zoom,
            self.lock_m,
            self.margins_db,
            tuple(self._found_lately),
        )

    def advance(self, commands: Sequence[Command] = ()) -> Frame:
        """One step of STEP_S: obey `commands`, move everything, ping, paint. Raises ValueError and changes nothing
        when a command asks for settings that the unit does not have, or for a scene too shallow for its range."""
        wanted = [command.settings.checked(self.unit) for command in commands if command.settings is not None]
        new_scenes = [command.scene for command in commands if command.scene is not None]
        for one in new_scenes:
            if one.bottom_range_m > self.unit.ranges_m[-1]:
                raise InputError(
                    f"bottom_depth_m is {one.bottom_depth_m:g} m: this unit reaches {self.unit.ranges_m[-1]:g} m below "
                    "its face"
                )
        if new_scenes:
            self._change_scene(new_scenes[-1])
        if wanted:
            self._turn(wanted[-1])
        events: list[Event] = []
        for command in commands:
            events.extend(self._obey(command))
        strike = self.striking
        before = (strike.swing.x, strike.swing.y, self.lure_depth_m)
        events.extend(strike.move(self.time_s, STEP_S))
        events.extend(self._what_follows(events))
        self._silt *= 0.5 ** (STEP_S / SILT_HALF_LIFE_S)
        first_ping = self._pings
        levels, window_levels = self._picture(before)
        self._frames += 1
        self._line_in_m += before[2] - self.lure_depth_m
        line_in_m = 0.0
        if len(levels):  # a slow picture has steps without a ping; their line is seen with the next one
            line_in_m, self._line_in_m = self._line_in_m, 0.0
        return self._frame(
            first_ping, levels, window_levels, (before[2] - self.lure_depth_m) / STEP_S, line_in_m, events
        )

    def _frame(
        self,
        first_ping: int,
        levels: NDArray[np.uint8],
        window_levels: NDArray[np.uint8] | None,
        rising_m_s: float,
        line_in_m: float,
        events: Sequence[Event],
    ) -> Frame:
        """These pings, and how things stand now."""
        strike = self.striking
        return Frame(
            number=self._frames,
            time_s=round(self.time_s, 6),
            first_ping=first_ping,
            levels=levels,
            shown=self.shown,
            window_levels=window_levels,
            window_shown=self.zoom,
            found_bottom_m=self._found_bottom_m,
            settings=self.settings,
            lure_depth_m=self.lure_depth_m,
            lure_x=strike.swing.x,
            lure_rising_m_s=rising_m_s,
            line_in_m=line_in_m,
            rod_tip_bend=strike.tip.bend,
            rod_tip=strike.tip.says,
            stick_tip_bend=strike.stick_tip.bend,
            stick_tip=strike.stick_tip.says,
            eyes=self.eyes,
            target_depth_m=self.target_depth_m,
            lock_m=self.lock_m,
            school=self._school(),
            fish=strike.truths(),
            events=tuple(events),
        )

    def _turn(self, settings: Settings) -> None:
        """New knob positions. While automatic range is on, the range is the unit's own business."""
        if settings.auto_range and self.settings.auto_range:
            settings = replace(settings, range_m=self.settings.range_m)
        if settings.auto_range != self.settings.auto_range:
            self._loud, self.lock_m = [], None
        self.settings = settings
        self._found_lately.clear()

    def _change_scene(self, scene: Scene) -> None:
        if scene.shoals != self.scene.shoals:
            self._swimming = shoals.set_swimming(scene, self._luck.another())
        self.scene = scene
        self._found_lately.clear()
        self.striking.change_scene(scene)

    def _obey(self, command: Command) -> list[Event]:
        if command.eyes is not None:
            self.eyes = command.eyes
        if command.target_depth_m is not None:
            self.target_depth_m = command.target_depth_m
        if command.kick and self.settings.auto_range:
            self.settings = replace(self.settings, range_m=smallest_range(self.unit, 0.0))
            self._loud, self.lock_m = [], None
            self._found_lately.clear()
        return self.striking.obey(self.time_s, command)

    def _what_follows(self, events: list[Event]) -> list[Event]:
        """What comes of it besides: marks that begin to touch, silt stirred up by a fight near the bottom."""
        if any(event.kind == "landed" for event in events) and self.scene.bottom_kind in ("mud", "silt"):
            near = max(1.0 - (self.scene.bottom_depth_m - self.lure_depth_m) / 3.0, 0.0)
            self._silt = min(self._silt + 0.7 * near, 1.0)
        return [Event("marks touching", self.lure_depth_m)] if self._begins_to_touch() else []

    def _begins_to_touch(self) -> bool:
        """Whether the marks of a fish and the lure have just come nearer in range than the pulse can part."""
        face = self.scene.face_depth_m
        if self.lure_depth_m <= face:
            self._touching = False
            return False
        was = self._touching
        # Once touching, a little more room is needed to count as parted, so that the news is not told twice.
        near = self.transmission.resolution_m * (2.0 if was else 1.0)
        self._touching = any(
            abs(float(np.hypot(fish.z - face, fish.aside_m)) - (self.lure_depth_m - face)) < near
            and fish.aside_m < 0.8
            and fish.mood in ("curious", "following", "mouthing")
            for fish in self.striking.truths()
        )
        return self._touching and not was

    def _ping_times(self) -> NDArray[np.float64]:
        """When the pings of this step go out [s]; rejection moves each interval about by its stagger."""
        times = []
        rate, stagger = self.ping_rate_hz, self.unit.rejections[self.settings.rejection].stagger
        while self._next_ping_s < self.time_s + STEP_S - 1e-9:
            times.append(self._next_ping_s)
            moved = stagger * float(self._luck.water.uniform(-1.0, 1.0)) if stagger else 0.0
            self._next_ping_s += (1.0 + moved) / rate
        return np.array(times)

    def look_back(self, seconds: float) -> Frame:
        """The picture of the `seconds` [s] before the start, as one frame: this water and its shoals, the lure hanging
        still where it begins, no fish yet that minds it. RuntimeError once the first step is taken."""
        if self._frames:
            raise RuntimeError("this bench has begun; what was before is past")
        count = int(seconds * self.ping_rate_hz)
        times = (np.arange(count) - count) / self.ping_rate_hz
        lure = np.tile([self.striking.swing.x, self.striking.swing.y, self.lure_depth_m], (count, 1))
        levels, window_levels = self._paint(times, lure)
        return self._frame(0, levels, window_levels, 0.0, 0.0, ())

    def _picture(self, before: tuple[float, float, float]) -> tuple[NDArray[np.uint8], NDArray[np.uint8] | None]:
        """The pings of this step as picture rows: the main picture's, and the window's where one stands beside it."""
        times = self._ping_times()
        along = ((np.arange(times.size) + 1.0) / max(times.size, 1))[:, None]
        now = np.array([self.striking.swing.x, self.striking.swing.y, self.lure_depth_m])
        return self._paint(times, np.array(before) + (now - np.array(before)) * along)

    def _paint(self, times: Floats, lure_xyz: Floats) -> tuple[NDArray[np.uint8], NDArray[np.uint8] | None]:
        """The pings at `times` (pings,) [s] with the lure at `lure_xyz` (pings, 3) [m], as `_picture` gives them."""
        t, unit, settings = self.transmission, self.unit, self.settings
        beside = settings.beside and picture.zoomed(settings)
        count = times.size
        if count == 0:
            none = np.zeros((0, unit.rows), dtype=np.uint8)
            return none, none if beside else None
        strike = self.striking
        fish = strike.truths()
        xyz = np.tile(np.array([[one.x, one.y, one.z] for one in fish]).reshape(-1, 3), (count, 1, 1))
        targets, names = scatterers.gather(
            self.scene, self.lure, lure_xyz, tilt_of(strike.swing, self.lure), xyz,
            tuple((one.length_m, one.species) for one in fish), self._swimming, times,
            t.frequency_hz, t.sound_speed_m_s,
        )  # fmt: skip
        sway = None
        if not self.scene.on_float:
            phase = 2.0 * np.pi * times[:, None] / np.array(SWAY_S)
            sway = np.radians(hanging.SWAY_DEG) * np.sin(phase) * np.array([1.0, 0.6])
        echoes = ping.echo_levels(t, targets, count, self._luck.water, times, sway)
        self._remember(t, targets, names, times)
        # Pings of another grid or beam are nothing to compare with.
        if self._past_of is not t:
            self._past, self._past_of = None, t
        signal, self._past = receiver.receive(echoes, unit, settings, t, self._past)
        self._found_bottom_m = picture.find_bottom(signal[-FOUND_IN_PINGS:], t)  # in what rejection has kept
        self._found_lately.append(self._found_bottom_m)
        main = picture.paint_levels(signal, unit, settings, t, self.shown)
        window = picture.paint_levels(signal, unit, settings, t, self.zoom) if beside else None
        self.recent.extend((row, self.shown) for row in main)
        if settings.auto_range:
            self._look_for_bottom(echoes)
        return main, window

    def _look_for_bottom(self, echoes: Levels) -> None:
        """Automatic range: hold what the last strong echo asks for; with none in sight, try the next range up."""
        self._loud = [*self._loud, *echoes][-LOCK_PINGS:]
        if len(self._loud) < LOCK_PINGS:
            return
        ladder = self.unit.ladders[self.settings.ladder]
        over = (ladder.steps[-1].begins - ladder.first_begins) * self.unit.colour_step_db
        strong = receiver.first_colour_level(self.unit, self.settings) + over
        self.lock_m = picture.bottom_lock(np.array(self._loud), self.transmission, strong)
        spans = self.unit.ranges_m
        now = self.settings.range_m
        if self.lock_m is not None:
            wanted = smallest_range(self.unit, self.lock_m)
        elif self.unit.free_range:
            wanted = now * 1.5 if now * 1.5 <= spans[-1] else (spans[-1] if now < spans[-1] - 0.1 else spans[0])
        else:
            wanted = next((span for span in spans if span > now + 1e-3), spans[0])
        if abs(wanted - now) > 1e-3:
            self.settings = replace(self.settings, range_m=wanted)
            self._loud = []
            self._found_lately.clear()

    def _remember(
        self,
        t: Transmission,
        targets: scatterers.Scatterers,
        names: tuple[scatterers.EchoSource, ...],
        times: Floats,
    ) -> None:
        """Keep what was where at each ping, so that a mark can be asked about while it is still on the trace."""
        for k in range(times.size):
            place, strength_db = targets.place[:, k].T.astype(np.float32), targets.strengths.target_strength_db
            self.heard.append(HeardPing(self._pings, float(times[k]), t, place, strength_db, names))
            self._pings += 1

    def _school(self) -> NDArray[np.float32]:
        """Where every fish of the shoals is now, with its length: (fish, 4) [m]."""
        if not self._swimming:
            return np.zeros((0, 4), dtype=np.float32)
        now = np.array([self.time_s])
        places = [one.places(now, self.scene.bottom_depth_m)[0] for one in self._swimming]
        lengths = np.concatenate([one.length_m for one in self._swimming])
        return np.concatenate([np.concatenate(places), lengths[:, None]], axis=1).astype(np.float32)
