-- Who sells. Prices elsewhere are whole hundredths of their currency.
CREATE TABLE supplier (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL UNIQUE CHECK (length(name) BETWEEN 1 AND 80),
    currency TEXT NOT NULL CHECK (currency GLOB '[A-Z][A-Z][A-Z]'),
    notes TEXT NOT NULL DEFAULT ''
) STRICT;

-- A watch taken apart in the records; its sheet is what it was before.
CREATE TABLE donor (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
    sheet TEXT NOT NULL CHECK (json_valid(sheet)),
    paid_minor INTEGER CHECK (paid_minor >= 0),
    currency TEXT NOT NULL DEFAULT '',
    notes TEXT NOT NULL DEFAULT '',
    taken_apart_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;

-- A part type: what is known of a part, owned or not. The sheet is the part as a build sheet carries it.
CREATE TABLE part (
    id INTEGER PRIMARY KEY,
    kind TEXT NOT NULL,
    name TEXT NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    sheet TEXT NOT NULL CHECK (json_valid(sheet)),
    notes TEXT NOT NULL DEFAULT '',
    supplier_id INTEGER REFERENCES supplier (id),
    price_minor INTEGER CHECK (price_minor >= 0),
    currency TEXT NOT NULL DEFAULT '',
    order_link TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1,
    removed_at TEXT,
    added_at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now')),
    colour TEXT GENERATED ALWAYS AS (json_extract(sheet, '$.colour')) STORED,
    material TEXT GENERATED ALWAYS AS (json_extract(sheet, '$.material')) STORED,
    finish TEXT GENERATED ALWAYS AS (json_extract(sheet, '$.finish')) STORED,
    glow TEXT GENERATED ALWAYS AS (json_extract(sheet, '$.glow')) STORED
) STRICT;
CREATE INDEX part_by_kind ON part (removed_at, kind, name);
CREATE INDEX part_by_name ON part (removed_at, name);
CREATE INDEX part_by_colour ON part (removed_at, kind, colour);
CREATE INDEX part_by_material ON part (removed_at, kind, material);
CREATE INDEX part_by_finish ON part (removed_at, kind, finish);
CREATE INDEX part_by_glow ON part (removed_at, kind, glow);
CREATE INDEX part_by_price ON part (removed_at, kind, price_minor);

-- Search over names, notes and looks; a word's first letters suffice.
CREATE VIRTUAL TABLE part_words USING fts5 (words, prefix = '1 2 3', tokenize = 'unicode61 remove_diacritics 2');
CREATE TRIGGER part_words_added AFTER INSERT ON part BEGIN
    INSERT INTO part_words (rowid, words) VALUES (new.id, new.name || ' ' || replace(new.kind, '_', ' ') || ' ' || new.notes || ' '
        || coalesce(new.colour, '') || ' ' || coalesce(new.material, '') || ' ' || coalesce(new.finish, '')
        || ' ' || coalesce(new.glow, '') || ' ' || coalesce(json_extract(new.sheet, '$.daylight'), ''));
END;
CREATE TRIGGER part_words_changed AFTER UPDATE OF name, notes, sheet ON part BEGIN
    UPDATE part_words SET words = new.name || ' ' || replace(new.kind, '_', ' ') || ' ' || new.notes || ' '
        || coalesce(new.colour, '') || ' ' || coalesce(new.material, '') || ' ' || coalesce(new.finish, '')
        || ' ' || coalesce(new.glow, '') || ' ' || coalesce(json_extract(new.sheet, '$.daylight'), '')
     WHERE rowid = new.id;
END;

-- One owned thing. `sheet` is what was measured on this very piece, NULL where it is as its part says.
-- `state` is where it is while it is in no watch; `in_watch` says which are in one.
CREATE TABLE piece (
    id INTEGER PRIMARY KEY,
    part_id INTEGER NOT NULL REFERENCES part (id),
    donor_id INTEGER REFERENCES donor (id),
    sheet TEXT CHECK (sheet IS NULL OR json_valid(sheet)),
    state TEXT NOT NULL DEFAULT 'shelf' CHECK (state IN ('shelf', 'scrapped', 'returned', 'sold')),
    place TEXT NOT NULL DEFAULT '' CHECK (length(place) <= 80),
    condition TEXT NOT NULL DEFAULT 'new' CHECK (condition IN ('new', 'used', 'worn', 'faulty')),
    fault TEXT NOT NULL DEFAULT '' CHECK (length(fault) <= 400),
    paid_minor INTEGER CHECK (paid_minor >= 0),
    currency TEXT NOT NULL DEFAULT '',
    supplier_id INTEGER REFERENCES supplier (id),
    kept_for INTEGER REFERENCES watch (id),
    fittings INTEGER NOT NULL DEFAULT 0 CHECK (fittings >= 0)
) STRICT;
CREATE INDEX piece_of_part ON piece (part_id, state);
CREATE INDEX piece_kept ON piece (kept_for) WHERE kept_for IS NOT NULL;
CREATE INDEX piece_of_donor ON piece (donor_id) WHERE donor_id IS NOT NULL;

-- Which piece is in which watch, read from the watch's newest sheet at every save: a piece is in one at most.
CREATE TABLE in_watch (
    piece_id INTEGER PRIMARY KEY REFERENCES piece (id),
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE,
    slot TEXT NOT NULL
) STRICT;
CREATE INDEX in_watch_by_watch ON in_watch (watch_id);

-- Where a piece went and when; rows are only ever added.
CREATE TABLE move (
    id INTEGER PRIMARY KEY,
    piece_id INTEGER NOT NULL REFERENCES piece (id),
    what TEXT NOT NULL,
    watch_id INTEGER REFERENCES watch (id) ON DELETE SET NULL,
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX move_of_piece ON move (piece_id, id);

-- Every value that was entered for a dimension; the newest of a path is in force, former ones stay.
CREATE TABLE reading (
    id INTEGER PRIMARY KEY,
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'piece')),
    owner_id INTEGER NOT NULL,
    path TEXT NOT NULL,
    value REAL NOT NULL,
    tol REAL NOT NULL CHECK (tol >= 0),
    source TEXT NOT NULL,
    instrument TEXT NOT NULL DEFAULT '',
    taken TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(taken)),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX reading_of ON reading (owner, owner_id, path, id);

-- A picture; the file lies beside the database, named by the digest of its content.
CREATE TABLE photo (
    id INTEGER PRIMARY KEY,
    owner TEXT NOT NULL CHECK (owner IN ('watch', 'part', 'piece', 'donor')),
    owner_id INTEGER NOT NULL,
    digest TEXT NOT NULL CHECK (digest GLOB '[0-9a-f]*' AND length(digest) = 64),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    caption TEXT NOT NULL DEFAULT '' CHECK (length(caption) <= 200),
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE INDEX photo_of ON photo (owner, owner_id);

-- A file of parts being brought in: its rows wait here until they are taken or thrown away.
CREATE TABLE import (
    id INTEGER PRIMARY KEY,
    file_name TEXT NOT NULL,
    state TEXT NOT NULL CHECK (state IN ('reading', 'ready', 'applying', 'done', 'failed')),
    rows_read INTEGER NOT NULL DEFAULT 0,
    rows_total INTEGER NOT NULL DEFAULT 0,
    told TEXT NOT NULL DEFAULT '',
    at TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT;
CREATE TABLE import_row (
    import_id INTEGER NOT NULL REFERENCES import (id) ON DELETE CASCADE,
    line INTEGER NOT NULL,
    fate TEXT NOT NULL CHECK (fate IN ('new', 'changed', 'same', 'refused')),
    told TEXT NOT NULL,
    row TEXT NOT NULL CHECK (json_valid(row)),
    part_id INTEGER,
    PRIMARY KEY (import_id, line)
) STRICT, WITHOUT ROWID;

ALTER TABLE instrument ADD COLUMN checked_on TEXT;
