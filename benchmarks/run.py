"""`make bench`: the design's rows that apply so far, measured in one run through the real program."""

from __future__ import annotations

import gzip
import os
import platform
import statistics
import tempfile
import threading
import time
from collections.abc import Callable
from datetime import date
from pathlib import Path

import numpy as np
import psutil

from hollow_glint.core import picture, ping, receiver, tuning
from hollow_glint.core.lures import Lure
from hollow_glint.core.scene import Scene
from hollow_glint.core.profiles import TRAIL_UNIT
from hollow_glint.core.unit import Settings
from tests.running import Running, events, running_server, start, wait_ready

ROOT = Path(__file__).parents[1]
SCENE = Scene(8.6, "mud", 0.35, 0.42)
SETTINGS = Settings(25.0, 9.144)  # 30 ft: the range at which this unit has just 512 bins
LURE = Lure("5 mm tungsten jig", 0.005)
BINS = 512


def per_second(work: Callable[[], int], for_s: float = 1.5) -> float:
    """How many units of work are done in a second; `work` returns how many it did. The best of three turns."""
    best = 0.0
    for _ in range(3):
        done, begun = 0, time.perf_counter()
        while (took := time.perf_counter() - begun) < for_s / 3:
            done += work()
        best = max(best, done / took)
    return best


def ping_chain(scatterers: int, block: int) -> float:
    """Pings a second through scene, ping, receiver and picture, `block` pings at a time."""
    rng = np.random.default_rng(1)
    fish = scatterers - 1
    places = rng.uniform([-1.0, -1.0, 2.0], [1.0, 1.0, 8.2], (fish, 3))
    t = ping.transmit(SCENE, TRAIL_UNIT, SETTINGS)
    assert t.bin_range_m.size == BINS
    shown = picture.full_column(SETTINGS)
    lengths, lure_z, xyz = np.full(fish, 0.3), np.full(block, 8.0), np.tile(places, (block, 1, 1))

    def work() -> int:
        heard = lure_and_fish(LURE, lure_z, xyz, lengths, t.frequency_hz, t.sound_speed_m_s)
        echoes = ping.echo_levels(t, heard, block, rng)
        picture.paint_levels(receiver.receive(echoes, TRAIL_UNIT, SETTINGS), TRAIL_UNIT, t, shown)
        return block

    return per_second(work)


def floor(block: int) -> float:
    """The floor: drawing and log-scaling as many random bins, nothing else, in the same blocks."""
    rng = np.random.default_rng(1)

    def work() -> int:
        np.log10(rng.standard_exponential((block, BINS), dtype=np.float32) + np.float32(1e-9))
        return block

    return per_second(work)


def settings_for_a_hole() -> float:
    """Milliseconds to work out a gain window with nothing remembered from before."""

    def work() -> int:
        ping._transmit.cache_clear()
        t = ping.transmit(SCENE, TRAIL_UNIT, SETTINGS)
        tuning.gain_window(t, TRAIL_UNIT, SETTINGS, LURE, 8.0, picture.full_column(SETTINGS))
        return 1

    return 1000.0 / per_second(work)


def knob_to_picture(running: Running, turns: int = 80) -> tuple[float, float, float]:
    """Median and 95th percentile [ms] from sending a gain to the frame that has it; and the frame period [ms]."""
    _, bench = running.ask("POST", "/api/benches", {"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 1})
    seen: dict[float, float] = {}
    changed, stop = threading.Condition(), threading.Event()

    def read() -> None:
        for name, data in events(running, bench["id"]):
            if name == "frame":
                with changed:
                    seen.setdefault(data["settings"]["gain"], time.perf_counter())
                    changed.notify_all()
            if stop.is_set():
                return

    threading.Thread(target=read, daemon=True).start()
    rng = np.random.default_rng(2)
    waits = []
    for turn in range(turns):
        gain = float(turn % 50)
        time.sleep(rng.uniform(0.02, 0.12))  # so that turns fall anywhere between two frames
        with changed:
            seen.clear()
        sent = time.perf_counter()
        running.ask("POST", f"/api/benches/{bench['id']}/commands", {"settings": {**bench["settings"], "gain": gain}})
        with changed:
            changed.wait_for(lambda gain=gain: gain in seen, timeout=2.0)  # type: ignore[misc]
            waits.append(1000.0 * (seen[gain] - sent))
    stop.set()
    running.ask("DELETE", f"/api/benches/{bench['id']}")
    return statistics.median(waits), float(np.percentile(waits, 95)), 1000.0 * bench["frame_s"]


def streams(running: Running, count: int = 16, for_s: float = 10.0) -> tuple[float, float]:
    """Frames a second per stream, and the share [percent] of frames late by more than a frame, with `count` at once."""
    gaps: list[float] = []
    lock = threading.Lock()

    def read(bench_id: str) -> None:
        mine, last, end = [], None, time.perf_counter() + for_s
        for name, _ in events(running, bench_id):
            if name == "frame":
                now = time.perf_counter()
                if last is not None:
                    mine.append(now - last)
                last = now
                if now > end:
                    break
        with lock:
            gaps.extend(mine)

    threads = []
    for seed in range(count):
        body = {"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": seed}
        _, bench = running.ask("POST", "/api/benches", body)
        threads.append(threading.Thread(target=read, args=(bench["id"],)))
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return len(gaps) / for_s / count, 100.0 * sum(gap > 0.1 for gap in gaps) / len(gaps)


def start_up() -> tuple[float, float, float]:
    """Seconds from the command to ready, and on to the first frame; resident memory [MB] after that."""
    with tempfile.TemporaryDirectory() as folder:
        begun = time.perf_counter()
        running = start(Path(folder))
        try:
            wait_ready(running)
            ready = time.perf_counter()
            _, bench = running.ask("POST", "/api/benches", {"hole_id": 1, "unit_id": 1, "lure_id": 3})
            next(events(running, bench["id"]))
            first = time.perf_counter()
            memory = psutil.Process(running.process.pid).memory_info().rss / 1e6
        finally:
            running.process.kill()
            running.process.wait()
    return ready - begun, first - ready, memory


def script_size() -> float:
    """All scripts of the page, gzipped [kB]."""
    scripts = (ROOT / "src/hollow_glint/web/static/assets").glob("*.js")
    return sum(len(gzip.compress(script.read_bytes())) for script in scripts) / 1000.0


def rows() -> list[tuple[str, str, str]]:
    """(what, measured, bar) of every row."""
    block = 32
    base_one, base_block = floor(1), floor(block)
    found: list[tuple[str, str, str]] = []
    for scatterers in (10, 40):
        one, many = ping_chain(scatterers, 1), ping_chain(scatterers, block)
        bar = "4,000 pings/s" if scatterers == 10 else "6,000 pings/s, ratio 4 (next issue)"
        found.append(
            (
                f"Ping chain, {BINS} bins, {scatterers} scatterers, in blocks of {block}",
                f"{many:,.0f} pings/s; {base_block / many:.1f} times the floor",
                bar,
            )
        )
        found.append(
            (
                f"Ping chain, {BINS} bins, {scatterers} scatterers, one at a time",
                f"{one:,.0f} pings/s; {base_one / one:.1f} times the floor",
                bar,
            )
        )
    found.append(("Floor: draw and log-scale, blocks / single", f"{base_block:,.0f} / {base_one:,.0f} /s", ""))
    found.append(("Gain window for a hole, nothing cached", f"{settings_for_a_hole():.1f} ms", "50 ms"))
    with tempfile.TemporaryDirectory() as folder, running_server(Path(folder)) as running:
        median, slow, period = knob_to_picture(running)
        found.append(("Knob to picture, median", f"{median:.0f} ms", f"{period + 10:.0f} ms"))
        found.append(("Knob to picture, 95th percentile", f"{slow:.0f} ms", f"{2 * period:.0f} ms"))
        rate, late = streams(running)
        found.append(("16 streams at once", f"{rate:.1f} frames/s; {late:.1f} percent late", "20; under 2 percent"))
    ready, first, memory = start_up()
    found.append(("Command to ready", f"{ready:.2f} s", "1.5 s"))
    found.append(("Ready to first picture", f"{first:.2f} s", "1 s"))
    found.append(("Memory after the first picture", f"{memory:.0f} MB", "180 MB"))
    found.append(("Script, gzipped", f"{script_size():.0f} kB", "120 kB"))
    return found


def main() -> None:
    found = rows()
    table = "\n".join(["| what | measured | bar |", "|---|---|---|", *(f"| {a} | {b} | {c} |" for a, b, c in found)])
    said = (
        "# Benchmarks\n\nMade by `make bench`; figures are for the machine and the moment, ratios travel better. "
        f"Nothing here fails a build.\n\n{date.today().isoformat()}, {os.cpu_count()} cores, "
        f"Python {platform.python_version()}, NumPy {np.__version__}.\n\n{table}\n\n"
        "The floor is drawing and log-scaling the same number of random bins in the same blocks. Late means more than "
        "one frame (50 ms) after it was due.\n"
    )
    print(said)
    (ROOT / "docs").mkdir(exist_ok=True)
    (ROOT / "docs/benchmarks.md").write_text(said, "utf-8")


if __name__ == "__main__":
    main()
