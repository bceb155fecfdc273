"""Each kind of thing that is kept: it comes back as it went in, is not found when gone, is left whole by what fails."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import replace
from types import SimpleNamespace

import pytest

from hollow_glint import demo
from hollow_glint.core.drills.rounds import Round, RoundPart
from hollow_glint.core.drills.schedule import Answered, Skill
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import THREE_COLOUR_RING, TRAIL_UNIT
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.ground.lake import Lake
from hollow_glint.core.hole.hole import Hole
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.log.outing import Happening
from hollow_glint.core.trip.batteries import Battery
from hollow_glint.core.trip.rig_test import GearItem
from hollow_glint.formats.scene_file import SavedScene
from hollow_glint.store import (
    drills,
    exercises,
    gear,
    holes,
    ice_days,
    kit,
    lakes,
    lures,
    outings,
    removals,
    scenes,
    season,
    strikes,
    units,
)
from hollow_glint.store.database import APPLICATION_ID, Database, InUse, NotFound, Stale, migrations
from tests.noting import arrival, note

HOLE = Hole("Test hole", 9.0, "mud", 0.3, 0.4, water="Testwater", note="by the reeds")
LAKE = Lake("Testmere", 66.6, 17.0, (10.0, -5.0), (0.0, 0.0, 100.0, 0.0, 50.0, 80.0))
BATTERIES = SimpleNamespace(
    every=kit.batteries, get=kit.battery, add=kit.add_battery, change=kit.change_battery, remove=kit.remove_battery
)
GEAR_ITEMS = SimpleNamespace(
    every=kit.items, get=kit.item, add=kit.add_item, change=kit.change_item, remove=kit.remove_item
)
SETTINGS = starting_settings(TRAIL_UNIT, 8.6)


@pytest.fixture(scope="module")
def template(tmp_path_factory):
    path = tmp_path_factory.mktemp("kept") / "store.sqlite3"
    store = Database(path)
    demo.seed_gear(store)
    store.close()
    return path


@pytest.fixture
def store(tmp_path, template) -> Database:
    path = tmp_path / "store.sqlite3"
    path.write_bytes(template.read_bytes())
    return Database(path)


def scene_of(name: str) -> SavedScene:
    return SavedScene(
        name, "", Scene(9.0, "mud", 0.3, 0.4), TRAIL_UNIT, SETTINGS, Lure("jig", 0.005), 7.0, 5
    )  # fmt: skip


# --- what can be changed, by version -------------------------------------------------------------------------------


def renamed_in(field: str):
    return lambda one, name: replace(one, **{field: replace(getattr(one, field), name=name)})


KINDS = {
    "hole": (holes, lambda: HOLE, "hole", renamed_in("hole")),
    "unit": (units, lambda: TRAIL_UNIT, "profile", renamed_in("profile")),
    "lure": (lures, lambda: Lure("jig", 0.005), "lure", renamed_in("lure")),
    "lake": (lakes, lambda: LAKE, "lake", renamed_in("lake")),
    "battery": (BATTERIES, lambda: Battery("Big", "lead", 10.0), "battery", renamed_in("battery")),
    "piece of gear": (GEAR_ITEMS, lambda: GearItem("Cable", "cable"), "item", renamed_in("item")),
}


@pytest.mark.parametrize("kind", KINDS)
def test_it_comes_back_as_it_went_in_and_counts_its_versions(store, kind):
    module, make, field, renamed = KINDS[kind]
    added = module.add(store, make())
    assert getattr(module.get(store, added.id), field) == make() and added.version == 1
    changed = module.change(store, renamed(added, "Another name"))
    assert changed.version == 2 and module.get(store, added.id) == changed
    assert [one.id for one in module.every(store)].count(added.id) == 1


@pytest.mark.parametrize("kind", KINDS)
def test_a_change_of_an_old_version_is_refused_with_what_is_kept_and_changes_nothing(store, kind):
    module, make, _, renamed = KINDS[kind]
    added = module.add(store, make())
    theirs = module.change(store, renamed(added, "Theirs"))
    with pytest.raises(Stale):
        module.change(store, renamed(added, "Mine"))
    assert module.get(store, added.id) == theirs


@pytest.mark.parametrize("kind", KINDS)
def test_what_is_gone_is_not_found_nor_changed_nor_removed_again(store, kind):
    module, make, _, renamed = KINDS[kind]
    added = module.add(store, make())
    module.remove(store, added.id)
    for act in (
        lambda: module.get(store, added.id),
        lambda: module.remove(store, added.id),
        lambda: module.change(store, renamed(added, "Anew")),
    ):
        with pytest.raises(NotFound, match=f"{kind} {added.id}|no {kind}"):
            act()


def test_units_and_lures_of_a_file_come_in_together(store):
    before = len(units.every(store)), len(lures.every(store))
    gear.add_all(store, (THREE_COLOUR_RING,), (Lure("a", 0.004), Lure("b", 0.006)))
    assert (len(units.every(store)), len(lures.every(store))) == (before[0] + 1, before[1] + 2)


# --- strikes -------------------------------------------------------------------------------------------------------


def strike(store, hole_id: int, at: str = "2026-01-05T10:00:00Z", key: str = "bench:1") -> strikes.Strike:
    like = strikes.Strike.__dataclass_fields__
    given = {
        "id": 0, "hole_id": hole_id, "unit_id": units.every(store)[0].id, "lure_id": lures.every(store)[0].id,
        "struck_at": at, "depth_m": 7.2, "fish_length_m": 0.31, "settings": SETTINGS, "note": "", "source_key": key,
    }  # fmt: skip
    return strikes.Strike(**{name: value for name, value in given.items() if name in like})


def test_strikes_stand_newest_first_and_by_hole(store):
    here, there = (holes.add(store, replace(HOLE, name=name)) for name in ("here", "there"))
    kept = [
        strikes.add(store, strike(store, hole.id, f"2026-01-0{day}T10:00:00Z", f"bench:{day}"))
        for day, hole in ((2, here), (4, there), (3, here))
    ]
    assert [one.struck_at[:10] for one in strikes.every(store)] == ["2026-01-04", "2026-01-03", "2026-01-02"]
    assert [one.id for one in strikes.every(store, here.id)] == [kept[2].id, kept[0].id]
    assert strikes.get(store, kept[1].id).settings == SETTINGS
    strikes.remove(store, kept[1].id)
    assert strikes.every(store, there.id) == []
    with pytest.raises(NotFound):
        strikes.get(store, kept[1].id)


def test_a_hole_with_strikes_stays_until_they_are_gone(store):
    hole = holes.add(store, HOLE)
    kept = strikes.add(store, strike(store, hole.id))
    with pytest.raises(InUse):
        holes.remove(store, hole.id)
    strikes.remove(store, kept.id)
    holes.remove(store, hole.id)


# --- scenes, exercises ---------------------------------------------------------------------------------------------


def test_scenes_are_kept_as_their_files(store):
    first, second = (scenes.add(store, scene_of(name)) for name in ("one", "two"))
    assert scenes.get(store, first.id).saved == scene_of("one")
    assert [one.id for one in scenes.every(store)][-2:] == [first.id, second.id]
    scenes.remove(store, first.id)
    with pytest.raises(NotFound):
        scenes.get(store, first.id)
    with pytest.raises(NotFound):
        scenes.remove(store, first.id)


def test_a_demos_scene_is_seeded_once(store):
    once = scenes.add(store, scene_of("seeded"), demo_key="some-scene")
    again = scenes.add(store, scene_of("seeded otherwise"), demo_key="some-scene")
    assert again.id == once.id and scenes.get(store, once.id).saved.name == "seeded"


def test_an_exercise_is_finished_once_and_the_first_time_counts(store):
    assert exercises.done(store) == {}
    exercises.finish(store, "find the bottom")
    first = exercises.done(store)
    exercises.finish(store, "find the bottom")
    assert exercises.done(store) == first and list(first) == ["find the bottom"]
    assert len(first["find the bottom"]) == len("2026-01-05T10:00:00Z")


# --- the day on the ice --------------------------------------------------------------------------------------------


def test_touches_and_heights_are_of_a_hole_and_a_time_newest_first(store):
    here, there = (holes.add(store, replace(HOLE, name=name)) for name in ("here", "there"))
    for hour, hole in ((8, here), (9, here), (10, there)):
        at = f"2026-01-05T{hour:02d}:00:00Z"
        note(store, hole.id, at, "look", 6.0 if hour == 8 else None)
        note(store, hole.id, at, "turned" if hour == 9 else "came", 5.0 + hour)
    since = "2026-01-05T00:00:00Z"
    assert [one.at[11:13] for one in ice_days.touches(store, here.id, since)] == ["09", "08"]
    assert [one.depth_m for one in ice_days.touches(store, here.id, since)] == [None, 6.0]
    assert [(one.depth_m, one.turned) for one in ice_days.heights(store, here.id, since)] == [
        (14.0, True),
        (13.0, False),
    ]
    assert ice_days.touches(store, here.id, "2026-01-05T08:30:00Z") == ice_days.touches(store, here.id, since)[:1]
    assert ice_days.heights(store, there.id, "2026-01-06T00:00:00Z") == []


def test_a_touch_is_taken_back_only_at_its_own_hole(store):
    here, there = (holes.add(store, replace(HOLE, name=name)) for name in ("here", "there"))
    at = "2026-01-05T08:00:00Z"
    for number in (note(store, here.id, at, "look"), note(store, here.id, at, "turned")):
        with pytest.raises(NotFound):
            ice_days.remove(store, there.id, number)
        ice_days.remove(store, here.id, number)
        with pytest.raises(NotFound):
            ice_days.remove(store, here.id, number)
    assert ice_days.touches(store, here.id, "2026") == ice_days.heights(store, here.id, "2026") == []


def test_nothing_is_noted_at_a_hole_that_is_not_there(store):
    at = "2026-01-05T08:00:00Z"
    hole = holes.add(store, HOLE)
    begun = arrival(store, hole.id, at)
    for ask in (
        lambda: season.note(store, 9999, begun, Happening(at, "look")),
        lambda: season.arrive(store, 9999, begun),
        lambda: season.leave(store, 9999, at),
    ):
        with pytest.raises(NotFound, match="hole"):
            ask()
    assert outings.every(store) == []


def test_the_log_outlives_its_hole(store):
    hole = holes.add(store, HOLE)
    note(store, hole.id, "2026-01-05T08:00:00Z")
    removal = holes.remove(store, hole.id)
    (told,) = season.told(store)
    assert told.stay.at.hole_id is None and told.told.stay.hole == HOLE.name
    assert [one.kind for one in told.told.happened] == ["look"]
    removals.undo(store, removal)
    assert [one.stay.at.hole_id for one in season.told(store)] == [hole.id]


# --- drills --------------------------------------------------------------------------------------------------------


def answer(kind: str = "touching", second: int = 0, is_right: bool = True) -> Answered:
    return Answered(kind, 1, 7, is_right, 3.5, f"2026-01-05T08:00:{second:02d}Z")


def test_an_answer_and_what_the_scheduler_makes_of_it_are_kept_together(store):
    skill = Skill("touching", 2, 1, "2026-01-06T08:00:00Z", '{"x": 1}')
    drills.keep_answer(store, answer(), skill)
    drills.keep_answer(store, answer(second=1, is_right=False), replace(skill, level=1, streak=0))
    assert drills.skills(store) == [replace(skill, level=1, streak=0)], "one line for a kind, the last of it"
    assert [(one.is_right, one.answered_at[-3:-1]) for one in drills.answers(store)] == [(True, "00"), (False, "01")]


def test_an_answer_in_a_round_for_others_moves_nobodys_schedule(store):
    drills.keep_answer(store, answer(), None)
    assert drills.skills(store) == [] and len(drills.answers(store)) == 1


def test_rounds_are_kept_in_order_and_removed(store):
    wanted = Round("Sunday", (RoundPart("touching", 2, 3), RoundPart("which is the lure", 1, 2)))
    kept = drills.add_round(store, wanted)
    assert drills.get_round(store, kept.id) == kept
    assert [one.id for one in drills.rounds(store)][-1] == kept.id
    drills.remove_round(store, kept.id)
    with pytest.raises(NotFound):
        drills.get_round(store, kept.id)
    with pytest.raises(NotFound):
        drills.remove_round(store, kept.id)


# --- the file itself -----------------------------------------------------------------------------------------------


def test_a_transaction_that_fails_leaves_nothing(store):
    hole = holes.add(store, HOLE)

    def slip() -> None:
        with store.transaction() as connection:
            connection.execute("UPDATE hole SET name = 'half done' WHERE id = ?", (hole.id,))
            raise KeyError("a slip")

    with pytest.raises(KeyError):
        slip()
    assert holes.get(store, hole.id) == hole


def test_a_closed_store_is_opened_with_all_that_was_in_it(store, tmp_path):
    hole = holes.add(store, HOLE)
    store.close()
    again = Database(tmp_path / "store.sqlite3")
    assert holes.get(again, hole.id) == hole
    again.close()


def test_names_from_all_the_world_come_back_letter_by_letter(store):
    name = "Jyväsjärvi – 深い穴 \U0001f41f"
    assert holes.get(store, holes.add(store, replace(HOLE, name=name, note="a\nb\tc")).id).hole.name == name


def test_what_an_older_store_noted_on_the_ice_is_in_the_log(tmp_path):
    """Up to version 10 touches and heights stood by themselves: each becomes a note in a stay of its hole and day."""
    path = tmp_path / "old.sqlite3"
    with closing(sqlite3.connect(path, isolation_level=None)) as old:
        old.execute(f"PRAGMA application_id = {APPLICATION_ID}")
        old.execute("CREATE TABLE migration (number INTEGER PRIMARY KEY, name TEXT NOT NULL, applied_at TEXT NOT NULL)")
        for number, name, script in migrations():
            if number <= 10:
                old.executescript(script)
                old.execute("INSERT INTO migration VALUES (?, ?, '2026-01-01')", (number, name))
        old.execute("PRAGMA user_version = 10")
        for hole in ("A", "B"):
            old.execute(
                "INSERT INTO hole (name, water, note, bottom_depth_m, bottom_kind, ice_thickness_m, face_depth_m,"
                " hole_diameter_m, temperature_c, clarity)"
                " VALUES (?, 'W', '', 9.0, 'mud', 0.3, 0.4, 0.2, 1.0, 'clear')",
                (hole,),
            )
        for hole, at in ((1, "2026-01-05T08:00:00Z"), (2, "2026-01-05T09:00:00Z"), (1, "2026-01-09T08:00:00Z")):
            old.execute("INSERT INTO touch (hole_id, at, kind, trying, species, depth_m) VALUES (?, ?, 'look', 'hold',"
                        " 'char', 6.0)", (hole, at))  # fmt: skip
        old.execute("INSERT INTO came (hole_id, at, depth_m, turned) VALUES (1, '2026-01-05T08:30:00Z', 5.0, 1)")
    store = Database(path)
    assert [len(season.told(store, [one.id])) for one in outings.every(store)] == [1, 2]
    assert [one.depth_m for one in ice_days.heights(store, 1, "2026")] == [5.0]
    assert len(ice_days.touches(store, 1, "2026")) == 2 and len(ice_days.touches(store, 2, "2026")) == 1
    assert sum(len(one.told.happened) for one in season.told(store)) == 4
