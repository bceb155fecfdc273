"""What a followed mark has shown of itself over its whole life, in running sums: how it shines and how it goes.

Nothing here is forgotten at once and nothing is kept for ever: what it did before weighs less by and by.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, field

MOTION_S = 6.0  # for how long the way that it went still counts
SHINE_S = 6.0  # and how it shone, be its pings many or few
LONGEST_APART = 16  # the most pings that rejection keeps


@dataclass
class Story:
    """Running sums of one mark.

    lit, top             share of its pings that were lit, that were in the strongest colour
    level                mean step of the ladder, dark counted as 0
    wander2              half the mean square of what its level changes [steps^2] over as many pings as rejection keeps:
                         from differences, so that a slow growing is no spread (von Neumann 1941), and that far apart so
                         that the two have no ping in common
    thick_m, thick2      mean thickness [m]; half the mean square of its change over as many pings [m^2]
    range_m, line_m      mean of where it was [m from the face] and of the line taken in [m], as shown
    range_var, line_var, both   their variances and covariance [m^2]
    """

    pings: int = 0
    seen: int = 0
    lit: float = 0.0
    top: float = 0.0
    level: float = 0.0
    wander2: float = 0.0
    pairs: int = 0
    thick_m: float = 0.0
    thick2: float = 0.0
    range_m: float = 0.0
    line_m: float = 0.0
    range_var: float = 0.0
    line_var: float = 0.0
    both: float = 0.0
    last_s: float = 0.0
    noted_s: float = 0.0
    _lately: deque[tuple[int, float]] = field(default_factory=lambda: deque(maxlen=LONGEST_APART))

    def note(
        self, time_s: float, range_m: float, level: int, thick_m: float, line_m: float, steps: int, apart: int
    ) -> None:
        """One ping more: `level` of `steps` (0 when dark), rejection keeps `apart` pings."""
        self.pings += 1
        fades = min((time_s - self.noted_s) / SHINE_S, 1.0) if self.pings > 1 else 1.0
        self.noted_s = time_s
        share = max(1.0 / self.pings, fades)
        self.lit += ((level > 0) - self.lit) * share
        self.top += ((level >= steps) - self.top) * share
        self.level += (level - self.level) * share
        if len(self._lately) >= apart:
            then, thick_then = self._lately[-apart]
            self.pairs += 1
            share = max(1.0 / self.pairs, fades)
            self.wander2 += (0.5 * (level - then) ** 2 - self.wander2) * share
            if level and then:
                self.thick2 += (0.5 * (thick_m - thick_then) ** 2 - self.thick2) * share
        self._lately.append((level, thick_m))
        if not level:
            return
        self.seen += 1
        self.thick_m += (thick_m - self.thick_m) * max(1.0 / self.seen, fades)
        weight = max(1.0 / self.seen, min((time_s - self.last_s) / MOTION_S, 1.0)) if self.seen > 1 else 1.0
        self.last_s = time_s
        off, moved = range_m - self.range_m, line_m - self.line_m
        self.range_m += weight * off
        self.line_m += weight * moved
        left = 1.0 - weight
        self.range_var = left * (self.range_var + weight * off * off)
        self.line_var = left * (self.line_var + weight * moved * moved)
        self.both = left * (self.both + weight * off * moved)

    def shines_anew(self) -> None:
        """Levels of another gain are nothing to compare with; where it went still is."""
        self.pings = self.pairs = 0
        self.lit = self.top = self.level = self.wander2 = self.thick2 = 0.0
        self._lately.clear()

    def spread_with(self, share: float) -> float:
        """How far it strays [m, 1 sd] from what goes `share` of the way with the rod: 1 the lure, 0 what stands."""
        var = self.range_var + 2.0 * share * self.both + share * share * self.line_var
        return float(max(var, 0.0) ** 0.5)
