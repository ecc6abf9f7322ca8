-- A rehearsal: the exercise, the sheet and the rules it was begun on, and its seed; all that happens follows from
-- these and the moves, by the exercises of its edition. `watch_id` and `step` say whose twin it is and where on the bench it was begun.
CREATE TABLE rehearsal (
    id INTEGER PRIMARY KEY,
    exercise TEXT NOT NULL CHECK (length(exercise) BETWEEN 1 AND 40),
    watch_id INTEGER REFERENCES watch (id) ON DELETE SET NULL,
    step TEXT NOT NULL DEFAULT '' CHECK (length(step) <= 40),
    sheet TEXT NOT NULL CHECK (json_valid(sheet)),
    rules TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(rules)),
    seed INTEGER NOT NULL CHECK (seed >= 0),
    edition INTEGER NOT NULL CHECK (edition > 0),
    begun TEXT NOT NULL,
    ended TEXT NOT NULL DEFAULT '',
    reached INTEGER CHECK (reached IN (0, 1)),
    helped INTEGER NOT NULL DEFAULT 0 CHECK (helped IN (0, 1)),
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 600),
    CHECK ((ended = '') = (reached IS NULL))
) STRICT;
CREATE INDEX rehearsal_of ON rehearsal (exercise, id);

-- Its moves, in order; one is added and never changed.
CREATE TABLE rehearsal_move (
    rehearsal_id INTEGER NOT NULL REFERENCES rehearsal (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL CHECK (number BETWEEN 1 AND 400),
    what TEXT NOT NULL CHECK (length(what) BETWEEN 1 AND 40),
    value REAL NOT NULL DEFAULT 0,
    word TEXT NOT NULL DEFAULT '' CHECK (length(word) <= 120),
    PRIMARY KEY (rehearsal_id, number)
) STRICT;
