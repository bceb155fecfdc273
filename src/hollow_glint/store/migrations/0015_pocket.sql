-- Notes from phones: which were taken in, so that none is twice, and what became of them in the log and on the map.

CREATE TABLE pocket_note (
    id           INTEGER PRIMARY KEY,
    note         TEXT NOT NULL UNIQUE,
    phone        TEXT NOT NULL,
    stay_id      INTEGER REFERENCES stay (id) ON DELETE SET NULL,
    happening_id INTEGER REFERENCES happening (id) ON DELETE SET NULL,
    sounding_id  INTEGER REFERENCES sounding (id) ON DELETE SET NULL,
    ice_id       INTEGER REFERENCES ice_reading (id) ON DELETE SET NULL,
    taken_at     TEXT NOT NULL
) STRICT;

CREATE INDEX pocket_note_of_stay ON pocket_note (stay_id);
CREATE INDEX pocket_note_of_happening ON pocket_note (happening_id);
CREATE INDEX pocket_note_of_sounding ON pocket_note (sounding_id);
CREATE INDEX pocket_note_of_ice ON pocket_note (ice_id);
