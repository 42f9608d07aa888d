-- +goose Up
ALTER TABLE areas DROP FOREIGN KEY IF EXISTS areas_job;
-- +goose Down
SELECT 1;
