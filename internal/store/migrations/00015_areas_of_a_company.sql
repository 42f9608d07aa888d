-- +goose Up
ALTER TABLE areas
    DROP PRIMARY KEY, ADD PRIMARY KEY (company_id, id),
    ADD KEY IF NOT EXISTS areas_of_job (company_id, job_id),
    ADD CONSTRAINT areas_job_of_company FOREIGN KEY IF NOT EXISTS (company_id, job_id) REFERENCES jobs (company_id, id);
-- +goose Down
SELECT 1;
