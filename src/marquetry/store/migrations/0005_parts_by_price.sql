-- A drawer sorted by price is read in its order, not sorted anew: 20 ms of 20,000 parts.
DROP INDEX part_by_price;
CREATE INDEX part_by_price ON part (removed_at, kind, price_minor IS NULL, price_minor, name, id);
