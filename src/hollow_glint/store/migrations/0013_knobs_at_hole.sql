-- Which unit and lure the Bench had last at a hole, and where the knobs stood once they rested: what is fished there
-- next is fished so.

CREATE TABLE hole_knobs (
    id        INTEGER PRIMARY KEY,
    hole_id   INTEGER NOT NULL UNIQUE REFERENCES hole (id) ON DELETE CASCADE,
    unit_id   INTEGER NOT NULL REFERENCES unit (id) ON DELETE CASCADE,
    lure_id   INTEGER REFERENCES lure (id) ON DELETE SET NULL,
    settings  TEXT NOT NULL CHECK (json_valid(settings)),
    turned_at TEXT NOT NULL
) STRICT;
