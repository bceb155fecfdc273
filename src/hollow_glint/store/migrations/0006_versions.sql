-- What several people or windows may change carries a version, so that nobody overwrites what he has not seen.
ALTER TABLE hole ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE unit ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE lure ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
