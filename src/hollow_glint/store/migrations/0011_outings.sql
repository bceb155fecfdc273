-- Outings, the stays at holes with what was used there, and everything that happened. What the strike sheet noted so far
-- becomes part of them: an outing for each day and water, a stay for each hole of it.

CREATE TABLE outing (
    id             INTEGER PRIMARY KEY,
    version        INTEGER NOT NULL DEFAULT 1,
    lake_id        INTEGER REFERENCES lake (id) ON DELETE SET NULL,
    began_at       TEXT NOT NULL,
    ended_at       TEXT,
    water          TEXT NOT NULL,
    who            TEXT NOT NULL,
    utc_offset_min REAL NOT NULL,
    ice_m          REAL,
    snow           TEXT NOT NULL,
    sky            TEXT,
    wind           TEXT,
    temperature_c  REAL,
    pressure_hpa   REAL,
    pressure_trend TEXT,
    note           TEXT NOT NULL,
    -- Sunrise, sunset and twilight of that day there, worked out once; null where nobody knows where it was.
    sun            TEXT CHECK (sun IS NULL OR json_valid(sun)),
    demo_key       TEXT UNIQUE
) STRICT;

CREATE INDEX outing_by_time ON outing (began_at);

CREATE TABLE stay (
    id          INTEGER PRIMARY KEY,
    version     INTEGER NOT NULL DEFAULT 1,
    outing_id   INTEGER NOT NULL REFERENCES outing (id) ON DELETE CASCADE,
    -- The log keeps its own words of a hole and of the gear: they outlive both.
    hole_id     INTEGER REFERENCES hole (id) ON DELETE SET NULL,
    unit_id     INTEGER REFERENCES unit (id) ON DELETE SET NULL,
    lure_id     INTEGER REFERENCES lure (id) ON DELETE SET NULL,
    began_at    TEXT NOT NULL,
    ended_at    TEXT,
    hole        TEXT NOT NULL,
    lines       INTEGER NOT NULL,
    depth_m     REAL,
    bottom      TEXT,
    clarity     TEXT,
    unit        TEXT NOT NULL,
    beam        TEXT NOT NULL,
    settings    TEXT CHECK (settings IS NULL OR json_valid(settings)),
    lure        TEXT NOT NULL,
    lure_form   TEXT NOT NULL,
    lure_size_m REAL,
    trying      TEXT,
    note        TEXT NOT NULL,
    east_m      REAL,
    north_m     REAL,
    demo_key    TEXT UNIQUE
) STRICT;

CREATE INDEX stay_of_outing ON stay (outing_id, began_at);
CREATE INDEX stay_at_hole ON stay (hole_id, began_at);

CREATE TABLE happening (
    id        INTEGER PRIMARY KEY,
    stay_id   INTEGER NOT NULL REFERENCES stay (id) ON DELETE CASCADE,
    at        TEXT NOT NULL,
    kind      TEXT NOT NULL,
    depth_m   REAL CHECK (depth_m IS NULL OR depth_m > 0),
    trying    TEXT,
    species   TEXT,
    length_m  REAL CHECK (length_m IS NULL OR length_m > 0),
    kept      INTEGER CHECK (kept IN (0, 1)),
    ended     TEXT,
    note      TEXT NOT NULL,
    demo_key  TEXT UNIQUE
) STRICT;

CREATE INDEX happening_of_stay ON happening (stay_id, at);

-- Stays cut into pieces in which nothing changed, as the patterns take them: made when they are first asked for, and
-- gone as soon as anything that they are made of is written. made_by says which program's classes they have.
CREATE TABLE stay_pieces (
    id       INTEGER PRIMARY KEY REFERENCES stay (id) ON DELETE CASCADE,
    made_by  INTEGER NOT NULL,
    document TEXT NOT NULL CHECK (json_valid(document))
) STRICT;

CREATE TRIGGER pieces_of_happening_in AFTER INSERT ON happening
BEGIN DELETE FROM stay_pieces WHERE id = NEW.stay_id; END;
CREATE TRIGGER pieces_of_happening_changed AFTER UPDATE ON happening
BEGIN DELETE FROM stay_pieces WHERE id IN (OLD.stay_id, NEW.stay_id); END;
CREATE TRIGGER pieces_of_happening_gone AFTER DELETE ON happening
BEGIN DELETE FROM stay_pieces WHERE id = OLD.stay_id; END;
CREATE TRIGGER pieces_of_stay_changed AFTER UPDATE ON stay
BEGIN DELETE FROM stay_pieces WHERE id = NEW.id; END;
CREATE TRIGGER pieces_of_outing_changed AFTER UPDATE ON outing
BEGIN DELETE FROM stay_pieces WHERE id IN (SELECT id FROM stay WHERE outing_id = NEW.id); END;

INSERT INTO outing (lake_id, began_at, ended_at, water, who, utc_offset_min, snow, note)
SELECT hole_place.lake_id, min(noted.at), max(noted.at), hole.water, '', 0, '', ''
FROM (SELECT hole_id, at FROM touch UNION ALL SELECT hole_id, at FROM came) AS noted
JOIN hole ON hole.id = noted.hole_id LEFT JOIN hole_place ON hole_place.hole_id = hole.id
GROUP BY substr(noted.at, 1, 10), hole.water;

INSERT INTO stay (outing_id, hole_id, began_at, ended_at, hole, lines, depth_m, bottom, clarity, unit, beam, lure,
                  lure_form, note)
SELECT (SELECT outing.id FROM outing WHERE outing.water = hole.water
        AND substr(outing.began_at, 1, 10) = substr(noted.at, 1, 10)),
       hole.id, min(noted.at), max(noted.at), hole.name, 1, hole.bottom_depth_m, hole.bottom_kind, hole.clarity, '', '',
       '', '', ''
FROM (SELECT hole_id, at FROM touch UNION ALL SELECT hole_id, at FROM came) AS noted
JOIN hole ON hole.id = noted.hole_id
GROUP BY substr(noted.at, 1, 10), hole.id;

INSERT INTO happening (stay_id, at, kind, depth_m, trying, species, note)
SELECT (SELECT stay.id FROM stay WHERE stay.hole_id = touch.hole_id
        AND substr(stay.began_at, 1, 10) = substr(touch.at, 1, 10)), at, kind, depth_m, trying, species, ''
FROM touch;

INSERT INTO happening (stay_id, at, kind, depth_m, note)
SELECT (SELECT stay.id FROM stay WHERE stay.hole_id = came.hole_id
        AND substr(stay.began_at, 1, 10) = substr(came.at, 1, 10)), at,
       CASE turned WHEN 1 THEN 'turned' ELSE 'came' END, depth_m, ''
FROM came;

DROP TABLE touch;
DROP TABLE came;
-- Removals that hold rows of those two tables could not be brought back any more.
DELETE FROM removal WHERE document LIKE '%["touch",%' OR document LIKE '%["came",%';
