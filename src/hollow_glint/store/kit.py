"""What comes along: batteries and what was done with them, gear and what was found on it, one's own starting depths."""

from __future__ import annotations

import sqlite3
from dataclasses import asdict, dataclass, fields

from ..core.trip.band import Starting
from ..core.trip.batteries import Battery
from ..core.trip.rig_test import Finding, GearItem
from .database import Database
from .rows import delete, insert, insert_in, one, update


@dataclass(frozen=True)
class BatteryNote:
    """What was done with a battery: when (UTC), charged or volts read [V]."""

    id: int
    at: str
    what: str
    volts: float | None


@dataclass(frozen=True)
class KeptBattery:
    """A stored battery; `version` counts up with each change."""

    id: int
    version: int
    battery: Battery


@dataclass(frozen=True)
class KeptItem:
    """A stored piece of gear; `version` counts up with each change."""

    id: int
    version: int
    item: GearItem


def _battery(row: sqlite3.Row) -> KeptBattery:
    told = {field.name: row[field.name] for field in fields(Battery)}
    return KeptBattery(row["id"], row["version"], Battery(**{**told, "spare": bool(row["spare"])}))


def _item(row: sqlite3.Row) -> KeptItem:
    return KeptItem(row["id"], row["version"], GearItem(row["name"], row["kind"], row["note"]))


def _battery_columns(battery: Battery) -> dict[str, object]:
    return {**asdict(battery), "spare": int(battery.spare)}


def batteries(database: Database) -> list[KeptBattery]:
    """All batteries, oldest first."""
    return [_battery(row) for row in database.connection().execute("SELECT * FROM battery ORDER BY id")]


def battery(database: Database, battery_id: int) -> KeptBattery:
    """The battery with this id, or NotFound."""
    return _battery(one(database, "battery", battery_id))


def add_battery(database: Database, wanted: Battery, demo_key: str | None = None) -> KeptBattery:
    """Keep a new battery and return it. A demo_key that is there already changes nothing."""
    return battery(database, insert(database, "battery", _battery_columns(wanted), demo_key))


def change_battery(database: Database, changed: KeptBattery) -> KeptBattery:
    """Change a battery, if it is still at the version that was changed. NotFound, or Stale."""
    update(database, "battery", changed.id, changed.version, _battery_columns(changed.battery), battery)
    return battery(database, changed.id)


def remove_battery(database: Database, battery_id: int) -> int:
    """Forget a battery with its record. Raises NotFound."""
    return delete(database, "battery", battery_id)


def battery_notes(database: Database, battery_id: int, most: int = 40) -> list[BatteryNote]:
    """What was done with a battery, newest first."""
    rows = database.connection().execute(
        "SELECT id, at, what, volts FROM battery_note WHERE battery_id = ? ORDER BY at DESC, id DESC LIMIT ?",
        (battery_id, most),
    )
    return [BatteryNote(**dict(row)) for row in rows]


def note_battery(database: Database, battery_id: int, at: str, what: str, volts: float | None) -> int:
    """Note that a battery was charged, or its volts: the note's id. A charge counts. Raises NotFound."""
    one(database, "battery", battery_id, "id")
    with database.transaction() as connection:
        if what == "charged":
            connection.execute(
                "UPDATE battery SET charges = charges + 1, version = version + 1 WHERE id = ?", (battery_id,)
            )
        values = {"battery_id": battery_id, "at": at, "what": what, "volts": volts, "demo_key": None}
        return insert_in(connection, "battery_note", values)


def items(database: Database) -> list[KeptItem]:
    """All gear, oldest first."""
    return [_item(row) for row in database.connection().execute("SELECT * FROM gear_item ORDER BY id")]


def item(database: Database, item_id: int) -> KeptItem:
    """The piece of gear with this id, or NotFound."""
    return _item(one(database, "gear_item", item_id, called="piece of gear"))


def add_item(database: Database, wanted: GearItem, demo_key: str | None = None) -> KeptItem:
    """Keep a new piece of gear and return it. A demo_key that is there already changes nothing."""
    return item(database, insert(database, "gear_item", asdict(wanted), demo_key))


def change_item(database: Database, changed: KeptItem) -> KeptItem:
    """Change a piece of gear, if it is still at the version that was changed. NotFound, or Stale."""
    update(database, "gear_item", changed.id, changed.version, asdict(changed.item), item, "piece of gear")
    return item(database, changed.id)


def remove_item(database: Database, item_id: int) -> int:
    """Forget a piece of gear with what was found on it. Raises NotFound."""
    return delete(database, "gear_item", item_id, "piece of gear")


def findings(database: Database, item_id: int) -> list[tuple[int, Finding]]:
    """What was found on a piece of gear with the ids, oldest first."""
    rows = database.connection().execute(
        "SELECT id, at, made, passed, note FROM finding WHERE item_id = ? ORDER BY at, id", (item_id,)
    )
    return [(row["id"], Finding(row["at"], row["made"], bool(row["passed"]), row["note"])) for row in rows]


def add_finding(database: Database, item_id: int, found: Finding, demo_key: str | None = None) -> int:
    """Note what was found on a piece of gear: its id. Raises NotFound."""
    item(database, item_id)
    return insert(database, "finding", {**asdict(found), "passed": int(found.passed), "item_id": item_id}, demo_key)


def remove_finding(database: Database, item_id: int, finding_id: int) -> int:
    """Take back what was noted. Raises NotFound."""
    return delete(database, "finding", finding_id, owner=("item_id", item_id))


def band_lines(database: Database) -> list[tuple[int, Starting]]:
    """The lines of the table of starting depths that are one's own, with their ids."""
    names = [field.name for field in fields(Starting)]
    rows = database.connection().execute(f"SELECT id, {', '.join(names)} FROM band_line ORDER BY id")
    return [(row["id"], Starting(**{name: row[name] for name in names})) for row in rows]


def put_band_line(database: Database, line: Starting) -> int:
    """Keep a line of one's own; one for the same species, season and light is replaced."""
    with database.transaction() as connection:
        row = connection.execute(
            """
            INSERT INTO band_line (species, season, light, from_m, to_m, why)
            VALUES (:species, :season, :light, :from_m, :to_m, :why)
            ON CONFLICT (species, season, light) DO UPDATE SET
                from_m = excluded.from_m, to_m = excluded.to_m, why = excluded.why
            RETURNING id
            """,
            asdict(line),
        ).fetchone()
        return int(row["id"])


def remove_band_line(database: Database, line_id: int) -> int:
    """Go back to what the table says. Raises NotFound."""
    return delete(database, "band_line", line_id, "line of your own")
