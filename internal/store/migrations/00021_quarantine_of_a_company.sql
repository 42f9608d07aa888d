-- +goose Up
ALTER TABLE quarantine
    DROP PRIMARY KEY, ADD PRIMARY KEY (company_id, job_id, seq),
    ADD CONSTRAINT quarantine_job_of_company FOREIGN KEY IF NOT EXISTS (company_id, job_id) REFERENCES jobs (company_id, id);
-- +goose Down
SELECT 1;
