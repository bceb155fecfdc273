"""The rules and the computation: what is under the hole, what the sonar hears of it, and what to do about it.

Nothing here knows of Flask, SQL, files, clocks or global random state. SI units throughout (m, s, Hz, degrees C,
dB re 1 uPa at 1 m). Follow one echo: `scene` -> `ping` -> `receiver` -> `picture`; the acoustics they stand on are
in `water`, `beam`, `targets`, `bottom` and `sonar_equation`.
"""
