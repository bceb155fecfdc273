"""The demo's lake from above: Kaldmere with its shore, three winters of soundings, and a day that is planned. All
invented; the holes lie where their depths agree with the bed."""

from __future__ import annotations

from dataclasses import replace

from .core.ground.lake import Lake
from .core.ground.soundings import Sounding, Structure
from .core.trip.batteries import Battery
from .core.trip.day import Day, Powered
from .core.trip.ice import IceReading
from .core.trip.rig_test import Finding, GearItem
from .core.trip.start_places import FishedPlace
from .store import kit, lake_things, lakes
from .store.database import Database

SHORE: tuple[tuple[int, int], ...] = (
    (596, 0), (585, 50), (549, 94), (505, 133), (461, 167), (411, 196), (353, 216), (296, 230), (251, 252), (213, 288),
    (168, 329), (108, 356), (40, 359), (-26, 345), (-86, 323), (-139, 297), (-179, 262), (-202, 217), (-213, 175),
    (-228, 142), (-253, 117), (-274, 90), (-275, 58), (-258, 27), (-245, 0), (-248, -26), (-264, -56), (-272, -89),
    (-268, -123), (-256, -157), (-242, -194), (-216, -230), (-170, -250), (-109, -248), (-50, -231), (-2, -219),
    (40, -221), (84, -230), (132, -237), (183, -239), (242, -241), (310, -243), (381, -235), (439, -211), (476, -173),
    (503, -132), (537, -92), (575, -49),
)  # fmt: skip
# East, north, depth [m]. The eastern third was hardly ever walked.
SOUNDINGS: tuple[tuple[int, int, float], ...] = (
    (-223, 120, 0.3), (-222, -146, 3.4), (-193, 55, 1.2), (-192, -54, 3.9), (-184, -96, 6.1), (-180, 129, 1.3),
    (-177, 232, 1.4), (-140, -220, 2.8), (-104, -191, 4.4), (-97, -89, 7.9), (-96, 231, 5.8), (-94, 189, 6.8),
    (-75, 140, 7.2), (-63, 37, 7.6), (-28, -95, 7.0), (-12, -153, 3.3), (-4, 224, 7.7), (6, 335, 1.6), (37, 151, 9.8),
    (41, -88, 6.5), (59, 339, 1.8), (62, 45, 16.8), (66, 222, 8.1), (69, -203, 0.5), (85, -101, 6.6), (89, 288, 5.5),
    (102, 28, 18.4), (104, -29, 16.3), (112, -146, 4.9), (132, 62, 18.1), (145, 221, 6.7), (148, -40, 16.3),
    (174, -125, 7.3), (175, 82, 17.4), (186, -219, 1.8), (190, 17, 18.4), (204, -93, 9.5), (213, 209, 4.8),
    (214, 163, 7.4), (233, 35, 17.9), (238, 107, 13.3), (242, -112, 8.2), (250, -164, 6.0), (255, -21, 16.5),
    (287, -198, 3.9), (295, -39, 12.2), (299, 127, 7.9), (325, 76, 10.5),
)  # fmt: skip
HOLE_PLACES: dict[str, tuple[int, int]] = {
    "lantern-point": (-30, 56), "sand-tongue": (48, -122), "burbot-basin": (116, 80), "inlet-bar": (476, -8),
    "reed-bay": (-162, 152),
}  # fmt: skip
STRUCTURES: tuple[Structure, ...] = (
    Structure(-52, -62, "timber", "Sunken timber on the edge"),
    Structure(30, 120, "boulder", "One as big as a car"),
    Structure(-150, 175, "weed edge", "Last green weed"),
    Structure(150, -110, "rock pile", "Hard under a little mud"),
    Structure(560, 20, "inlet", "The stream runs all winter"),
    Structure(-90, 215, "spring", "Grey ice, seldom thick"),
)
ICE: tuple[IceReading, ...] = (
    IceReading(-200, -30, 0.16, "clear", "2026-12-04"),
    IceReading(-60, 40, 0.15, "clear", "2026-12-04"),
    IceReading(20, -95, 0.14, "layered", "2026-11-29"),
)
FISHED: tuple[FishedPlace, ...] = (
    FishedPlace(-60, 110, "2026-10-18", "left in autumn", "Whitefish over the edge of the weed, last boat day"),
    FishedPlace(90, -95, "2026-10-18", "left in autumn", "Whitefish, a loose school"),
    FishedPlace(-30, 56, "2026-12-03", "fished", "Quiet after noon"),
)
DAY = Day(
    "2026-12-05", 540.0, 900.0, 0.0, people=4, holes_each=2, ice_m=0.16, auger="power auger", looking_min=40.0,
    temperature_c=-18.0, told="Third Lantern, at the landing",
)  # fmt: skip
BIG = Battery("Big lead", "lead", 10.0, 20.0, 12.0, 120)
SPARE = Battery("Small lithium", "lithium iron phosphate", 7.0, 20.0, 12.0, 35, spare=True)
GEAR: tuple[tuple[GearItem, tuple[Finding, ...]], ...] = (
    (GearItem("First unit", "unit"), (Finding("2026-12-03T18:10", "power", True),)),
    (GearItem("Second unit's cable", "cable", "The one that hung in the door"),
     (Finding("2026-12-03T18:15", "plugs", False, "Green on two pins; picture gone when bent"),)),
    (GearItem("Transducer", "transducer"), (Finding("2026-12-03T18:20", "bucket", True),)),
    (GearItem("Pole", "pole"), ()),
    (GearItem("Sled bag", "bag"), ()),
)  # fmt: skip


def seed(database: Database, hole_ids: dict[str, int], unit_id: int) -> None:
    """Put the lake, its day and what comes along into a store that has the demo's holes and unit."""
    lake = Lake("Kaldmere", 66.6, 17.0, (-250.0, -32.0), tuple(float(x) for place in SHORE for x in place))
    kept = lakes.add(database, lake, demo_key="kaldmere")
    made = [
        Sounding(float(e), float(n), depth, "drilled hole" if k % 3 else "lead line", f"202{4 + k % 3}-0{1 + k % 3}-14")
        for k, (e, n, depth) in enumerate(SOUNDINGS)
    ]
    for kind, things in (("sounding", made), ("structure", STRUCTURES), ("ice", ICE), ("fished", FISHED)):
        lake_things.add(database, kept.id, things, demo_key=f"kaldmere-{kind}")
    for key, place in HOLE_PLACES.items():
        if key in hole_ids:
            lake_things.place_hole(database, kept.id, hole_ids[key], *place)
    big = kit.add_battery(database, BIG, demo_key="big-lead")
    kit.add_battery(database, SPARE, demo_key="small-lithium")
    powered = (Powered(unit_id, big.id),)
    if lakes.day(database, kept.id) is None:
        lakes.keep_day(database, kept.id, 0, replace(DAY, powered=powered))
    for k, (item, found) in enumerate(GEAR):
        item_id = kit.add_item(database, item, demo_key=f"gear-{k}").id
        for n, one in enumerate(found):
            kit.add_finding(database, item_id, one, demo_key=f"gear-{k}-{n}")
