-- +goose Up
ALTER TABLE entries DROP FOREIGN KEY IF EXISTS entries_job;
-- +goose Down
SELECT 1;
