"""Generic units to start from, with invented plain names and numbers that hold together. People copy and edit them."""

from __future__ import annotations

from . import ladders
from .unit import FOOT, Beam, GainScale, Pulse, Rejection, UnitProfile


def _feet(*feet: float) -> tuple[float, ...]:
    return tuple(one * FOOT for one in feet)


def _rejections(steps: int, most_pings: int, slowest: float) -> tuple[Rejection, ...]:
    """Off and `steps` more: each staggers the pings further, keeps more of them and slows the picture."""
    out = [Rejection(1)]
    for step in range(1, steps + 1):
        share = step / steps
        out.append(Rejection(2 + round(share * (most_pings - 2)), 1.0 - share * (1.0 - slowest), 0.1 + 0.2 * share))
    return tuple(out)


# The plainest unit there could be: 200 kHz, 12 degrees, 60 W, 0.1 ms.
TRAIL_UNIT = UnitProfile(
    name="One-beam trail unit",
    beams=(Beam("200 kHz", 200e3, 12.0),),
    powers_w=(60.0,),
    pulses=(Pulse("normal", 1e-4),),
    gain=GainScale(minimum=0.0, maximum=50.0, step=1.0, db_per_step=1.2, first_colour_db=140.0),
    ranges_m=_feet(10, 20, 30, 40, 60, 80, 100, 150, 200),
    bottom_windows_m=_feet(6, 12),
)

THREE_COLOUR_RING = UnitProfile(
    name="Three-colour ring",
    beams=(Beam("200 kHz", 200e3, 12.0),),
    powers_w=(15.0, 60.0),
    pulses=(Pulse("normal", 1e-4),),
    gain=GainScale(minimum=1.0, maximum=20.0, step=0.5, db_per_step=1.5, first_colour_db=139.0),
    ranges_m=_feet(10, 20, 30, 40, 60, 80, 100, 200),
    bottom_windows_m=_feet(6, 12),
    rejections=_rejections(12, 7, 0.4),
    ladders=(ladders.THREE_STEP, ladders.HIDE_WEAKEST),
    pictures=("ring", "strip", "trace"),
    brightness=(1.0, 0.6, 0.3),
    rows=300,
    ping_rate_hz=20.0,
    draw_a=0.18,
    light_a=0.22,
)

TWO_BEAM_RING = UnitProfile(
    name="Two-beam ring",
    beams=(Beam("20 degrees", 200e3, 20.0), Beam("9 degrees", 200e3, 9.0)),
    powers_w=(20.0, 100.0),
    pulses=(Pulse("normal", 1e-4), Pulse("weed", 4e-5)),
    gain=GainScale(minimum=0.0, maximum=100.0, step=1.0, db_per_step=0.62, first_colour_db=141.0),
    ranges_m=_feet(15, 30, 45, 60, 90, 120, 200),
    bottom_windows_m=_feet(5, 10, 20),
    free_windows_m=_feet(10, 20),
    window_beside=True,
    rejections=_rejections(5, 7, 0.5),
    noise_filters=(1, 3, 7),
    tvg_db_decade=(0.0, 15.0, 30.0),
    blanking_m=(0.0, *_feet(3, 6)),
    ladders=(ladders.SIX_STEP, ladders.HIDE_WEAKEST, ladders.FOR_COLOUR_BLINDNESS),
    pictures=("ring", "strip", "trace"),
    brightness=(1.0, 0.75, 0.5, 0.25),
    rows=360,
    draw_a=0.22,
    light_a=0.30,
)

WIDE_NARROW_SCROLLER = UnitProfile(
    name="Wide and narrow scroller",
    beams=(Beam("83 kHz wide", 83e3, 30.0), Beam("200 kHz narrow", 200e3, 10.0)),
    powers_w=(30.0, 120.0),
    pulses=(Pulse("normal", 1.2e-4), Pulse("weed", 5e-5)),
    gain=GainScale(minimum=-10.0, maximum=10.0, step=0.5, db_per_step=1.5, first_colour_db=139.0),
    ranges_m=_feet(6, 200),
    free_range=True,
    auto_range=True,
    bottom_windows_m=_feet(6, 12, 24),
    free_windows_m=_feet(6, 12, 24),
    window_beside=True,
    rejections=_rejections(3, 5, 0.55),
    noise_filters=(1, 3, 5, 9),
    tvg_db_decade=(0.0, 10.0, 20.0, 30.0, 40.0),
    blanking_m=(0.0, *_feet(2, 4, 8)),
    ladders=ladders.SHIPPED,
    pictures=("trace", "strip", "ring"),
    scroll_speeds=(1, 2, 4),
    brightness=(1.0, 0.7, 0.4, 0.2),
    rows=400,
    draw_a=0.45,
    light_a=0.55,
)

SHORT_PULSE = UnitProfile(
    name="Short-pulse unit",
    beams=(Beam("455 kHz", 455e3, 8.0), Beam("200 kHz", 200e3, 16.0)),
    powers_w=(25.0, 150.0),
    pulses=(Pulse("normal", 7e-5), Pulse("short", 1.8e-5), Pulse("weed", 3.5e-5)),
    gain=GainScale(minimum=0.0, maximum=60.0, step=1.0, db_per_step=1.1, first_colour_db=143.0),
    ranges_m=_feet(8, 12, 16, 20, 25, 30, 40, 50, 60, 80, 100, 150),
    auto_range=True,
    bottom_windows_m=_feet(3, 6, 12),
    free_windows_m=_feet(3, 6, 12),
    window_beside=True,
    rejections=_rejections(20, 11, 0.3),
    noise_filters=(1, 3, 5),
    tvg_db_decade=(0.0, 20.0, 40.0),
    blanking_m=(0.0, *_feet(2, 4)),
    ladders=(ladders.SIX_STEP, ladders.EXTRA_ABOVE, ladders.EXTRA_BELOW, ladders.HIDE_WEAKEST,
             ladders.FOR_COLOUR_BLINDNESS),
    pictures=("strip", "trace", "ring"),
    scroll_speeds=(1, 2),
    brightness=(1.0, 0.6, 0.3),
    rows=480,
    draw_a=0.30,
    light_a=0.40,
)  # fmt: skip

SHIPPED = (THREE_COLOUR_RING, TWO_BEAM_RING, WIDE_NARROW_SCROLLER, SHORT_PULSE)
