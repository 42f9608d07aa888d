-- +goose Up
ALTER TABLE entries
    DROP PRIMARY KEY, ADD PRIMARY KEY (company_id, id),
    DROP KEY IF EXISTS entries_seq,
    ADD UNIQUE KEY IF NOT EXISTS entries_of_job (company_id, job_id, seq),
    ADD COLUMN IF NOT EXISTS delivered_by UUID NULL,
    ADD COLUMN IF NOT EXISTS receipt BINARY(32) NULL,
    ADD CONSTRAINT entries_job_of_company FOREIGN KEY IF NOT EXISTS (company_id, job_id) REFERENCES jobs (company_id, id);
-- +goose Down
SELECT 1;
