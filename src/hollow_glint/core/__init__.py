"""The rules and the computation: what is under the hole, what the sonar hears of it, and what to do about it.

Nothing here knows of Flask, SQL, files, clocks or global random state. SI units throughout (m, s, Hz, degrees C,
dB re 1 uPa at 1 m). The rooms stand on each other in this order: `acoustics`, `gear`, `hole`, `sonar`, `tuning`; then
`card`, `fish` and `reader` side by side; then `bench`; then `runs` and `drills`. Follow one echo: `hole.scene` ->
`sonar.ping` -> `sonar.receiver` -> `sonar.picture`.
"""
