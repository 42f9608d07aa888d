-- +goose Up
ALTER TABLE photos
    ADD CONSTRAINT photos_job_of_company FOREIGN KEY IF NOT EXISTS (company_id, job_id) REFERENCES jobs (company_id, id);
-- +goose Down
SELECT 1;
