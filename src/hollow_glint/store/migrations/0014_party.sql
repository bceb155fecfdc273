-- Who is in the shelter over a hole: its holes from above, and at each seat a unit and a lure as it is set.

CREATE TABLE party (
    id      INTEGER PRIMARY KEY,
    hole_id INTEGER NOT NULL UNIQUE REFERENCES hole (id) ON DELETE CASCADE,
    party   TEXT NOT NULL CHECK (json_valid(party)),
    kept_at TEXT NOT NULL
) STRICT;
