-- +goose Up
INSERT IGNORE INTO jobs (id, company_id) SELECT DISTINCT job_id, company_id FROM photos;
-- +goose Down
SELECT 1;
