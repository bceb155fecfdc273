"""How a lure swings: a blade glides off on slack line and swings back as a damped pendulum."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..acoustics.targets import SOLIDS
from ..gear.lures import Lure


@dataclass(frozen=True)
class Swing:
    """Where a lure hangs off its line's plumb: aside [m, m/s along its own heading], tilt [rad] and heading [rad]."""

    aside_m: float = 0.0
    speed_m_s: float = 0.0
    heading_rad: float = 0.0
    gliding: bool = False

    @property
    def x(self) -> float:
        """Metres along x."""
        return self.aside_m * float(np.cos(self.heading_rad))

    @property
    def y(self) -> float:
        """Metres along y."""
        return self.aside_m * float(np.sin(self.heading_rad))


def swing(now: Swing, lure: Lure, falling_m_s: float, slack: bool, line_m: float, heading: float, dt: float) -> Swing:
    """The swing `dt` [s] later: out on slack line at the form's glide, back as a damped pendulum on tight line.

    `falling_m_s` [m/s down], `line_m` [m] of line out, `heading` [rad] where a new glide will go. A pendulum in water
    is slowed by buoyancy and stopped within a swing or two by drag; the damping is common practice, no source.
    """
    glide = lure.kind.glide
    if slack and glide > 0.0 and falling_m_s > 0.05:
        started = now if now.gliding else replace(now, heading_rad=heading if now.aside_m < 0.05 else now.heading_rad)
        speed = glide * falling_m_s
        return replace(started, aside_m=started.aside_m + speed * dt, speed_m_s=speed, gliding=True)
    if abs(now.aside_m) < 1e-4 and abs(now.speed_m_s) < 1e-3:
        return Swing(heading_rad=now.heading_rad)
    density = SOLIDS[lure.material].density_kg_m3 / 1000.0
    pull = 9.81 * (1.0 - 1.0 / density) / max(line_m, 0.5)
    speed = now.speed_m_s + (-pull * now.aside_m - 1.3 * now.speed_m_s) * dt
    return replace(now, aside_m=now.aside_m + speed * dt, speed_m_s=speed, gliding=False)


def tilt_of(now: Swing, lure: Lure) -> float | None:
    """How the blade or body lies [rad off flat]: gliding blades lie over, hanging ones as the form hangs (None)."""
    return lure.kind.gliding_tilt_rad if now.gliding else None
