"""`make bench`: the design's rows, measured in one run through the real program."""

from __future__ import annotations

import gc
import gzip
import os
import platform
import re
import statistics
import tempfile
import threading
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from pathlib import Path

import numpy as np
import psutil
from playwright.sync_api import sync_playwright

from benchmarks import crew, photo, reader, searching, seasons, shelter
from hollow_glint import demo
from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.fan.frame import heard
from hollow_glint.core.fan.head import NEAR_REACH, FanHang
from hollow_glint.core.fan.picture import Painter
from hollow_glint.core.fan.settings import FanSettings
from hollow_glint.core.fan.swimmers import Points
from hollow_glint.core.fan.water import fan_water
from hollow_glint.core.fish import cadence
from hollow_glint.core.fish.day import draw_day
from hollow_glint.core.fish.traits import MOODS
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT, TWO_BEAM_RING
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scatterers import LINE_BUBBLES, gather
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.search.course import Course
from hollow_glint.core.search.look import Look
from hollow_glint.core.search.made import made_patch
from hollow_glint.core.search.patch import group_of
from hollow_glint.core.search.sweep import Hang, TurningHead
from hollow_glint.core.search.where_to_drill import Walker, where_to_drill
from hollow_glint.core.sonar import picture, ping, receiver, transmission
from hollow_glint.web.search.looks import FRAME_S
from tests.running import CHROMIUM_FLAGS, Running, chromium_path, events, events_of, running_server, start, wait_ready

ROOT = Path(__file__).parents[1]
SCENE = Scene(8.6, "mud", 0.35, 0.42)
# Everything at once: three neighbours, plankton at night, standing weeds.
CROWDED = replace(
    SCENE, hour=20.0, plankton="thin", weed_height_m=1.0, weed_density=0.4,
    neighbours=(Neighbour(1.2), Neighbour(2.5, ping_interval_s=0.0531), Neighbour(6.0, ping_interval_s=0.0612)),
)  # fmt: skip
SETTINGS = Settings(25.0, 9.144)  # 30 ft: the range at which this unit has just 512 bins
LURE = Lure("5 mm tungsten jig", 0.005)
BINS = 512


def in_turns(*works: Callable[[], int], for_s: float = 2.0) -> list[list[float]]:
    """Units of work done in a second, by each of `works` in each of twenty short turns taken one after another.

    A work returns how many units it did. Taken in turns, whatever else runs on the machine slows all of them alike.
    """
    rates: list[list[float]] = [[] for _ in works]
    for _ in range(20):
        for work, its in zip(works, rates, strict=True):
            done, begun = 0, time.perf_counter()
            while (took := time.perf_counter() - begun) < for_s / 20:
                done += work()
            its.append(done / took)
    return rates


def per_second(work: Callable[[], int], for_s: float = 2.0) -> float:
    """How many units of work are done in a second: the best turn, because what else runs can only slow a turn down."""
    return max(in_turns(work, for_s=for_s)[0])


def ping_chain(scene: Scene, scatterers: int, block: int) -> Callable[[], int]:
    """The work of `block` pings through scene, ping, receiver and picture."""
    rng = np.random.default_rng(1)
    t = transmission.transmit(scene, TRAIL_UNIT, SETTINGS)
    assert t.bin_range_m.size == BINS
    shown = picture.full_column(SETTINGS)
    # One lure and its line's bubbles; fish make up the rest.
    count = scatterers - 1 - len(LINE_BUBBLES)
    fish = ((0.3, "whitefish"),) * count
    lure_xyz = np.tile([0.0, 0.0, 8.0], (block, 1))
    fish_xyz = np.tile(rng.uniform([-1.0, -1.0, 2.0], [1.0, 1.0, 8.2], (count, 3)), (block, 1, 1))
    after = np.arange(block) / TRAIL_UNIT.ping_rate_hz
    begun = 0.0

    def work() -> int:
        nonlocal begun
        times = begun + after
        begun += block / TRAIL_UNIT.ping_rate_hz
        heard, _ = gather(scene, LURE, lure_xyz, None, fish_xyz, fish, (), times, t.frequency_hz, t.sound_speed_m_s)
        assert heard.x.shape[1] == scatterers
        echoes = ping.echo_levels(t, heard, block, rng, times)
        signal, _ = receiver.receive(echoes, TRAIL_UNIT, SETTINGS, t)
        picture.paint_levels(signal, TRAIL_UNIT, SETTINGS, t, shown)
        return block

    return work


def floor(block: int) -> Callable[[], int]:
    """The floor's work: drawing and log-scaling as many random bins, nothing else, in the same blocks."""
    rng = np.random.default_rng(1)

    def work() -> int:
        np.log10(rng.standard_exponential((block, BINS), dtype=np.float32) + np.float32(1e-9))
        return block

    return work


def pings() -> list[tuple[str, str, str]]:
    """The rows of the ping chain: how fast it is, and how many times as long as the floor it takes, turn by turn."""
    found, floors = [], {}
    for said, scene, scatterers in (
        ("10 scatterers", SCENE, 10),
        ("40 scatterers", SCENE, 40),
        ("40 scatterers, 3 neighbours, plankton, weeds", CROWDED, 40),
    ):
        for much, block, bar in (("in blocks of 32", 32, "ratio 4"), ("one at a time", 1, "6,000 pings/s")):
            rates, bases = in_turns(ping_chain(scene, scatterers, block), floor(block))
            floors[much] = max(bases)
            ratio = statistics.median(base / rate for base, rate in zip(bases, rates, strict=True))
            what = f"Ping chain, {BINS} bins, {said}, {much}"
            found.append((what, f"{max(rates):,.0f} pings/s; {ratio:.1f} times the floor", bar))
    said = ", ".join(f"{rate:,.0f} /s {much}" for much, rate in floors.items())
    return [*found, ("Floor: draw and log-scale", said, "")]


def settings_for_a_hole() -> tuple[float, float]:
    """Milliseconds to work out a hole card with nothing remembered: from depth alone, and with everything known."""
    known = KnownHole(
        9.45, ice_thickness_m=0.36, slush_m=0.0, bottom_kind="mud", clarity="clear", light="day", liveliness="quiet",
        weed_height_m=0.0, fish_length_m=0.3, neighbours=(),
    )  # fmt: skip
    took = []
    for at in (KnownHole(9.45), known):

        def work(at: KnownHole = at) -> int:
            transmission._transmit.cache_clear()
            hole_card(at, TWO_BEAM_RING, LURE)
            return 1

        took.append(1000.0 / per_second(work))
    return took[0], took[1]


def cadence_lab() -> float:
    """Seconds for five patterns, each shown to a hundred fish as the page asks for them, on the slowest of moods."""
    took = []
    for mood in MOODS:
        day = draw_day(mood, 0.36, 9.1, np.random.default_rng(1))
        begun = time.perf_counter()
        cadence.outcomes(cadence.PATTERNS[:5], day, 9.1, 0.36, 1, fish=100, seconds=cadence.WATCHED_S)
        took.append(time.perf_counter() - begun)
    return max(took)


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
    paths = []
    for seed in range(count):
        body = {"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": seed}
        _, bench = running.ask("POST", "/api/benches", body)
        paths.append(f"/api/benches/{bench['id']}/stream")
    return read_at_once(running, paths, "frame", STEP_S, for_s)


def looks(running: Running, count: int = 6, for_s: float = 10.0) -> tuple[float, float]:
    """The same for looks around."""
    paths = []
    for seed in range(count):
        _, look = running.ask("POST", "/api/search/looks", {"seed": seed})
        paths.append(f"/api/search/looks/{look['id']}/stream")
    return read_at_once(running, paths, "turned", FRAME_S, for_s)


def fans(running: Running, count: int = 8, for_s: float = 10.0) -> tuple[float, float]:
    """The same for looks ahead."""
    paths = []
    for seed in range(count):
        _, fan = running.ask("POST", "/api/search/fans", {"seed": seed})
        # Its first picture waits until what does not move is worked out; what is measured is how it goes on.
        running.ask("GET", f"/api/search/fans/{fan['id']}/picture")
        paths.append(f"/api/search/fans/{fan['id']}/stream")
    return read_at_once(running, paths, "fan", FRAME_S, for_s)


def fan_frame() -> list[tuple[str, str, str]]:
    """One frame of a fan, echoes and picture, with 300 points that answer, and its cost over drawing and log-scaling as
    many random bins; and what a turn of the handle costs."""
    patch, head, hang, settings = made_patch(1), NEAR_REACH, FanHang(), FanSettings()
    rng = np.random.default_rng(2)
    place = np.stack([rng.uniform(-3.0, 3.0, 300), rng.uniform(1.0, 25.0, 300), rng.uniform(1.0, 6.0, 300)], axis=1)
    points = Points(place, np.full(300, 1e-4), np.ones(300, dtype=bool))
    here, painter = fan_water(patch, head, hang, settings.reach_m), Painter()
    aims = iter(range(1, 100_000))

    def frame() -> int:
        painter.paint(heard(here, head, hang, points, rng), here, head, hang, settings)
        return 1

    def turned() -> int:
        fan_water(patch, head, replace(hang, aim_deg=next(aims) * 0.7 % 360.0), settings.reach_m)
        return 1

    frames, floors = in_turns(frame, floor(head.beams))
    ratio = statistics.median(base / head.beams / rate for rate, base in zip(frames, floors, strict=True))
    return [
        ("Fan, 128 beams x 512 bins, 300 points: a frame",
         f"{1000.0 / max(frames):.1f} ms; {ratio:.1f} times the floor", "12 ms; 5 times"),
        ("Fan, the handle turned", f"{1000.0 / per_second(turned):.0f} ms", "none: within a frame or two"),
    ]  # fmt: skip


def read_at_once(running: Running, paths: list[str], wanted: str, frame_s: float, for_s: float) -> tuple[float, float]:
    """Frames a second per stream of those at `paths`, and the share [percent] that came late by more than a frame."""
    gaps: list[float] = []
    lock = threading.Lock()

    def read(path: str) -> None:
        mine, last, end = [], None, time.perf_counter() + for_s
        for name, _ in events_of(running, path):
            if name == wanted:
                now = time.perf_counter()
                if last is not None:
                    mine.append(now - last)
                last = now
                if now > end:
                    break
        with lock:
            gaps.extend(mine)

    threads = [threading.Thread(target=read, args=(path,)) for path in paths]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return len(gaps) / for_s / len(paths), 100.0 * sum(gap > 2.0 * frame_s for gap in gaps) / len(gaps)


def sweep() -> list[tuple[str, str, str]]:
    """The rows of a look around: how many times as fast as life a sweep with 500 fish is, and where to drill."""
    patch = made_patch(1)
    rng = np.random.default_rng(2)
    way = np.array([-60.0, 5400.0]), np.array([[-12.0, 6.0], [900.0, 40.0]])
    crowd = tuple(group_of("school", "grayling", 100, 4.0, (way[0], way[1] + 2.0 * k), rng) for k in range(5))
    look = Look(replace(patch, groups=crowd), TurningHead(), Hang(), np.random.default_rng(1))
    look.advance(0.1)  # what does not move is worked out once

    def turn() -> int:
        look.advance(look.turn_s)
        return 1

    times = per_second(turn, for_s=4.0) * look.turn_s
    took = []
    for holes in (1, 2, 3):
        schools = [searching.made_school(seed) for seed in range(searching.TRYING, searching.TRYING + 8)]
        courses = [Course(one.fixes, one.column) for one in schools]
        walkers = [searching.walker_after(one, holes) for one in schools]

        def all_of_them(courses: list[Course] = courses, walkers: list[Walker] = walkers) -> int:
            for course, walker in zip(courses, walkers, strict=True):
                where_to_drill(course, walker)
            return len(courses)

        took.append(1000.0 / per_second(all_of_them))
    return [
        ("Sweep, 240 bearings x 512 bins, 500 fish", f"{times:,.0f} times its turning rate", "20 times"),
        ("Where to drill, 1 / 2 / 3 holes", " / ".join(f"{one:.0f} ms" for one in took), "50 ms"),
    ]


def start_up() -> tuple[float, float, float]:
    """Seconds from the command to ready, and on to the first frame; resident memory [MB] after that."""
    # Its practice may still be being seeded when the program is stopped.
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
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


def page_intervals(running: Running, for_s: float = 8.0) -> tuple[float, float]:
    """Median and 95th percentile [ms] between two paints of the real page: two pictures, 1280x800, a crowded scene."""
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{running.url}/?seed=1#/hole/1/bench/scene/1")
        page.get_by_test_id("floor").get_by_text("?").wait_for(state="detached")
        gaps = page.evaluate(
            """ms => new Promise(done => {
              const at = [];
              requestAnimationFrame(function again(t) {
                at.push(t);
                if (t - at[0] < ms) requestAnimationFrame(again);
                else done(at.slice(1).map((one, i) => one - at[i]));
              });
            })""",
            1000.0 * for_s,
        )
        browser.close()
    return statistics.median(gaps), float(np.percentile(gaps, 95))


def lake() -> list[tuple[str, str, str]]:
    """The rows of the lake: a surface of 10,000 soundings, its map mended by one more, and a day's walk planned."""
    from benchmarks import ground
    from hollow_glint.core.ground.surface import Surface
    from hollow_glint.core.trip.walk import Stop, plan

    here, rng = ground.lake(5030, "smooth"), np.random.default_rng(9)
    place = here.places(10_000, rng)
    depth = ground.sounded(here, place, rng)
    begun = time.perf_counter()
    surface = Surface(place, depth, here.ring)
    fitted = time.perf_counter() - begun
    whole, mended = ground.redrawn(surface, (float(place[0, 0]) + 3.0, float(place[0, 1])))
    took = []
    for count in (14, 40):
        stops = [Stop(float(e), float(n), float(rng.uniform(1, 9)), 43.0) for e, n in place[:count]]
        took.append(1.0 / per_second(lambda stops=stops: bool(plan((0.0, 0.0), (0.0, 0.0), 360.0, 60.0, stops))))
    said = f"{fitted:.2f} s / {mended:.2f} s (the whole map {whole:.2f} s)"
    return [
        ("10,000 soundings fitted / map drawn anew after one more", said, "3 s / 0.3 s"),
        ("A day planned, 14 places / 40 places", f"{took[0]:.2f} s / {took[1]:.2f} s", "0.5 s"),
    ]


def lake_dragged(running: Running) -> tuple[float, float, float]:
    """Median and 95th percentile [ms] between two paints while the lake is dragged, and paints of the map for each."""
    with sync_playwright() as play:
        browser = play.chromium.launch(executable_path=chromium_path(), args=CHROMIUM_FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{running.url}/#/hole/1/trip")
        page.get_by_role("button", name=re.compile("^Place A")).wait_for()
        page.wait_for_timeout(1000)
        gaps, painted = page.evaluate(
            """() => new Promise(done => {
              const sheet = document.querySelector('[data-testid=lake-map] .sheet');
              const canvas = sheet.querySelector('canvas'), at = [], first = Number(canvas.dataset.frames);
              sheet.setPointerCapture = () => undefined;
              const send = (kind, x) => sheet.dispatchEvent(
                new PointerEvent(kind, { pointerId: 1, clientX: x, clientY: 400, bubbles: true }));
              send('pointerdown', 300);
              let moves = 0;  // as a finger does, between two paints
              const hand = setInterval(() => send('pointermove', 300 + 120 * Math.sin(++moves / 24)), 8);
              requestAnimationFrame(function again(t) {
                at.push(t);
                if (at.length < 180) return requestAnimationFrame(again);
                clearInterval(hand);
                send('pointercancel', 300);
                done([at.slice(1).map((one, i) => one - at[i]), Number(canvas.dataset.frames) - first]);
              });
            })"""
        )
        browser.close()
    return statistics.median(gaps), float(np.percentile(gaps, 95)), painted / len(gaps)


def memory_growth(hours: float = 2.0) -> tuple[float, float]:
    """Resident memory [MB] once the five remembered minutes are full, and its growth [percent] over `hours` more.

    In fast time: the demo's crowded scene, with a hand that never rests.
    """
    saved = demo.SCENES[0][1]
    run = BenchRun(
        saved.scene, saved.unit, saved.settings, saved.lure, np.random.default_rng(saved.seed), saved.lure_depth_m
    )
    process = psutil.Process()

    def go(for_s: float) -> float:
        for step in range(int(for_s / STEP_S)):
            command = Command(to_depth_m=5.0 + 3.0 * (step // 400 % 2), twitch=step % 97 == 0)
            run.advance([command] if step % 100 == 0 else [])
        gc.collect()
        return process.memory_info().rss / 1e6

    before = go(420.0)
    after = go(3600.0 * hours)
    return before, 100.0 * (after / before - 1.0)


def script_size() -> float:
    """The scripts that the first page, the Bench, is made of, gzipped [kB]; other steps are fetched when opened."""
    assets = ROOT / "src/hollow_glint/web/static/assets"
    waiting, needed = [*assets.glob("index-*.js"), *assets.glob("Bench-*.js")], set[Path]()
    while waiting:
        script = waiting.pop()
        needed.add(script)
        named = re.findall(r'(?:from|import)\s*"\./([^"]+\.js)"', script.read_text("utf-8"))
        waiting += [assets / name for name in named if assets / name not in needed]
    return sum(len(gzip.compress(script.read_bytes())) for script in needed) / 1000.0


def rows() -> list[tuple[str, str, str]]:
    """(what, measured, bar) of every row."""
    found = pings()
    alone, known = settings_for_a_hole()
    found.append(("Hole card, depth alone / all known", f"{alone:.0f} ms / {known:.0f} ms", "50 ms"))
    found.append(("Cadence lab, 5 patterns of 100 fish each", f"{cadence_lab():.1f} s", "5 s"))
    found += sweep()
    found += fan_frame()
    # A demo just started: its practice is being seeded beside it.
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder, running_server(Path(folder)) as running:
        median, slow, period = knob_to_picture(running)
        found.append(("Knob to picture, median", f"{median:.0f} ms", f"{period + 10:.0f} ms"))
        found.append(("Knob to picture, 95th percentile", f"{slow:.0f} ms", f"{2 * period:.0f} ms"))
        rate, late = streams(running)
        found.append(("16 streams at once", f"{rate:.1f} frames/s; {late:.1f} percent late", "20; under 2 percent"))
        rate, late = looks(running)
        found.append(("6 looks around at once", f"{rate:.1f} frames/s; {late:.1f} percent late", "10; under 2 percent"))
        rate, late = fans(running)
        found.append(("8 looks ahead at once", f"{rate:.1f} frames/s; {late:.1f} percent late", "10; under 2 percent"))
        middle, slow = page_intervals(running)
        said = f"{middle:.1f} ms; 95th percentile {slow:.1f} ms"
        found.append(("Between two paints of the page, two pictures", said, "16.7 ms (60 a second)"))
        middle, slow, share = lake_dragged(running)
        said = f"{middle:.1f} ms; 95th percentile {slow:.1f} ms; the map painted in {100.0 * share:.0f} of 100"
        found.append(("Between two paints while the lake is dragged", said, "16.7 ms (60 a second)"))
    before, growth = memory_growth()
    found.append(("A bench for two hours in fast time", f"{before:.0f} MB, {growth:+.1f} percent", "under 5 percent"))
    found += seasons.rows()
    found.append(shelter.row())
    found += crew.rows()
    found += photo.rows()
    found += lake()  # after the memory: it brings outside references along
    ready, first, memory = (statistics.median(one) for one in zip(*(start_up() for _ in range(5)), strict=True))
    found.append(("Command to ready", f"{ready:.2f} s", "1.0 s"))
    found.append(("Ready to first picture", f"{first:.2f} s", "0.3 s"))
    found.append(("Memory after the first picture", f"{memory:.0f} MB", "180 MB"))
    found.append(("First page's script, gzipped", f"{script_size():.0f} kB", "120 kB"))
    return found


def write_page(found: list[tuple[str, str, str]]) -> None:
    """`docs/benchmarks.md`, and on the screen."""
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


def main() -> None:
    write_page(rows())
    # The reader's figures have a page of their own. Four hundred scenes take ten minutes on two cores.
    total = reader.score_all(reader.SCORED)
    reader.write_docs(total, len(reader.SCORED))
    print("\n".join(reader.lines(total)))


if __name__ == "__main__":
    main()
