-- Which log this is: another stamp after every write to it. What was worked out from the log is good as long as its
-- stamp is, on whatever machine.

CREATE TABLE log_stamp (
    id    INTEGER PRIMARY KEY CHECK (id = 1),
    stamp BLOB NOT NULL
) STRICT;

INSERT INTO log_stamp (id, stamp) VALUES (1, randomblob(16));

CREATE TRIGGER stamp_outing_in AFTER INSERT ON outing BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_outing_changed AFTER UPDATE ON outing BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_outing_gone AFTER DELETE ON outing BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_stay_in AFTER INSERT ON stay BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_stay_changed AFTER UPDATE ON stay BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_stay_gone AFTER DELETE ON stay BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_happening_in AFTER INSERT ON happening BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_happening_changed AFTER UPDATE ON happening
BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
CREATE TRIGGER stamp_happening_gone AFTER DELETE ON happening BEGIN UPDATE log_stamp SET stamp = randomblob(16); END;
