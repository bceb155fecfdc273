"""`make mutants`: small changes to the core, one at a time, and whether the tests of its room notice.

Each is a sign, a constant or a comparison, as a slip of the hand would make it. A change that no test notices stands in
the list that is printed at the end; the command fails when more than two of them do.
"""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
CORE = Path("src/hollow_glint/core")
MOST_UNNOTICED = 2


@dataclass(frozen=True)
class Mutant:
    """One change: in `file` of the core, `was` becomes `now`; `tests` under tests/ that should notice."""

    file: str
    was: str
    now: str
    tests: str

    def __str__(self) -> str:
        return f"{self.file}: {self.was}  ->  {self.now}"


MUTANTS = (
    Mutant("acoustics/sonar_equation.py", "20.0 * np.log10", "10.0 * np.log10", "reference"),
    Mutant("acoustics/targets.py", "(order**2 + order - 2)", "(order**2 + order + 2)", "reference"),
    Mutant(
        "acoustics/bottom.py",
        "np.exp(-4.0 * (wave_number",
        "np.exp(-2.0 * (wave_number",
        "reference core/sonar core/acoustics",
    ),
    Mutant("acoustics/beam.py", "5.78 /", "5.87 /", "core/acoustics"),
    Mutant("gear/settings.py", "0.03 * bottom_range_m", "0.30 * bottom_range_m", "core/gear"),
    Mutant("gear/unit.py", "- 2.0 * n * self.covariance_db2", "+ 2.0 * n * self.covariance_db2", "core/gear"),
    Mutant("gear/lures.py", "density / 1000.0 - 1.0", "density / 1000.0 + 1.0", "core/gear"),
    Mutant("hole/scene.py", "np.exp(-above / SILT_HEIGHT_M)", "np.exp(above / SILT_HEIGHT_M)", "core/hole"),
    Mutant(
        "hole/interference.py", "paths.first_s - ping_time_s", "paths.first_s + ping_time_s", "core/hole core/sonar"
    ),
    Mutant("hole/swing.py", "- 1.3 * now.speed_m_s", "+ 1.3 * now.speed_m_s", "core/hole"),
    Mutant(
        "hole/scatterers.py",
        "scene.face_depth_m * (1.0 - BUBBLES_DOWN)",
        "scene.face_depth_m * (1.0 + BUBBLES_DOWN)",
        "core/tuning/test_touched_mark.py",
    ),
    Mutant("sonar/ping.py", "- loss + off_axis", "+ loss + off_axis", "core/sonar core/tuning"),
    Mutant("sonar/receiver.py", "[:, :, n - step.needed]", "[:, :, n - step.needed - 1]", "core/sonar"),
    Mutant("sonar/picture.py", "lower - height, lower", "lower - height, lower + height", "core/sonar"),
    Mutant(
        "sonar/still_echoes.py",
        "2.0 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m",
        "2.0 * scene.bottom_depth_m - scene.face_depth_m + scene.ice_thickness_m",
        "core/sonar core/test_trade_facts.py",
    ),
    Mutant("tuning/gain_window.py", "wanted = floor + LEAN_SHARE", "wanted = floor - LEAN_SHARE", "core/tuning"),
    Mutant(
        "tuning/touched_mark.py",
        "(behind > -0.6) & (behind < 2.0)",
        "(behind > 0.6) & (behind < 2.0)",
        "core/tuning/test_touched_mark.py",
    ),
    Mutant("card/hole_card.py", "limits.ceiling - margins[1]", "limits.ceiling + margins[1]", "core/card"),
    Mutant(
        "card/from_hole_to_hole.py", "was < here.scene.bottom_range_m", "was > here.scene.bottom_range_m", "core/card"
    ),
    Mutant("card/ice_guidance.py", "clear < fullest - 1e-9", "clear < least - 1e-9", "core/card"),
    Mutant("card/translate.py", "abs(left) <= 0.5", "abs(left) <= 5.0", "core/card"),
    Mutant("fish/rod.py", "self.pull_n > self.mouth_n", "self.pull_n >= self.mouth_n", "core/fish"),
    Mutant("fish/rod.py", ") ** 2, 4.0)", ") ** 2, 8.0)", "core/fish"),
    Mutant("fish/stimulus.py", "self.still_s + dt", "self.still_s - dt", "core/fish"),
    Mutant("fish/strike_sheet.py", "quiet >= QUIET_S and", "quiet > 2 * QUIET_S and", "core/fish"),
    Mutant("fish/rise_line.py", "-below / EARLY_M", "below / EARLY_M", "core/fish"),
    Mutant(
        "reader/sizing.py",
        "10.0 * np.log10(-np.log(share[best]))",
        "20.0 * np.log10(-np.log(share[best]))",
        "core/reader",
    ),
    Mutant("reader/fish_grid.py", "-0.5 * ((np.arange", "0.5 * ((np.arange", "core/reader"),
    Mutant("drills/schedule.py", "streak >= RAISED_AFTER", "streak > RAISED_AFTER", "core/drills"),
    Mutant("runs/attention.py", "bend > FELT_BEND", "bend < FELT_BEND", "core/runs"),
)


def noticed(mutant: Mutant) -> bool:
    """Whether a test fails with the change made, in a copy of the core."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "src"
        shutil.copytree(ROOT / "src", copy, ignore=shutil.ignore_patterns("static", "__pycache__"))
        file = copy / CORE.relative_to("src") / mutant.file
        text = file.read_text("utf-8")
        if mutant.was not in text:
            raise SystemExit(f"{mutant}: what is to be changed does not stand there any more")
        file.write_text(text.replace(mutant.was, mutant.now, 1), "utf-8")
        tests = [str(ROOT / "tests" / one) for one in mutant.tests.split()]
        ran = subprocess.run(
            [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *tests],
            cwd=ROOT,
            env={**os.environ, "PYTHONPATH": str(copy)},
            capture_output=True,
            check=False,
        )
        if ran.returncode not in (0, 1, 2):
            raise SystemExit(f"{mutant}: the tests did not run\n{ran.stdout.decode()[-2000:]}")
        return ran.returncode != 0


def main() -> int:
    """Run them all, two at a time; 0 when no more than two go unnoticed."""
    with ThreadPoolExecutor(os.cpu_count()) as several:
        caught = []
        for mutant, found in zip(MUTANTS, several.map(noticed, MUTANTS), strict=True):
            print("noticed  " if found else "UNNOTICED", mutant, flush=True)
            caught.append(found)
    unnoticed = caught.count(False)
    print(f"{len(caught) - unnoticed} of {len(caught)} noticed")
    return int(unnoticed > MOST_UNNOTICED)


if __name__ == "__main__":
    raise SystemExit(main())
