"""A clip: a few seconds of picture over a scripted scene, made by the same chain as the Bench, with its truth kept."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from ..acoustics.sonar_equation import max_ping_rate
from ..checks import Floats
from ..gear.lures import Lure
from ..gear.settings import Settings, picture_rate
from ..gear.unit import UnitProfile
from ..hole import scatterers, shoals
from ..hole.scene import Scene
from ..sonar import picture, ping, receiver, transmission
from ..sonar.picture import Window

SILENT_DB = -200.0
IN_THE_AIR = -1.0  # a lure held out of the water is silent


@dataclass(frozen=True, eq=False)
class Swimmer:
    """A scripted fish: its way (pings, 3) [m], length [m] and species."""

    way: Floats
    length_m: float
    species: str = "whitefish"


@dataclass(frozen=True, eq=False)
class Clip:
    """What a screen showed for a few seconds, and what was there.

    levels      (pings, rows); shown the water in the rows; time_s (pings,) [s]
    line_m      line out, counted from the first ping on, up positive [m], shape (pings,): what the hand did
    arrow_m     range [m from the face] that the question points at, None for none
    """

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure | None
    levels: NDArray[np.uint8]
    shown: Window
    time_s: Floats
    line_m: Floats
    lure_way: Floats
    swimmers: tuple[Swimmer, ...] = ()
    arrow_m: float | None = None
    caption: str = ""
    changes: tuple[tuple[int, Settings], ...] = field(default=())

    @property
    def windows(self) -> tuple[Floats, Floats]:
        """The water that the rows show [m from the face], top and bottom edge, each of shape (pings,)."""
        tops, bottoms = np.full(self.time_s.size, self.shown.top_m), np.full(self.time_s.size, self.shown.bottom_m)
        for at, settings in self.changes:
            shown = picture.window(settings, self.scene.bottom_range_m)
            tops[at:], bottoms[at:] = shown.top_m, shown.bottom_m
        return tops, bottoms

    def lit_at(self, range_m: float) -> float:
        """Share of the pings in which something at `range_m` [m from the face] lights."""
        rows = self.shown.top_m + (np.arange(self.levels.shape[1]) + 0.5) * self.shown.height_m / self.levels.shape[1]
        near = (rows > range_m - 0.05) & (rows < range_m + 0.15)
        return float((self.levels[:, near] > 0).any(axis=1).mean()) if near.any() else 0.0

    @property
    def face_depth_m(self) -> float:
        """Where the face hangs [m below the surface]."""
        return self.scene.face_depth_m


def ping_times(scene: Scene, unit: UnitProfile, settings: Settings, seconds: float) -> Floats:
    """When pings go out [s] over `seconds`, shape (pings,)."""
    t = transmission.transmit(scene, unit, settings)
    rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, t.sound_speed_m_s))
    return np.arange(max(int(seconds * rate), 4)) / rate


def film(  # noqa: PLR0913 - each a part of the scene, most left out
    scene: Scene,
    unit: UnitProfile,
    settings: Settings,
    time_s: Floats,
    rng: np.random.Generator,
    lure: Lure | None = None,
    lure_way: Floats | None = None,
    swimmers: tuple[Swimmer, ...] = (),
    changes: tuple[tuple[int, Settings], ...] = (),
    arrow_m: float | None = None,
    caption: str = "",
    tilt_rad: float | None = None,
) -> Clip:
    """The picture at `time_s` (pings,) [s]. `lure_way` (pings, 3) [m] says where the lure is, `changes` turns knobs
    from a ping on. All chance comes from `rng`."""
    pings = time_s.size
    way = np.zeros((pings, 3)) if lure_way is None else lure_way
    if lure is None or lure_way is None:
        way = np.tile([0.0, 0.0, IN_THE_AIR], (pings, 1))
    places = np.stack([one.way for one in swimmers], axis=1) if swimmers else np.zeros((pings, 0, 3))
    swimming = shoals.set_swimming(scene, rng.spawn(1)[0])
    rows = []
    shown = picture.window(settings, scene.bottom_range_m)
    edges = [(0, settings), *changes]
    for (first, now), last in zip(edges, [at for at, _ in changes] + [pings], strict=True):
        t = transmission.transmit(scene, unit, now)
        part = slice(first, last)
        targets, names = scatterers.gather(
            scene, lure or Lure("none", 0.003), way[part], tilt_rad, places[part],
            tuple((one.length_m, one.species) for one in swimmers), swimming, time_s[part],
            t.frequency_hz, t.sound_speed_m_s,
        )  # fmt: skip
        quiet = np.array(
            [who.kind == "line" for who in names]
        )  # no bubbles on the line: what is asked is asked cleanly
        heard = targets.strengths
        heard = replace(heard, target_strength_db=np.where(quiet, SILENT_DB, heard.target_strength_db))
        targets = targets._replace(strengths=heard)
        echoes = ping.echo_levels(t, targets, last - first, rng, time_s[part])
        signal, _ = receiver.receive(echoes, unit, now, t)
        rows.append(picture.paint_levels(signal, unit, now, t, picture.window(now, scene.bottom_range_m)))
    held = lure is not None and lure_way is not None
    line = way[0, 2] - way[:, 2] if held else np.zeros(pings)
    return Clip(
        scene, unit, settings, lure if held else None, np.concatenate(rows), shown, time_s, line, way, swimmers,
        arrow_m, caption, changes,
    )  # fmt: skip
