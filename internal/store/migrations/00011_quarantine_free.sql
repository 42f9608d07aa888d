-- +goose Up
ALTER TABLE quarantine DROP FOREIGN KEY IF EXISTS quarantine_job;
-- +goose Down
SELECT 1;
