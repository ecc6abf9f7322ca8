-- Blanks are pieces, each with a number, its stages and a state; how many there are of each is counted, never typed.
CREATE TABLE blank (
    id INTEGER PRIMARY KEY,
    batch_id INTEGER NOT NULL REFERENCES batch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL CHECK (number BETWEEN 1 AND 1000),
    state TEXT NOT NULL DEFAULT 'work' CHECK (state IN ('work', 'good', 'test', 'spoilt')),
    spoilt_at TEXT NOT NULL DEFAULT '' CHECK (length(spoilt_at) <= 40),
    why TEXT NOT NULL DEFAULT '' CHECK (length(why) <= 200),
    piece_id INTEGER REFERENCES piece (id) DEFERRABLE INITIALLY DEFERRED,
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    told_at TEXT NOT NULL DEFAULT '',
    UNIQUE (batch_id, number)
) STRICT;
CREATE TABLE blank_stage (
    id INTEGER PRIMARY KEY,
    blank_id INTEGER NOT NULL REFERENCES blank (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    stage TEXT NOT NULL CHECK (length(stage) BETWEEN 1 AND 40),
    cost_minor INTEGER CHECK (cost_minor >= 0),
    currency TEXT NOT NULL DEFAULT '' CHECK (length(currency) IN (0, 3)),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX stage_of_blank ON blank_stage (blank_id, id);

-- A trial may be done on a blank, and gaskets are tried as finishes are.
CREATE TABLE finish_trial_now (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    kind TEXT NOT NULL CHECK (kind IN ('paint', 'coat', 'print', 'lume', 'gasket')),
    what TEXT NOT NULL CHECK (length(what) BETWEEN 1 AND 120),
    layers INTEGER NOT NULL DEFAULT 1 CHECK (layers BETWEEN 1 AND 50),
    blank TEXT NOT NULL DEFAULT '' CHECK (length(blank) <= 80),
    did TEXT NOT NULL DEFAULT '' CHECK (length(did) <= 400),
    chosen INTEGER NOT NULL DEFAULT 0 CHECK (chosen IN (0, 1)),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    blank_id INTEGER REFERENCES blank (id) ON DELETE SET NULL DEFERRABLE INITIALLY DEFERRED
) STRICT;
INSERT INTO finish_trial_now
SELECT id, watch_id, kind, what, layers, blank, did, chosen, version, at, NULL FROM finish_trial;
DROP TABLE finish_trial;
ALTER TABLE finish_trial_now RENAME TO finish_trial;
CREATE INDEX trial_of_watch ON finish_trial (watch_id);
CREATE INDEX trial_on_blank ON finish_trial (blank_id);

-- A blank has pictures of its own.
CREATE TABLE photo_now (
    id INTEGER PRIMARY KEY,
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'piece', 'donor', 'made', 'trial', 'bench', 'proof', 'blank')),
    owner_id INTEGER NOT NULL,
    digest TEXT NOT NULL CHECK (digest GLOB '[0-9a-f]*' AND length(digest) = 64),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    caption TEXT NOT NULL DEFAULT '' CHECK (length(caption) <= 200),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
INSERT INTO photo_now SELECT id, owner, owner_id, digest, width, height, caption, at FROM photo;
-- A proof and a note name their picture, and forget it where the table goes: what they named is told again.
CREATE TEMP TABLE pictured AS SELECT id, photo_id FROM proof WHERE photo_id IS NOT NULL;
CREATE TEMP TABLE illustrated AS SELECT id, photo_id FROM story_note WHERE photo_id IS NOT NULL;
DROP TABLE photo;
ALTER TABLE photo_now RENAME TO photo;
CREATE INDEX photo_of ON photo (owner, owner_id);
UPDATE proof SET photo_id = (SELECT pictured.photo_id FROM pictured WHERE pictured.id = proof.id)
 WHERE id IN (SELECT id FROM pictured);
UPDATE story_note SET photo_id = (SELECT illustrated.photo_id FROM illustrated WHERE illustrated.id = story_note.id)
 WHERE id IN (SELECT id FROM illustrated);
DROP TABLE pictured;
DROP TABLE illustrated;

-- A version is measured in every size: where a tab begins may be nothing, and an angle may be negative.
CREATE TABLE made_reading_now (
    version_id INTEGER NOT NULL REFERENCES made_version (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    value REAL NOT NULL,
    tol REAL NOT NULL CHECK (tol >= 0),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    PRIMARY KEY (version_id, path)
) STRICT, WITHOUT ROWID;
INSERT INTO made_reading_now SELECT version_id, path, value, tol, at FROM made_reading;
DROP TABLE made_reading;
ALTER TABLE made_reading_now RENAME TO made_reading;
