"""How fast a hand moves the line [m/s, upwards positive]: the speeds that keys, grip and scripted hands share.

Lifts of a finger's width a second draw; what is much faster flees. Common practice, no source.
"""

from __future__ import annotations

FASTEST = 1.0
LIFT_SLOWLY = 0.025
LIFT_FASTER = 0.12
LIFT_FAST = 0.3
LOWER_SLOWLY = -0.08
LET_SINK = -0.6
DRAWS = (0.01, 0.04)  # between these a lift draws best; the fish's own table has the same two
