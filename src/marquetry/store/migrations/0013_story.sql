-- What was noted by hand about a watch; one that was a slip is taken back, never rubbed out.
-- `about` is the part that it speaks of, or nothing.
CREATE TABLE story_note (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    kind TEXT NOT NULL CHECK (kind IN ('note', 'decision')),
    about TEXT NOT NULL DEFAULT '' CHECK (length(about) <= 40),
    words TEXT NOT NULL CHECK (length(words) BETWEEN 1 AND 1000),
    photo_id INTEGER REFERENCES photo (id) ON DELETE SET NULL DEFERRABLE INITIALLY DEFERRED,
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    withdrawn INTEGER NOT NULL DEFAULT 0 CHECK (withdrawn IN (0, 1))
) STRICT;
CREATE INDEX note_of_watch ON story_note (watch_id, at);

-- What became of a watch, or of one number of its series; rows are added, never changed. `undoes` takes one back.
-- `minor` is what it was sold for; `book_id` is the booking that a row wrote.
CREATE TABLE fate (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    what TEXT NOT NULL CHECK (what IN ('sold', 'given', 'kept', 'apart', 'back', 'found', 'changed', 'out', 'undo')),
    number INTEGER NOT NULL DEFAULT 1 CHECK (number BETWEEN 1 AND 1000),
    who TEXT NOT NULL DEFAULT '' CHECK (length(who) <= 80),
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 400),
    minor INTEGER CHECK (minor >= 0),
    currency TEXT NOT NULL DEFAULT '',
    day TEXT NOT NULL,
    undoes INTEGER UNIQUE REFERENCES fate (id) DEFERRABLE INITIALLY DEFERRED
) STRICT;
CREATE INDEX fate_of_watch ON fate (watch_id, id);

-- What the workshop says of a watch on its card and on the sheet it is handed over with; the rest follows.
CREATE TABLE spec_card (
    watch_id INTEGER PRIMARY KEY REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    maker TEXT NOT NULL DEFAULT '' CHECK (length(maker) <= 80),
    line TEXT NOT NULL DEFAULT '' CHECK (length(line) <= 120),
    day TEXT NOT NULL DEFAULT '',
    left_out TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(left_out)),
    promised TEXT NOT NULL DEFAULT '' CHECK (length(promised) <= 1000),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0)
) STRICT;

-- A piece that was handed over beside a watch: a second strap, the links that were taken out.
ALTER TABLE piece ADD COLUMN went_with INTEGER REFERENCES watch (id) ON DELETE SET NULL;
CREATE INDEX piece_went ON piece (went_with) WHERE went_with IS NOT NULL;

-- A lesson may belong to a kind, a part or a school alone, without a step.
CREATE TABLE lesson_now (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER REFERENCES watch (id) ON DELETE SET NULL,
    step TEXT NOT NULL DEFAULT '' CHECK (length(step) <= 40),
    kind TEXT NOT NULL DEFAULT '' CHECK (length(kind) <= 40),
    part_id INTEGER REFERENCES part (id) ON DELETE SET NULL,
    school TEXT NOT NULL DEFAULT '' CHECK (length(school) <= 80),
    mishap TEXT NOT NULL DEFAULT '' CHECK (length(mishap) <= 40),
    words TEXT NOT NULL CHECK (length(words) BETWEEN 1 AND 400),
    day TEXT NOT NULL,
    withdrawn INTEGER NOT NULL DEFAULT 0 CHECK (withdrawn IN (0, 1))
) STRICT;
INSERT INTO lesson_now SELECT id, watch_id, step, kind, part_id, school, mishap, words, day, withdrawn FROM lesson;
DROP TABLE lesson;
ALTER TABLE lesson_now RENAME TO lesson;
CREATE INDEX lesson_of_step ON lesson (step);

-- What later builds said of a lesson: it held again, it is outgrown, it is shown once more. Rows are added.
CREATE TABLE lesson_turn (
    id INTEGER PRIMARY KEY,
    lesson_id INTEGER NOT NULL REFERENCES lesson (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    what TEXT NOT NULL CHECK (what IN ('held', 'outgrown', 'shown')),
    watch_id INTEGER REFERENCES watch (id) ON DELETE SET NULL,
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 400),
    day TEXT NOT NULL
) STRICT;
CREATE INDEX turn_of_lesson ON lesson_turn (lesson_id, id);

-- The story reads what was changed, never the sheets: without this it would read through all of them.
CREATE INDEX revision_told ON revision (watch_id, version, change, undo_to, redo_to, saved_at);
-- What a seller's figures are worth: each measured value with what was listed before it.
CREATE INDEX reading_measured ON reading (source, owner, owner_id, path) WHERE source = 'measured';
