-- Notes from phones: which were taken in, so that none is twice, and what became of them in the log.

CREATE TABLE pocket_note (
    id           INTEGER PRIMARY KEY,
    note         TEXT NOT NULL UNIQUE,
    phone        TEXT NOT NULL,
    stay_id      INTEGER REFERENCES stay (id) ON DELETE SET NULL,
    happening_id INTEGER REFERENCES happening (id) ON DELETE SET NULL,
    taken_at     TEXT NOT NULL
) STRICT;

CREATE INDEX pocket_note_of_stay ON pocket_note (stay_id);
CREATE INDEX pocket_note_of_happening ON pocket_note (happening_id);
