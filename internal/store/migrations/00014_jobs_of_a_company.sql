-- +goose Up
ALTER TABLE jobs
    DROP PRIMARY KEY, ADD PRIMARY KEY (company_id, id),
    ADD COLUMN IF NOT EXISTS last_receipt BINARY(32) NULL;
-- +goose Down
SELECT 1;
