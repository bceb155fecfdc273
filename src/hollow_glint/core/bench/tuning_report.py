"""What the present settings of a living bench do, in numbers: gain window, verdicts, seen zone, cone, rate and lag."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from ..acoustics import beam
from ..checks import Floats
from ..fields import doc
from ..gear.settings import draw, smallest_range
from ..sonar import picture, receiver
from ..sonar.still_echoes import second_echo_range
from ..tuning import coach, seen_zone
from ..tuning.company import neighbour_share
from ..tuning.gain_window import GainWindow
from ..tuning.verdict import Verdict
from .bench_run import BenchRun

DEPTHS, OFFSETS = 120, 24  # points that a zone is drawn through


@dataclass(frozen=True, eq=False)
class SeenZone:
    """How far off the axis each is seen [m] at each `depth_m` [m]; where the dead zone begins at each `offset_m`."""

    depth_m: Floats
    lure_m: Floats
    fish_m: Floats
    offset_m: Floats
    dead_zone_top_m: Floats
    tilt_rad: Annotated[float, doc("How far the axis of both lobes is off plumb, towards +x")]


@dataclass(frozen=True, eq=False)
class TuningReport:
    """What the settings do."""

    gain_window: GainWindow
    verdicts: tuple[Verdict, ...]
    seen_zone: SeenZone
    fish_length_m: float
    row_height_m: float
    parted_m: float
    cone_at_lure_m: float
    cone_at_bottom_m: float
    ping_rate_hz: float
    lag_s: float
    smallest_range_m: float
    draw_a: float
    neighbour_percent: Annotated[float, doc("Share of the picture that neighbours' pings light")]
    second_echo_m: float


def tuning_report(run: BenchRun, fish_length_m: float) -> TuningReport:
    """The report of `run` as it stands, for a fish of `fish_length_m` [m]."""
    now = run.situation
    scene, unit, settings, t = now.scene, now.unit, now.settings, now.transmission
    width = unit.beams[settings.beam].width_deg
    below = max(run.lure_depth_m - scene.face_depth_m, 0.0)
    return TuningReport(
        gain_window=now.limits,
        verdicts=coach.verdicts(now),
        seen_zone=_zone(run, fish_length_m),
        fish_length_m=fish_length_m,
        row_height_m=picture.row_height(unit, run.zoom),
        parted_m=t.separation_m,
        cone_at_lure_m=beam.footprint_diameter(below, width),
        cone_at_bottom_m=beam.footprint_diameter(scene.bottom_range_m, width),
        ping_rate_hz=run.ping_rate_hz,
        lag_s=receiver.lag(unit, settings, run.ping_rate_hz),
        smallest_range_m=smallest_range(unit, scene.bottom_range_m),
        draw_a=draw(unit, settings),
        neighbour_percent=100.0 * neighbour_share(now, settings),
        second_echo_m=second_echo_range(scene),
    )


def _zone(run: BenchRun, fish_length_m: float) -> SeenZone:
    now = run.situation
    scene, t, first_colour = now.scene, now.transmission, now.first_colour()
    depth = np.linspace(scene.face_depth_m + 0.05, scene.bottom_depth_m, DEPTHS)

    def hidden(range_m: Floats) -> Floats:
        return receiver.taken_off(now.unit, now.settings, range_m)

    strength = run.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
    fish = seen_zone.fish_seen_radius(t, fish_length_m, first_colour, depth, hidden)
    widest = max(float(fish.max()), 0.2)
    offset = np.linspace(0.0, min(2.0 * widest, scene.bottom_range_m), OFFSETS)
    return SeenZone(
        depth_m=depth,
        lure_m=seen_zone.seen_radius(t, strength, first_colour, depth, hidden),
        fish_m=fish,
        offset_m=offset,
        dead_zone_top_m=seen_zone.dead_zone_top(scene, t.resolution_m, offset),
        tilt_rad=t.tilt_rad,
    )
