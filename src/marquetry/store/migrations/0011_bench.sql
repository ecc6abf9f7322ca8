-- What was tapped, read and taken off at the bench; rows are added, never changed. `undoes` names a key taken back.
-- `value` and `u` in mm, of a timer minutes; `sign` is the step's as it was then; `at_ms` counts from 1970 in UTC.
CREATE TABLE bench_entry (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    key TEXT NOT NULL CHECK (length(key) BETWEEN 8 AND 64),
    step TEXT NOT NULL CHECK (length(step) <= 40),
    what TEXT NOT NULL CHECK (what IN ('start', 'pause', 'done', 'yes', 'no', 'skip', 'open', 'gap', 'length', 'cut',
        'file', 'height', 'timer', 'quiet', 'mishap', 'note', 'photo', 'ready', 'undo')),
    value REAL,
    u REAL CHECK (u >= 0),
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 400),
    sign TEXT NOT NULL DEFAULT '' CHECK (length(sign) <= 40),
    detail TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(detail)),
    undoes TEXT NOT NULL DEFAULT '' CHECK (length(undoes) <= 64),
    device TEXT NOT NULL DEFAULT '' CHECK (length(device) <= 64),
    at_ms INTEGER NOT NULL CHECK (at_ms >= 0),
    UNIQUE (watch_id, key)
) STRICT;
CREATE INDEX entry_of_watch ON bench_entry (watch_id, at_ms, id);
CREATE INDEX entry_of_timer ON bench_entry (what) WHERE what IN ('timer', 'quiet');

-- What a build taught: shown at its step in later builds that share the part, the kind or the school.
CREATE TABLE lesson (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER REFERENCES watch (id) ON DELETE SET NULL,
    step TEXT NOT NULL CHECK (length(step) BETWEEN 1 AND 40),
    kind TEXT NOT NULL DEFAULT '' CHECK (length(kind) <= 40),
    part_id INTEGER REFERENCES part (id) ON DELETE SET NULL,
    school TEXT NOT NULL DEFAULT '' CHECK (length(school) <= 80),
    mishap TEXT NOT NULL DEFAULT '' CHECK (length(mishap) <= 40),
    words TEXT NOT NULL CHECK (length(words) BETWEEN 1 AND 400),
    day TEXT NOT NULL,
    withdrawn INTEGER NOT NULL DEFAULT 0 CHECK (withdrawn IN (0, 1))
) STRICT;
CREATE INDEX lesson_of_step ON lesson (step);

-- How the bench's screens behave: whether they guide, whether they sound.
CREATE TABLE bench_setting (
    key TEXT PRIMARY KEY CHECK (key IN ('guided', 'sounds')),
    value INTEGER NOT NULL CHECK (value IN (0, 1))
) STRICT, WITHOUT ROWID;

-- Who may come in from another machine. One row at most; it never leaves in an archive.
CREATE TABLE access (
    id INTEGER PRIMARY KEY CHECK (id = 1),
    phrase_hash TEXT NOT NULL,
    secret TEXT NOT NULL,
    changed_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;

-- A photograph may belong to a step of the bench: `owner_id` is then its watch.
CREATE TABLE photo_now (
    id INTEGER PRIMARY KEY,
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'piece', 'donor', 'made', 'trial', 'bench')),
    owner_id INTEGER NOT NULL,
    digest TEXT NOT NULL CHECK (digest GLOB '[0-9a-f]*' AND length(digest) = 64),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    caption TEXT NOT NULL DEFAULT '' CHECK (length(caption) <= 200),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
INSERT INTO photo_now SELECT id, owner, owner_id, digest, width, height, caption, at FROM photo;
DROP TABLE photo;
ALTER TABLE photo_now RENAME TO photo;
CREATE INDEX photo_of ON photo (owner, owner_id);
