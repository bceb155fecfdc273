"""A living bench: a scene, a unit, a lure and a fish, stepped through time. Commands in, frames out.

A run is a pure function of its generator's seed and the list of commands, to the byte, so that any run can be played
again. It knows no clock: the caller decides when the next step is due.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from . import fish as fishes
from . import picture, ping, receiver, sonar_equation
from . import scene as scenes
from .checks import number, one_of
from .scene import Lure, Scene
from .unit import Settings, UnitProfile

STEP_S = 0.05  # one frame
HAND_M_S = 1.0  # the fastest a hand moves the line
TWITCH_M = 0.04
TWITCH_S = 0.2
FIRST_FISH_S = 12.0  # time to lower the lure and set the gain before there is something to look at
NEXT_FISH_S = (6.0, 14.0)


@dataclass(frozen=True)
class Command:
    """One thing the angler does. Only what is given changes.

    settings       new knob positions
    lift_m_s       hand speed [m/s], upwards positive, kept until changed; 0 holds still
    to_depth_m     let the lure go to this depth [m below the surface] and hold it there
    twitch         one short twitch of the rod
    eyes           "sonar" or "rod"
    set_hook       sets the hook
    """

    settings: Settings | None = None
    lift_m_s: float | None = None
    to_depth_m: float | None = None
    twitch: bool = False
    eyes: str | None = None
    set_hook: bool = False

    def __post_init__(self) -> None:
        if self.lift_m_s is not None:
            number("lift_m_s", self.lift_m_s, -HAND_M_S, HAND_M_S, "m/s")
        if self.to_depth_m is not None:
            number("to_depth_m", self.to_depth_m, 0.0, scenes.DEEPEST_M, "m")
        if self.eyes is not None:
            one_of("eyes", self.eyes, ("sonar", "rod"))


@dataclass(frozen=True)
class Event:
    """Something that happened: a code, and for a strike the depth [m] and fish length [m] (else 0)."""

    kind: str
    depth_m: float = 0.0
    fish_length_m: float = 0.0


@dataclass(frozen=True)
class FishTruth:
    """Where the fish truly is [m] and what it is about."""

    x: float
    y: float
    z: float
    length_m: float
    mood: str


@dataclass(frozen=True)
class Frame:
    """One step of the picture: `levels` (pings, rows) for the pings since the last frame, and what was true then.

    rod_tip_bend   0 straight to 1 buried
    """

    number: int
    time_s: float
    levels: NDArray[np.uint8]
    shown: picture.Window
    found_bottom_m: float
    settings: Settings
    lure_depth_m: float
    lure_rising_m_s: float
    rod_tip_bend: float
    eyes: str
    fish: tuple[FishTruth, ...]
    events: tuple[Event, ...]

    def to_bytes(self) -> bytes:
        """Every value of the frame as bytes, for comparing runs."""
        said = (
            self.number, self.time_s, self.shown, self.found_bottom_m, self.settings, self.lure_depth_m,
            self.lure_rising_m_s, self.rod_tip_bend, self.eyes, self.fish, self.events, self.levels.shape,
        )  # fmt: skip
        return repr(said).encode() + self.levels.tobytes()


class BenchRun:
    """A bench being run. `advance` it; read `settings` and `lure_depth_m` between steps."""

    def __init__(
        self, scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, rng: np.random.Generator
    ) -> None:
        """Start with the lure just under the ice, still, eyes on the sonar. Raises ValueError for wrong settings."""
        self.scene = scene
        self.unit = unit
        self.lure = lure
        self.settings = settings.checked(unit)
        self._hang_m = scene.ice_thickness_m + 0.05  # where the hand holds the lure; a twitch moves it off that
        self.lure_depth_m = self._hang_m
        self.eyes = "sonar"
        # Two streams of chance, so that how many pings a picture needs never changes what a fish does.
        self._water_luck, self._fish_luck = rng.spawn(2)
        self._fish: fishes.Fish | None = None
        self._next_fish_s = FIRST_FISH_S
        self._frames = 0
        self._pings_due = 0.0
        self._lift_m_s = 0.0
        self._to_depth_m: float | None = None
        self._twitch_s = 0.0
        self._found_bottom_m = scene.bottom_range_m
        self._touching = False

    @property
    def time_s(self) -> float:
        """Time since the start [s]."""
        return self._frames * STEP_S

    @property
    def shown(self) -> picture.Window:
        """The water in the picture."""
        return picture.window(self.settings, self._found_bottom_m)

    @property
    def transmission(self) -> ping.Transmission:
        """The ping as the present settings make it."""
        return ping.transmit(self.scene, self.unit, self.settings)

    @property
    def ping_rate_hz(self) -> float:
        """Pings per second: the unit's own rate, or less where the range needs longer to answer."""
        fastest = sonar_equation.max_ping_rate(self.settings.range_m, self.transmission.sound_speed_m_s)
        return float(min(self.unit.ping_rate_hz, fastest))

    def advance(self, commands: Sequence[Command] = ()) -> Frame:
        """Apply `commands` in order, let STEP_S pass, and return the frame. Raises ValueError for wrong settings."""
        wanted = [command.settings.checked(self.unit) for command in commands if command.settings is not None]
        if wanted:
            self.settings = wanted[-1]
        events: list[Event] = []
        twitched = False
        for command in commands:
            twitched |= command.twitch
            events.extend(self._obey(command))
        before = self.lure_depth_m
        self._move_lure(STEP_S)
        events.extend(self._move_fish(before, twitched))
        levels = self._picture(before)
        self._frames += 1
        return Frame(
            number=self._frames,
            time_s=round(self.time_s, 6),
            levels=levels,
            shown=self.shown,
            found_bottom_m=self._found_bottom_m,
            settings=self.settings,
            lure_depth_m=self.lure_depth_m,
            lure_rising_m_s=(before - self.lure_depth_m) / STEP_S,
            rod_tip_bend=self._rod_tip_bend(),
            eyes=self.eyes,
            fish=self._truth(),
            events=tuple(events),
        )

    def _obey(self, command: Command) -> list[Event]:
        if command.lift_m_s is not None:
            self._lift_m_s, self._to_depth_m = command.lift_m_s, None
        if command.to_depth_m is not None:
            self._lift_m_s, self._to_depth_m = 0.0, command.to_depth_m
        if command.twitch:
            self._twitch_s = TWITCH_S
        if command.eyes is not None:
            self.eyes = command.eyes
        return [self._set_hook()] if command.set_hook else []

    def _set_hook(self) -> Event:
        if self._fish is None:
            return Event("nothing there", self.lure_depth_m)
        self._fish, outcome = fishes.struck(self._fish, self.lure_depth_m)
        length = self._fish.length_m if outcome == "hooked" else 0.0
        return Event(outcome, self.lure_depth_m, length)

    def _move_lure(self, dt: float) -> None:
        """The lure follows the hand up; down it cannot pass its own sink speed; the bottom stops it."""
        speed = -self._lift_m_s  # downwards positive from here on
        if self._to_depth_m is not None:
            speed = (self._to_depth_m - self._hang_m) / dt
        speed = float(np.clip(speed, -HAND_M_S, min(HAND_M_S, self.lure.sink_speed_m_s)))
        # Held a little under the ice at the highest: a jig is not reeled through the slab.
        top, bottom = self.scene.ice_thickness_m + 0.05, self.scene.bottom_depth_m
        self._hang_m = float(np.clip(self._hang_m + speed * dt, top, bottom))
        self._twitch_s = max(self._twitch_s - dt, 0.0)
        lifted = TWITCH_M * float(np.sin(np.pi * self._twitch_s / TWITCH_S))
        self.lure_depth_m = max(self._hang_m - lifted, top)

    def _move_fish(self, lure_before: float, twitched: bool) -> list[Event]:
        if self._fish is None:
            if self.time_s < self._next_fish_s:
                return []
            self._fish = fishes.arrive(self.scene.bottom_depth_m, self.scene.face_depth_m, self._fish_luck)
        rising = (lure_before - self.lure_depth_m) / STEP_S
        if twitched or self._twitch_s > 0.0:
            rising = 0.0  # a twitch is a shiver, not a lift
        self._fish, did = fishes.step(
            self._fish, fishes.LureMotion(self.lure_depth_m, rising, twitched), STEP_S, self._fish_luck
        )
        events = [Event(word, self.lure_depth_m, self._fish.length_m if word == "landed" else 0.0) for word in did]
        if self._begins_to_touch():
            events.append(Event("marks touching", self.lure_depth_m))
        if "landed" in did or self._fish.aside_m > 5.0:
            if "landed" not in did:
                events.append(Event("gone"))
            self._fish = None
            self._next_fish_s = self.time_s + float(self._fish_luck.uniform(*NEXT_FISH_S))
        return events

    def _begins_to_touch(self) -> bool:
        """Whether the marks of fish and lure have just come nearer in range than the pulse can part."""
        fish, face = self._fish, self.scene.face_depth_m
        if fish is None or self.lure_depth_m <= face:
            self._touching = False
            return False
        fish_range = float(np.hypot(fish.z - face, fish.aside_m))
        apart = abs(fish_range - (self.lure_depth_m - face))
        was = self._touching
        # Once touching, a little more room is needed to count as parted, so that the news is not told twice.
        near = self.transmission.resolution_m * (2.0 if was else 1.0)
        self._touching = apart < near and fish.aside_m < 0.8 and fish.mood in ("curious", "following", "mouthing")
        return self._touching and not was

    def _picture(self, lure_before: float) -> NDArray[np.uint8]:
        """The pings of this step as picture rows."""
        t = self.transmission
        self._pings_due += self.ping_rate_hz * STEP_S
        count = int(self._pings_due + 1e-9)
        self._pings_due -= count
        if count == 0:
            return np.zeros((0, self.unit.rows), dtype=np.uint8)
        along = (np.arange(count) + 1.0) / count
        lure_z = lure_before + (self.lure_depth_m - lure_before) * along
        fish = self._fish
        xyz = np.empty((count, 0, 3)) if fish is None else np.tile([fish.x, fish.y, fish.z], (count, 1, 1))
        lengths = np.array([] if fish is None else [fish.length_m])
        targets = scenes.lure_and_fish(self.lure, lure_z, xyz, lengths, t.frequency_hz, t.sound_speed_m_s)
        echoes = ping.echo_levels(t, targets, count, self._water_luck)
        self._found_bottom_m = picture.find_bottom(echoes, t)
        return picture.paint_levels(receiver.receive(echoes, self.unit, self.settings), self.unit, t, self.shown)

    def _rod_tip_bend(self) -> float:
        """How far the tip bends: the lure's own weight hardly, a fish plainly; straight when it lies on the bottom."""
        if self.lure_depth_m >= self.scene.bottom_depth_m - 1e-6:
            return 0.0
        bend = 0.06 + (0.10 if self._twitch_s > 0.0 else 0.0)
        if self._fish is not None and self._fish.mood == "mouthing":
            bend = 0.55
        if self._fish is not None and self._fish.mood == "hooked":
            bend = 0.95
        return bend

    def _truth(self) -> tuple[FishTruth, ...]:
        fish = self._fish
        return () if fish is None else (FishTruth(fish.x, fish.y, fish.z, fish.length_m, fish.mood),)
