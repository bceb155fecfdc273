"""The demo's made-up world: the Third Lantern guides on Kaldmere, a northern tarn. Seeding twice changes nothing."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
import time
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import numpy as np

from . import demo_lake, demo_log
from .core.bench.bench_run import BenchRun
from .core.bench.command import Command
from .core.bench.tape import Tape
from .core.drills import schedule
from .core.drills.rounds import Round, RoundPart
from .core.drills.schedule import Answered, Skill
from .core.gear import profiles
from .core.gear.lures import OFF_BOTTOM_M, USUAL_JIG, Lure
from .core.gear.profiles import TRAIL_UNIT
from .core.gear.settings import Settings, smallest_range
from .core.gear.unit import FOOT, UnitProfile
from .core.hole.contents import Hung, Neighbour, Shoal, Structure
from .core.hole.hole import SCENE_FIELDS, Hole
from .core.hole.scene import Scene
from .core.log.outing import Happening, Outing, Stay
from .core.reader.recording import Note
from .core.runs import replay, scripted_hands, start
from .core.runs.debrief import debrief
from .core.runs.run_log import RunLog
from .core.trip.sun import SunTimes, sun_times
from .formats.scene_file import SavedScene
from .store import drills, holes, log_exchange, lures, parties, recordings, runs, scenes, season, strikes, units
from .store.database import Database
from .store.outings import StayAt
from .store.season import Arrival

WATER = "Kaldmere"

# (key, name, note, scene). Depths, ice and bottoms chosen to differ in what the sonar shows. All invented.
HOLES: tuple[tuple[str, str, str, Scene], ...] = (
    ("lantern-point", "Lantern point", "Drop-off below the point; whitefish along the mud at dusk.",
     Scene(9.45, "mud", 0.36, 0.44, temperature_c=1.5)),
    ("sand-tongue", "Sand tongue", "Hard and shallow. Grayling early, then quiet.",
     Scene(4.3, "sand", 0.41, 0.50, temperature_c=0.8)),
    ("burbot-basin", "Burbot basin", "The deep basin. Burbot after dark, slow sink.",
     Scene(17.4, "mud", 0.33, 0.42, temperature_c=2.4)),
    ("inlet-bar", "Inlet bar", "Stained water from the inlet over sand; char follow but seldom take.",
     Scene(7.0, "sand", 0.28, 0.36, temperature_c=0.6, clarity="stained")),
    ("reed-bay", "Reed bay", "Two steps from the reeds, thin column, soft bottom.",
     Scene(2.6, "mud", 0.45, 0.55, temperature_c=0.4, clarity="murky")),
)  # fmt: skip

LURES: tuple[tuple[str, Lure], ...] = (
    ("jig-3", Lure("3 mm tungsten jig", 0.003)),
    ("jig-4", Lure("4 mm tungsten jig", 0.004)),
    ("jig-5", USUAL_JIG),
    ("jig-6", Lure("6 mm lead jig", 0.006, "lead")),
    ("grub-5", Lure("5 mm jig with a grub", 0.005, "tungsten", "baited jig", 0.03)),
    ("chain-5", Lure("5 mm jig on a chain", 0.005, "tungsten", "chain jig", 0.0, 0.06)),
    ("two-5", Lure("Two 5 mm jigs in line", 0.005, "tungsten", "two jigs", 0.0, 0.1524)),
    ("spoon-4", Lure("Spoon", 0.012, "brass", "spoon", 0.04)),
    ("minnow-5", Lure("Minnow bait", 0.010, "lead", "minnow", 0.05)),
)

LEAD_6 = Lure("6 mm lead jig", 0.006, "lead")
SPOON = Lure("Spoon", 0.012, "brass", "spoon", 0.04)

# (key, scene with everything it takes to see it). All invented.
SCENES: tuple[tuple[str, SavedScene], ...] = (
    ("neighbour-dusk-mud", SavedScene(
        "Neighbour at the next hole, dusk, mud",
        "Everything at once: start here and do what the coach says.",
        Scene(9.1, "mud", 0.40, 0.30, temperature_c=1.5, under_ice_c=0.3, tilt_deg=7.0, hour=16.6, plankton="thin",
              neighbours=(Neighbour(2.5, ping_interval_s=0.0473),), visitors=1),
        profiles.TWO_BEAM_RING, Settings(72.0, 90 * FOOT), USUAL_JIG, 6.5, 7)),
    ("two-neighbours-shelter", SavedScene(
        "Three units in one shelter",
        "Two neighbours an arm's length away. Rejection, then the narrow beam.",
        Scene(9.1, "mud", 0.36, 0.44, visitors=1,
              neighbours=(Neighbour(1.2, ping_interval_s=0.0452), Neighbour(2.0, ping_interval_s=0.0561))),
        profiles.TWO_BEAM_RING, Settings(48.0, 45 * FOOT), USUAL_JIG, 7.0, 3)),
    ("weeds-reed-edge", SavedScene(
        "Weeds at the reed edge",
        "What looks like the bottom is not. The short pulse opens it.",
        Scene(4.2, "mud", 0.42, 0.48, temperature_c=0.6, weed_height_m=1.3, weed_density=0.7, visitors=1,
              shoals=(Shoal("bait", 6, "loose", 2.6),)),
        profiles.TWO_BEAM_RING, Settings(40.0, 15 * FOOT), USUAL_JIG, 2.4, 5)),
    ("night-plankton", SavedScene(
        "Deep basin at night",
        "Plankton fills the column; burbot lie on the bottom.",
        Scene(14.0, "mud", 0.33, 0.42, temperature_c=2.4, under_ice_c=0.4, hour=21.0, plankton="thin", visitors=2,
              shoals=(Shoal("burbot", 3, "loose", 13.6),)),
        profiles.WIDE_NARROW_SCROLLER, Settings(4.0, 48 * FOOT, beam=1), LEAD_6, 12.0, 9)),
    ("bait-ball", SavedScene(
        "Bait ball and char",
        "A tight ball of bait with char about, and a dead stick in the second hole.",
        Scene(11.0, "gravel", 0.36, 0.44, second_hole_m=0.9, hung=(Hung("dead stick", 9.8),), visitors=2,
              shoals=(Shoal("bait", 30, "ball", 6.5), Shoal("char", 3, "loose", 8.0))),
        profiles.SHORT_PULSE, Settings(28.0, 40 * FOOT, beam=1), SPOON, 8.0, 11)),
    ("hard-shallow-auto", SavedScene(
        "Hard and shallow on automatic range",
        "Rock at 11 ft. Automatic range has taken the second echo for the bottom.",
        Scene(3.5, "rock", 0.41, 0.46, visitors=1),
        profiles.WIDE_NARROW_SCROLLER, Settings(8.0, 24 * FOOT, beam=1, auto_range=True), USUAL_JIG, 2.4, 13)),
    ("structure", SavedScene(
        "Boulder and brush",
        "Marks that never move: a boulder, a log and a brush pile off to the side, on a slope.",
        Scene(8.0, "sand", 0.36, 0.44, slope_deg=6.0, visitors=1,
              structures=(Structure("boulder", 0.8, 0.8), Structure("brush", -1.0, 1.2), Structure("log", 0.2, 0.3))),
        profiles.SHORT_PULSE, Settings(24.0, 30 * FOOT, beam=1), USUAL_JIG, 5.5, 17)),
)  # fmt: skip

# (key, hole, lure, when, depth m, fish length m, gain, note)
STRIKES: tuple[tuple[str, str, str, str, float, float, float, str], ...] = (
    ("s1", "lantern-point", "jig-5", "2026-02-14T15:42:00Z", 8.1, 0.34, 25, "Whitefish. Slow lift, took on the rise."),
    ("s2", "lantern-point", "jig-5", "2026-02-14T16:20:00Z", 7.4, 0.38, 25, "Whitefish, followed a long way up."),
    ("s3", "lantern-point", "jig-4", "2026-02-15T16:05:00Z", 8.6, 0.29, 28, "Whitefish close to the mud."),
    ("s4", "sand-tongue", "jig-4", "2026-02-14T08:30:00Z", 3.2, 0.31, 16, "Grayling, first light."),
    ("s5", "burbot-basin", "jig-5", "2026-02-15T19:10:00Z", 16.6, 0.52, 33, "Burbot a hand above the bottom."),
    ("s6", "inlet-bar", "jig-5", "2026-02-16T11:15:00Z", 5.3, 0.41, 22, "Char. Two lookers before it."),
)


UNITS = (("trail-unit", TRAIL_UNIT), *((f"shipped-{i}", one) for i, one in enumerate(profiles.SHIPPED)))


def seed_gear(database: Database) -> None:
    """Put the generic units and some lures into a store that has none, so that a first hole can be tried at once."""
    if not units.every(database):
        for key, unit in UNITS:
            units.add(database, unit, demo_key=key)
    if not lures.every(database):
        for key, lure in LURES:
            lures.add(database, lure, demo_key=key)


def seed(database: Database) -> None:
    """Put the demo's gear, holes, strikes and scenes into `database`; what is there already stays as people left it."""
    for name, stage in (
        ("demo", _first_demo),
        ("demo scenes", _demo_scenes),
        ("demo lake", _demo_lake),
        ("demo log", _demo_log),
        ("demo shelter", _demo_shelter),
    ):
        if database.connection().execute("SELECT 1 FROM seeding WHERE name = ?", (name,)).fetchone():
            continue
        stage(database)
        with database.transaction() as connection:
            connection.execute("INSERT OR IGNORE INTO seeding (name, done_at) VALUES (?, datetime('now'))", (name,))


def _first_demo(database: Database) -> None:
    unit = units.add(database, TRAIL_UNIT, demo_key="trail-unit")
    lure_ids = {key: lures.add(database, lure, demo_key=key).id for key, lure in LURES}
    hole_ids = {}
    for key, name, note, scene in HOLES:
        basics = {field: getattr(scene, field) for field in SCENE_FIELDS}
        hole_ids[key] = holes.add(database, Hole(name, water=WATER, note=note, **basics), demo_key=key).id
    depths = {key: scene for key, _, _, scene in HOLES}
    for key, hole_key, lure_key, when, depth, length, gain, note in STRIKES:
        settings = Settings(gain, smallest_range(TRAIL_UNIT, depths[hole_key].bottom_range_m)).checked(TRAIL_UNIT)
        strike = strikes.Strike(
            0, hole_ids[hole_key], unit.id, lure_ids[lure_key], when, depth, length, settings, note, f"demo {key}"
        )
        strikes.add(database, strike)


def _demo_lake(database: Database) -> None:
    """The lake from above; holes that people removed meanwhile are not on it."""
    rows = database.connection().execute("SELECT id, demo_key FROM hole WHERE demo_key IS NOT NULL")
    scroller = profiles.SHIPPED.index(profiles.WIDE_NARROW_SCROLLER)
    unit_id = units.add(database, profiles.WIDE_NARROW_SCROLLER, demo_key=f"shipped-{scroller}").id
    demo_lake.seed(database, {row["demo_key"]: row["id"] for row in rows}, unit_id)


def _demo_log(database: Database) -> None:
    """Two winters of outings on the lake from above."""
    made = demo_log.outings({key: (name, scene) for key, name, _, scene in HOLES}, dict(LURES), demo_lake.HOLE_PLACES)

    def sun_of(lake_id: int | None, outing: Outing) -> SunTimes:
        there = datetime.fromisoformat(outing.began_at) + timedelta(minutes=outing.utc_offset_min)
        day = there.strftime("%Y-%m-%d")
        return sun_times(demo_log.LATITUDE, demo_log.LONGITUDE, day, outing.utc_offset_min)

    log_exchange.take_in(database, made, sun_of)


# (who, unit, lure's key, hole): five of the guides in one shelter over the first hole, as they would set up alone.
SHELTER_HOLES = ((-1.4, 0.8), (0.0, 1.0), (1.4, 0.8), (-0.7, -0.9), (0.8, -0.9))
GUIDES: tuple[tuple[str, UnitProfile, str, int], ...] = (
    ("Ilse", profiles.TWO_BEAM_RING, "jig-5", 0), ("Tor", profiles.TWO_BEAM_RING, "grub-5", 1),
    ("Maren", profiles.THREE_COLOUR_RING, "jig-5", 2), ("Jon", profiles.WIDE_NARROW_SCROLLER, "minnow-5", 3),
    ("Eske", profiles.SHORT_PULSE, "jig-4", 4),
)  # fmt: skip


def _demo_shelter(database: Database) -> None:
    """Who sits in the shelter over the first hole, if that is still there and nobody wrote anyone down."""
    hole = database.connection().execute("SELECT id FROM hole WHERE demo_key = ?", (HOLES[0][0],)).fetchone()
    if hole is None or parties.find(database, hole["id"]) is not None:
        return
    unit_ids = {unit.name: units.add(database, unit, demo_key=key).id for key, unit in UNITS}
    lure_ids = {key: lures.add(database, lure, demo_key=key).id for key, lure in LURES}
    seats = [
        {"name": who, "unit_id": unit_ids[unit.name], "lure_id": lure_ids[lure], "hole": at,
         "lure_depth_m": None, "now": None}
        for who, unit, lure, at in GUIDES
    ]  # fmt: skip
    places = [{"x_m": x, "y_m": y} for x, y in SHELTER_HOLES]
    parties.keep(database, hole["id"], {"holes": places, "seats": seats})


def _demo_scenes(database: Database) -> None:
    """The units and lures of every form, and scenes to practise in."""
    for key, unit in UNITS:
        units.add(database, unit, demo_key=key)
    for key, lure in LURES:
        lures.add(database, lure, demo_key=key)
    for key, saved in SCENES:
        scenes.add(database, saved, demo_key=key)


# (kind, right, of): how a made-up angler has done so far.
PRACTISED: tuple[tuple[str, int, int], ...] = (
    ("which is the lure", 6, 6), ("fish or not", 4, 6), ("touching", 5, 6), ("neighbour or fish", 4, 4),
    ("how hard is the bottom", 3, 4), ("weed or bottom", 2, 4), ("restless bottom", 1, 3), ("centre or edge", 3, 5),
    ("leaving or diving", 2, 5), ("where is it really", 1, 2), ("which knob mends it", 4, 4),
)  # fmt: skip


# (level, seed, what the hand does once a fish looks on from near, how many hours ago): runs of a made-up angler.
PLAYED: tuple[tuple[str, int, str, float], ...] = (
    ("willing", 2, "drop", 49.0), ("willing", 4, "lift fast", 48.8), ("willing", 1, "slow lift", 48.5),
    ("choosy", 1, "hold", 25.0), ("choosy", 3, "lift and wait", 24.7), ("pair", 2, "slow lift", 1.5),
)  # fmt: skip


def has_practice(database: Database) -> bool:
    """Whether `seed_practice` was done."""
    done = database.connection().execute("SELECT 1 FROM seeding WHERE name = 'demo practice'").fetchone()
    return done is not None


def seed_practice(path: Path) -> None:
    """Put a recording, a round, some answers and some runs in, if they are not there. It takes some seconds."""
    database = Database(path)
    if not has_practice(database):
        _demo_practice(database)
        with database.transaction() as connection:
            connection.execute(
                "INSERT OR IGNORE INTO seeding (name, done_at) VALUES ('demo practice', datetime('now'))"
            )
    database.close()


def seed_practice_beside(path: Path) -> subprocess.Popen[bytes]:
    """`seed_practice` in a process of its own, so that neither the start nor a picture waits for it.

    It ends with this one, however that ends.
    """
    return subprocess.Popen([sys.executable, "-m", "hollow_glint.demo", str(path), str(os.getpid())])


def _beside(path: Path, parent: int) -> None:
    def watch() -> None:
        while os.getppid() == parent:
            time.sleep(0.2)
        os._exit(0)  # every row is in a transaction of its own

    threading.Thread(target=watch, daemon=True).start()
    seed_practice(path)


def _demo_practice(database: Database) -> None:
    scene = HOLES[0][3]
    settings = Settings(27.0, smallest_range(TRAIL_UNIT, scene.bottom_range_m))
    run, tape = BenchRun(scene, TRAIL_UNIT, settings, USUAL_JIG, np.random.default_rng(42)), Tape()
    for step in range(1400):
        commands = [Command(to_depth_m=scene.bottom_depth_m - OFF_BOTTOM_M)] if step == 10 else []
        if step % 240 == 200:
            commands.append(Command(lift_m_s=0.03))
        if step % 240 == 235:
            commands.append(Command(lift_m_s=0.0))
        tape.add(run.advance(commands))
    recording = tape.recording("Lantern point at dusk", run, datetime(2026, 2, 14, 15, 40, tzinfo=UTC))
    note = Note(24.0, 8.4, "First fish. It stayed just under the jig.")
    hole = next((one for one in holes.every(database) if one.hole.name == HOLES[0][1]), None)
    recordings.add(database, replace(recording, notes=(note,)), None if hole is None else hole.id, [], demo_key="dusk")
    _demo_runs(database, None if hole is None else hole.id)
    parts = tuple(RoundPart(kind, 1, 2) for kind in ("which is the lure", "touching", "leaving or diving"))
    drills.add_round(database, Round("First morning with clients", parts))
    began = datetime.now(UTC) - timedelta(days=3)
    for k, (kind, right, of) in enumerate(PRACTISED):
        skill = Skill(kind)
        for n in range(of):
            when = began + timedelta(hours=7 * n, minutes=4 * k)
            is_right = (n * right) // of != ((n + 1) * right) // of
            seconds = 5.0 + (7 * k + 3 * n) % 11
            skill = schedule.answered(skill, is_right, seconds, when)
            stamp = when.strftime("%Y-%m-%dT%H:%M:%SZ")
            drills.keep_answer(database, Answered(kind, skill.level, 100 * k + n, is_right, seconds, stamp), skill)


def _demo_runs(database: Database, hole_id: int | None) -> None:
    """Runs played by a scripted hand, and how high fish came this morning."""
    now = datetime.now(UTC)
    for key, number, hand, hours in PLAYED:
        setup = start.set_up(key, number)
        log = RunLog(setup, ((1, Command(to_depth_m=setup.goal_m)),), 600)
        before = replay.story(log)
        at = _looked_at(before) + 30
        log, after = replay.what_if(log, at, scripted_hands.hand(hand), 30.0)
        beats = before[:at] + after
        tape = Tape()
        played = replay.Played(setup, log, tape.add)
        began = now - timedelta(hours=hours)
        picture = tape.recording("run", played.run, began)
        source = f"demo run {key} {number}"
        runs.add(database, log, debrief(log, beats), picture, began.strftime("%Y-%m-%dT%H:%M:%SZ"), source)
    if hole_id is not None:
        for hours, depth, turned in ((3.2, 5.9, True), (2.6, 6.4, True), (1.4, 5.6, False)):
            when = (now - timedelta(hours=hours)).strftime("%Y-%m-%dT%H:%M:%SZ")
            unit = TRAIL_UNIT
            stay = Stay(
                when, None, "Lantern point", 1, 9.45, "mud", "clear", unit.name, unit.beams[0].name,
                Settings(25.0, smallest_range(unit, 9.45)), USUAL_JIG.name, USUAL_JIG.form, USUAL_JIG.size_m,
            )  # fmt: skip
            begun = Arrival(Outing(when, water=WATER), None, None, stay, StayAt(hole_id))
            season.note(database, hole_id, begun, Happening(when, "turned" if turned else "came", depth))


def _looked_at(beats: Sequence[replay.Beat]) -> int:
    """The frame at which a fish first looks on from near; one before the end if none does."""
    for k, beat in enumerate(beats, start=1):
        if any(fish.mood in ("curious", "following") and fish.aside_m < 0.6 for fish in beat.fish):
            return k
    return len(beats) - 40


if __name__ == "__main__":
    _beside(Path(sys.argv[1]), int(sys.argv[2]))
