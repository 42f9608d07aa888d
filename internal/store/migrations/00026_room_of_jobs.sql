-- +goose Up
ALTER TABLE jobs ADD COLUMN IF NOT EXISTS size BIGINT UNSIGNED NOT NULL DEFAULT 0;
UPDATE jobs SET size = (SELECT COALESCE(SUM(LENGTH(e.bytes)), 0) FROM entries e WHERE e.company_id = jobs.company_id AND e.job_id = jobs.id);
-- +goose Down
ALTER TABLE jobs DROP COLUMN IF EXISTS size;
