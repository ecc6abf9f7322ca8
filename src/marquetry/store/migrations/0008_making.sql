-- A version of a part that is made here: of which revision of its watch, what it was asked to be, by which printer.
-- `asked` holds each size by path: its kind and the nominal that was asked for, mm.
CREATE TABLE made_version (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL,
    part TEXT NOT NULL CHECK (length(part) BETWEEN 1 AND 40),
    number INTEGER NOT NULL CHECK (number > 0),
    revision INTEGER NOT NULL,
    asked TEXT NOT NULL CHECK (json_valid(asked)),
    printer TEXT NOT NULL DEFAULT '' CHECK (length(printer) <= 80),
    material TEXT NOT NULL DEFAULT '' CHECK (length(material) <= 80),
    nozzle REAL NOT NULL CHECK (nozzle > 0),
    layer REAL NOT NULL CHECK (layer > 0),
    state TEXT NOT NULL DEFAULT 'asked' CHECK (state IN ('asked', 'good', 'spoilt')),
    notes TEXT NOT NULL DEFAULT '' CHECK (length(notes) <= 400),
    minutes INTEGER CHECK (minutes >= 0),
    cost_minor INTEGER CHECK (cost_minor >= 0),
    currency TEXT NOT NULL DEFAULT '',
    piece_id INTEGER REFERENCES piece (id),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    UNIQUE (watch_id, part, number),
    FOREIGN KEY (watch_id, revision) REFERENCES revision (watch_id, version)
        ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED
) STRICT;

-- What a version measured afterwards, mm.
CREATE TABLE made_reading (
    version_id INTEGER NOT NULL REFERENCES made_version (id) ON DELETE CASCADE,
    path TEXT NOT NULL,
    value REAL NOT NULL CHECK (value > 0),
    tol REAL NOT NULL CHECK (tol >= 0),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    PRIMARY KEY (version_id, path)
) STRICT, WITHOUT ROWID;

-- Blanks, samples and attempts bought or cut together, and what became of them; steps are only ever added.
CREATE TABLE batch (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    wanted INTEGER NOT NULL DEFAULT 1 CHECK (wanted BETWEEN 1 AND 1000),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX batch_of_watch ON batch (watch_id);
CREATE TABLE batch_step (
    id INTEGER PRIMARY KEY,
    batch_id INTEGER NOT NULL REFERENCES batch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    what TEXT NOT NULL CHECK (what IN ('bought', 'cut', 'good', 'spoilt')),
    count INTEGER NOT NULL CHECK (count BETWEEN 1 AND 1000),
    stage TEXT NOT NULL DEFAULT '' CHECK (length(stage) <= 40),
    why TEXT NOT NULL DEFAULT '' CHECK (length(why) <= 200),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX step_of_batch ON batch_step (batch_id, id);

-- A trial of paint, coat, print or lume: what, in how many layers, on which blank, what it did, whether it was chosen.
CREATE TABLE finish_trial (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    kind TEXT NOT NULL CHECK (kind IN ('paint', 'coat', 'print', 'lume')),
    what TEXT NOT NULL CHECK (length(what) BETWEEN 1 AND 120),
    layers INTEGER NOT NULL DEFAULT 1 CHECK (layers BETWEEN 1 AND 50),
    blank TEXT NOT NULL DEFAULT '' CHECK (length(blank) <= 80),
    did TEXT NOT NULL DEFAULT '' CHECK (length(did) <= 400),
    chosen INTEGER NOT NULL DEFAULT 0 CHECK (chosen IN (0, 1)),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX trial_of_watch ON finish_trial (watch_id);

-- Pictures may belong to a made version or a trial as well; the caption says whether by day or by night.
CREATE TABLE photo_now (
    id INTEGER PRIMARY KEY,
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'piece', 'donor', 'made', 'trial')),
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
