"""Twenty seasons of log: how soon the Log opens, all its patterns are there, and a backup is made.

`python -m benchmarks.seasons` prints the rows of docs/benchmarks.md that are about them.
"""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np

from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.ground.lake import Lake
from hollow_glint.core.hole.hole import Hole
from hollow_glint.core.log.outing import Happening, Outing, Stay
from hollow_glint.core.trip.sun import sun_times
from hollow_glint.formats.log_file import OutingFile, StayFile
from hollow_glint.store import backup, lakes, log_exchange, outings
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app

SEASONS, OUTINGS, STAYS, NOTES = 20, 200, 5000, 50_000
KNOBS = Settings(25.0, 12.2)
FORMS, SIZES = ("jig", "spoon", "minnow", "baited jig"), (0.004, 0.02, 0.05)
TRIES, TRENDS, SKIES = (
    ("hold", "slow lift", "lift and wait", "pound"),
    ("falling", "steady", "rising"),
    ("clear", "fog"),
)
KINDS, SHARES = ("look", "follow", "bite", "miss", "fish"), (0.6, 0.15, 0.12, 0.05, 0.08)


def made_log() -> list[OutingFile]:
    """Twenty winters of ten outings with 25 stays each, ten notes a stay."""
    rng = np.random.default_rng(1)
    return [_outing(n, rng) for n in range(OUTINGS)]


def _outing(n: int, rng: np.random.Generator) -> OutingFile:
    season, day = divmod(n, OUTINGS // SEASONS)
    began = datetime(2006 + season, 12, 1, 10, tzinfo=UTC) + timedelta(days=9 * day)
    water, at, stays = f"Water {season % 4}", began, []
    for k in range(STAYS // OUTINGS):
        hole = int(rng.integers(STAYS // 4))
        ended, trying = at + timedelta(minutes=float(rng.uniform(10.0, 18.0))), str(rng.choice(TRIES))
        notes = tuple(
            Happening(_text(at + timedelta(seconds=70.0 * j)), str(rng.choice(KINDS, p=SHARES)),
                      round(float(rng.uniform(1.0, 5.0)), 1), trying, "char")
            for j in range(NOTES // STAYS)
        )  # fmt: skip
        form = int(rng.integers(len(FORMS)))
        stay = Stay(_text(at), _text(ended), f"Hole {hole}", 1 + k % 2, 5.0 + hole % 12,
                    ("mud", "sand", "gravel")[hole % 3],
                    ("clear", "stained", "murky")[hole % 3], "My unit", "narrow", KNOBS, FORMS[form], FORMS[form],
                    SIZES[form % 3], trying)  # fmt: skip
        stays.append(StayFile(stay, notes))
        at = ended + timedelta(minutes=2.0)
    weather = str(rng.choice(TRENDS)), str(rng.choice(SKIES))
    outing = Outing(_text(began), _text(at), water, pressure_trend=weather[0], sky=weather[1])
    return OutingFile(outing, tuple(stays), "Kaldmere")


def _text(at: datetime) -> str:
    return at.strftime("%Y-%m-%dT%H:%M:%SZ")


def full_store(path: Path) -> Database:
    """A store with twenty seasons in it, and a hole of its own for each that was fished."""
    database = Database(path)
    lakes.add(database, Lake("Kaldmere", 66.6, 17.0))
    log = made_log()
    log_exchange.take_in(database, log, lambda _, one: sun_times(66.6, 17.0, one.began_at[:10], 60.0))
    with database.transaction() as connection:
        hole = Hole("x", 6.0, "mud", 0.3, 0.4)
        names = [f"Hole {k}" for k in range(STAYS)]
        connection.executemany(
            "INSERT INTO hole (name, water, note, bottom_depth_m, bottom_kind, ice_thickness_m, face_depth_m,"
            " hole_diameter_m, temperature_c, clarity) VALUES (?, '', '', ?, ?, ?, ?, 0.2, 1.0, 'clear')",
            [(name, hole.bottom_depth_m, hole.bottom_kind, 0.3, 0.4) for name in names],
        )
    assert len(outings.every(database)) == OUTINGS
    return database


def best(work: Callable[[], object], times: int = 3) -> float:
    """The shortest of a few [s]: what the machine does beside it only ever adds."""
    return best_of(lambda: timed(lambda: None, work), times)


def best_of(take: Callable[[], float], times: int = 3) -> float:
    """The shortest of a few times taken [s]."""
    return min(take() for _ in range(times))


def timed(before: Callable[[], object], work: Callable[[], object]) -> float:
    """How long work takes [s] once something else is done."""
    before()
    begun = time.perf_counter()
    work()
    return time.perf_counter() - begun


def rows() -> list[tuple[str, str, str]]:
    """The rows of docs/benchmarks.md."""
    with tempfile.TemporaryDirectory() as folder:
        database = full_store(Path(folder) / "store.sqlite3")
        app = create_app(database)
        client = app.test_client()

        def asked(*paths: str) -> Callable[[], object]:
            return lambda: [client.get(path).data for path in paths]

        def anew(*paths: str) -> Callable[[], object]:
            """The same after something was written down, so that nothing is kept from before; its own time aside."""

            def again() -> None:
                with ThreadPoolExecutor(len(paths)) as pool:  # at once, as a browser asks
                    list(pool.map(lambda path: app.test_client().get(path).data, paths))

            def written() -> None:
                with database.transaction() as connection:
                    connection.execute("UPDATE outing SET note = note WHERE id = 1")

            return lambda: timed(written, again)

        page = "/api/log/season?of=bites", "/api/log/shares?factor=trying", "/api/log/heights"
        every = ("/api/log/season?of=looks", "/api/log/season?of=fish", *page)
        asked(*every)()  # which imports what is imported late
        opened, opened_anew = best(asked("/api/outings")), best_of(anew("/api/outings"))
        first, page_first = best_of(anew(*every)), best_of(anew(*page))
        again = best(asked(*every))
        saved = best(lambda: backup.back_up(database, Path(folder) / "made", "2026-01-01T00:00:00Z", "0"), 2)
        size = (Path(folder) / "store.sqlite3").stat().st_size / 2**20
        database.close_all()
    of = f"Twenty seasons of log ({OUTINGS} outings, {STAYS} stays, {NOTES} notes, {size:.0f} MB)"
    return [
        (f"{of}: opened; right after something was noted", f"{opened:.2f} s; {opened_anew:.2f} s", "0.3 s"),
        (
            "All its patterns (looks, bites and fish, shares, heights) right after something was noted; "
            "what the page asks for when it is opened; asked again",
            f"{first:.2f} s; {page_first:.2f} s; {again:.2f} s",
            "1 s",
        ),
        ("A backup of it", f"{saved:.1f} s", "5 s"),
    ]


if __name__ == "__main__":
    for row in rows():
        print("| " + " | ".join(row) + " |")
