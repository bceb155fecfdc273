"""The demo's made-up world: the Third Lantern guides on Kaldmere, a northern tarn. Seeding twice changes nothing."""

from __future__ import annotations

from .core.scene import Lure, Scene
from .core.unit import TRAIL_UNIT, Settings, smallest_range
from .store import holes, lures, strikes, units
from .store.database import Database

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
    ("jig-5", Lure("5 mm tungsten jig", 0.005)),
    ("jig-6", Lure("6 mm lead jig", 0.006, "lead")),
)

# (key, hole, lure, when, depth m, fish length m, gain, note)
STRIKES: tuple[tuple[str, str, str, str, float, float, float, str], ...] = (
    ("s1", "lantern-point", "jig-5", "2026-02-14T15:42:00Z", 8.1, 0.34, 25, "Whitefish. Slow lift, took on the rise."),
    ("s2", "lantern-point", "jig-5", "2026-02-14T16:20:00Z", 7.4, 0.38, 25, "Whitefish, followed four feet up."),
    ("s3", "lantern-point", "jig-4", "2026-02-15T16:05:00Z", 8.6, 0.29, 28, "Whitefish close to the mud."),
    ("s4", "sand-tongue", "jig-4", "2026-02-14T08:30:00Z", 3.2, 0.31, 16, "Grayling, first light."),
    ("s5", "burbot-basin", "jig-5", "2026-02-15T19:10:00Z", 16.6, 0.52, 33, "Burbot a hand above the bottom."),
    ("s6", "inlet-bar", "jig-5", "2026-02-16T11:15:00Z", 5.3, 0.41, 22, "Char. Two lookers before it."),
)


def seed_gear(database: Database) -> None:
    """Put one plain unit and some lures into a store that has none, so that a first hole can be tried at once."""
    if not units.every(database):
        units.add(database, TRAIL_UNIT, demo_key="trail-unit")
    if not lures.every(database):
        for key, lure in LURES:
            lures.add(database, lure, demo_key=key)


def seed(database: Database) -> None:
    """Put the demo's unit, lures, holes and strikes into `database`; what is there already stays as people left it."""
    if database.connection().execute("SELECT 1 FROM seeding WHERE name = 'demo'").fetchone():
        return
    unit = units.add(database, TRAIL_UNIT, demo_key="trail-unit")
    lure_ids = {key: lures.add(database, lure, demo_key=key).id for key, lure in LURES}
    hole_ids = {}
    for key, name, note, scene in HOLES:
        hole = holes.Hole(0, name, WATER, note, **vars(scene))
        hole_ids[key] = holes.add(database, hole, demo_key=key).id
    scenes = {key: scene for key, _, _, scene in HOLES}
    for key, hole_key, lure_key, when, depth, length, gain, note in STRIKES:
        settings = Settings(gain, smallest_range(TRAIL_UNIT, scenes[hole_key].bottom_range_m)).checked(TRAIL_UNIT)
        strike = strikes.Strike(
            0, hole_ids[hole_key], unit.id, lure_ids[lure_key], when, depth, length, settings, note, f"demo {key}"
        )
        strikes.add(database, strike)

    with database.transaction() as connection:
        connection.execute("INSERT OR IGNORE INTO seeding (name, done_at) VALUES ('demo', datetime('now'))")
