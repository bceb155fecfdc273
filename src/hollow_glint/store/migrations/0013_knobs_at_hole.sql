-- Where the knobs stood last on the Bench at a hole, once they rested: what is fished there next is fished so.

CREATE TABLE hole_knobs (
    hole_id   INTEGER PRIMARY KEY REFERENCES hole (id) ON DELETE CASCADE,
    unit_id   INTEGER NOT NULL REFERENCES unit (id) ON DELETE CASCADE,
    settings  TEXT NOT NULL CHECK (json_valid(settings)),
    turned_at TEXT NOT NULL
) STRICT;
