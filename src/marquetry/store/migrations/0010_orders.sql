-- How a supplier sells: sums in minor units of its currency, days until it arrives, usual and at worst.
ALTER TABLE supplier ADD COLUMN postage_minor INTEGER NOT NULL DEFAULT 0 CHECK (postage_minor >= 0);
ALTER TABLE supplier ADD COLUMN free_over_minor INTEGER CHECK (free_over_minor >= 0);
ALTER TABLE supplier ADD COLUMN minimum_minor INTEGER CHECK (minimum_minor >= 0);
ALTER TABLE supplier ADD COLUMN duty_percent TEXT NOT NULL DEFAULT '0';
ALTER TABLE supplier ADD COLUMN days INTEGER NOT NULL DEFAULT 14 CHECK (days BETWEEN 0 AND 3650);
ALTER TABLE supplier ADD COLUMN up_to INTEGER CHECK (up_to BETWEEN 0 AND 3650);
ALTER TABLE supplier ADD COLUMN version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0);

-- What is bought beside described parts: consumables, tools, material for made parts. `held` is what is there.
CREATE TABLE sundry (
    id INTEGER PRIMARY KEY,
    key TEXT NOT NULL DEFAULT '',
    kind TEXT NOT NULL CHECK (kind IN ('consumable', 'tool', 'material')),
    name TEXT NOT NULL UNIQUE CHECK (length(name) BETWEEN 1 AND 120),
    held INTEGER NOT NULL DEFAULT 0 CHECK (held >= 0),
    least INTEGER NOT NULL DEFAULT 0 CHECK (least >= 0),
    place TEXT NOT NULL DEFAULT '' CHECK (length(place) <= 80),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0)
) STRICT;

-- What a supplier asked for a part or a sundry on a day: the newest row of a pack is in force, former ones stay.
-- `price` is of one piece, a decimal in the supplier's currency; an offer that ended has no price.
CREATE TABLE offer (
    id INTEGER PRIMARY KEY,
    supplier_id INTEGER NOT NULL REFERENCES supplier (id),
    part_id INTEGER REFERENCES part (id),
    sundry_id INTEGER REFERENCES sundry (id),
    price TEXT,
    pack INTEGER NOT NULL DEFAULT 1 CHECK (pack BETWEEN 1 AND 1000000),
    breaks TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(breaks)),
    stock INTEGER CHECK (stock >= 0),
    seen_on TEXT NOT NULL,
    CHECK ((part_id IS NULL) <> (sundry_id IS NULL))
) STRICT;
CREATE INDEX offer_of_part ON offer (part_id, supplier_id, pack, seen_on, id);
CREATE INDEX offer_of_supplier ON offer (supplier_id);

-- Home currency for one of another, from that day on: the builder's own.
CREATE TABLE rate (
    currency TEXT NOT NULL CHECK (currency GLOB '[A-Z][A-Z][A-Z]'),
    day TEXT NOT NULL,
    rate TEXT NOT NULL,
    PRIMARY KEY (currency, day)
) STRICT, WITHOUT ROWID;

-- What the workshop reckons with: home currency, pay of an hour by kind of work, spares, days for the bench.
CREATE TABLE trade_setting (
    key TEXT PRIMARY KEY,
    value TEXT NOT NULL CHECK (json_valid(value))
) STRICT, WITHOUT ROWID;

-- An order. Its state follows from its steps; sums are minor units of its currency.
CREATE TABLE supply_order (
    id INTEGER PRIMARY KEY,
    supplier_id INTEGER NOT NULL REFERENCES supplier (id),
    currency TEXT NOT NULL CHECK (currency GLOB '[A-Z][A-Z][A-Z]'),
    day TEXT NOT NULL,
    due TEXT NOT NULL,
    at_worst TEXT NOT NULL,
    postage_minor INTEGER NOT NULL DEFAULT 0 CHECK (postage_minor >= 0),
    charges_minor INTEGER NOT NULL DEFAULT 0 CHECK (charges_minor >= 0),
    discount_minor INTEGER NOT NULL DEFAULT 0 CHECK (discount_minor >= 0),
    duty_percent TEXT NOT NULL DEFAULT '0',
    tax_percent TEXT NOT NULL DEFAULT '0',
    tax_on_postage INTEGER NOT NULL DEFAULT 0 CHECK (tax_on_postage IN (0, 1)),
    notes TEXT NOT NULL DEFAULT '' CHECK (length(notes) <= 400),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0)
) STRICT;
CREATE TABLE supply_line (
    id INTEGER PRIMARY KEY,
    order_id INTEGER NOT NULL REFERENCES supply_order (id),
    part_id INTEGER REFERENCES part (id),
    sundry_id INTEGER REFERENCES sundry (id),
    pieces INTEGER NOT NULL CHECK (pieces BETWEEN 1 AND 1000000),
    price TEXT NOT NULL,
    watch_id INTEGER REFERENCES watch (id) ON DELETE SET NULL,
    CHECK ((part_id IS NULL) <> (sundry_id IS NULL))
) STRICT;
CREATE INDEX line_of_order ON supply_line (order_id);

-- What became of an order, or of so many of a line; rows are added, never changed. `undoes` takes one back.
CREATE TABLE supply_step (
    id INTEGER PRIMARY KEY,
    order_id INTEGER NOT NULL REFERENCES supply_order (id),
    line_id INTEGER REFERENCES supply_line (id),
    what TEXT NOT NULL CHECK (what IN ('sent', 'arrived', 'faulty', 'returned', 'refunded', 'lost', 'called off')),
    pieces INTEGER NOT NULL DEFAULT 0 CHECK (pieces >= 0),
    minor INTEGER NOT NULL DEFAULT 0 CHECK (minor >= 0),
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 400),
    day TEXT NOT NULL,
    undoes INTEGER UNIQUE REFERENCES supply_step (id)
) STRICT;
CREATE INDEX step_of_order ON supply_step (order_id, id);

-- A bought piece knows its line, and which of the line's pieces it is; a sold one what it brought.
ALTER TABLE piece ADD COLUMN line_id INTEGER REFERENCES supply_line (id);
ALTER TABLE piece ADD COLUMN line_place INTEGER CHECK (line_place >= 0);
ALTER TABLE piece ADD COLUMN sold_minor INTEGER CHECK (sold_minor >= 0);
ALTER TABLE piece ADD COLUMN sold_currency TEXT NOT NULL DEFAULT '';
ALTER TABLE piece ADD COLUMN weight TEXT;
CREATE INDEX piece_of_line ON piece (line_id) WHERE line_id IS NOT NULL;

-- The books of a watch, in minor units of home's currency; what is booked is taken back by a row that undoes it.
CREATE TABLE booking (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    kind TEXT NOT NULL CHECK (kind IN ('hours', 'consumable', 'material', 'spoilt', 'loss', 'other')),
    words TEXT NOT NULL CHECK (length(words) BETWEEN 1 AND 200),
    minor INTEGER NOT NULL,
    currency TEXT NOT NULL,
    minutes INTEGER CHECK (minutes > 0),
    piece_id INTEGER REFERENCES piece (id),
    step_id INTEGER REFERENCES supply_step (id),
    day TEXT NOT NULL,
    undoes INTEGER UNIQUE REFERENCES booking (id)
) STRICT;
CREATE INDEX booking_of_watch ON booking (watch_id, id);

-- A price that was told a client, as it was told.
CREATE TABLE quote (
    id INTEGER PRIMARY KEY,
    watch_id INTEGER NOT NULL REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL CHECK (number > 0),
    told TEXT NOT NULL CHECK (json_valid(told)),
    day TEXT NOT NULL,
    withdrawn INTEGER NOT NULL DEFAULT 0 CHECK (withdrawn IN (0, 1)),
    UNIQUE (watch_id, number)
) STRICT;

-- How many of a watch are built, and which number of the series is whose.
CREATE TABLE series (
    watch_id INTEGER PRIMARY KEY REFERENCES watch (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    count INTEGER NOT NULL CHECK (count BETWEEN 1 AND 1000),
    version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0)
) STRICT;
CREATE TABLE series_number (
    watch_id INTEGER NOT NULL REFERENCES series (watch_id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    number INTEGER NOT NULL CHECK (number BETWEEN 1 AND 1000),
    buyer TEXT NOT NULL CHECK (length(buyer) BETWEEN 1 AND 80),
    words TEXT NOT NULL DEFAULT '' CHECK (length(words) <= 200),
    day TEXT NOT NULL,
    PRIMARY KEY (watch_id, number)
) STRICT, WITHOUT ROWID;

-- A drawer or a tin counted: what was found of what the books say.
CREATE TABLE stock_taking (
    id INTEGER PRIMARY KEY,
    place TEXT NOT NULL CHECK (length(place) <= 80),
    day TEXT NOT NULL,
    done INTEGER NOT NULL DEFAULT 0 CHECK (done IN (0, 1))
) STRICT;
CREATE TABLE stock_counted (
    taking_id INTEGER NOT NULL REFERENCES stock_taking (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
    piece_id INTEGER NOT NULL REFERENCES piece (id),
    found INTEGER NOT NULL CHECK (found IN (0, 1)),
    PRIMARY KEY (taking_id, piece_id)
) STRICT, WITHOUT ROWID;
