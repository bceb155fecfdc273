-- A mood, a level and a generic unit have names of our own now. Said by what the others are called, so that whatever
-- was kept is found.
UPDATE run SET mood = 'choosy' WHERE mood NOT IN ('hot', 'dead', 'choosy');
UPDATE run SET document = json_set(document, '$.setup.day.mood', 'choosy')
    WHERE json_extract(document, '$.setup.day.mood') NOT IN ('hot', 'dead', 'choosy');
UPDATE run SET level = 'choosy', document = json_set(document, '$.setup.level', 'choosy')
    WHERE level LIKE 'window%';
UPDATE unit SET name = 'Short-pulse unit',
        profile = json_set(profile, '$.name', 'Short-pulse unit', '$.pulses[1].name', 'short')
    WHERE demo_key = 'shipped-3' AND version = 1;
