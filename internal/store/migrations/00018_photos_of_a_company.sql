-- +goose Up
ALTER TABLE photos
    DROP PRIMARY KEY, ADD PRIMARY KEY (company_id, id),
    ADD KEY IF NOT EXISTS photos_of_job (company_id, job_id);
-- +goose Down
SELECT 1;
