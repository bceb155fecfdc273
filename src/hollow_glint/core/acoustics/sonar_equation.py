"""The sonar equation's plain terms: how loud out, how much is lost on the way, how finely ranges are told apart."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from ..checks import like_input, number, within

SEPARATION_PULSES = 1.3  # pulse lengths from which two equal echoes dip by 3 dB between them


def source_level(electrical_power_w: float, efficiency: float, directivity_index_db: float) -> float:
    """Source level [dB re 1 uPa at 1 m] from electrical power [W, 0.1 to 10000], efficiency [0.01 to 1] and DI [dB].

    170.8 + 10 log10(power x efficiency) + DI. Raises ValueError outside the spans. Source: Urick 1983.
    """
    power = number("electrical_power_w", electrical_power_w, 0.1, 10_000.0, "W")
    share = number("efficiency", efficiency, 0.01, 1.0)
    return 170.8 + 10.0 * float(np.log10(power * share)) + directivity_index_db


def transmission_loss(distance_m: ArrayLike, absorption_db_m: ArrayLike) -> Any:
    """One-way transmission loss [dB re 1 m], 20 log10 r + alpha r, for r [m, 0.01 to 10000], alpha [dB/m, 0 to 10].

    Inputs broadcast. Raises ValueError outside the spans. Source: Urick 1983.
    """
    r = within("distance_m", distance_m, 0.01, 10_000.0, "m")
    alpha = within("absorption_db_m", absorption_db_m, 0.0, 10.0, "dB/m")
    return like_input(20.0 * np.log10(r) + alpha * r)


def range_resolution(pulse_s: ArrayLike, sound_speed_m_s: ArrayLike) -> Any:
    """Smallest range difference told apart [m], c tau / 2, for a pulse [s, 1e-6 to 0.1] and c [m/s, 1300 to 1700].

    Inputs broadcast. Raises ValueError outside the spans. Source: Simmonds and MacLennan 2005.
    """
    tau = within("pulse_s", pulse_s, 1e-6, 0.1, "s")
    c = within("sound_speed_m_s", sound_speed_m_s, 1300.0, 1700.0, "m/s")
    return like_input(c * tau / 2.0)


def target_separation(pulse_s: ArrayLike, sound_speed_m_s: ArrayLike) -> Any:
    """How far apart two equal targets must be to show as two [m]: SEPARATION_PULSES times c tau / 2, inputs as there.

    At c tau / 2 one echo begins where the other ends, and there is no gap to see; a dip of 3 dB between them needs the
    skirt of the first to have fallen too. Source: Simmonds and MacLennan 2005 for c tau / 2 as the limit; the factor
    is measured on pulses as they are laid into range bins.
    """
    return like_input(SEPARATION_PULSES * np.asarray(range_resolution(pulse_s, sound_speed_m_s)))


def noise_bandwidth(pulse_s: ArrayLike) -> Any:
    """Bandwidth [Hz] of a receiver matched to a pulse [s, 1e-6 to 0.1]: 1 / tau. Source: Urick 1983.

    The noise that it takes in is 10 log10 of this above the noise in a band of 1 Hz.
    """
    return like_input(1.0 / within("pulse_s", pulse_s, 1e-6, 0.1, "s"))


def max_ping_rate(distance_m: ArrayLike, sound_speed_m_s: ArrayLike) -> Any:
    """Highest ping rate [Hz] at which one ping is back from `distance_m` [m, 0.01 to 10000] before the next leaves.

    c / 2r. Inputs broadcast. Raises ValueError outside the spans. Geometry.
    """
    r = within("distance_m", distance_m, 0.01, 10_000.0, "m")
    c = within("sound_speed_m_s", sound_speed_m_s, 1300.0, 1700.0, "m/s")
    return like_input(c / (2.0 * r))
