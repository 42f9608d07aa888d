-- +goose Up
CREATE TABLE IF NOT EXISTS areas (
    id UUID NOT NULL PRIMARY KEY,
    company_id UUID NOT NULL,
    job_id UUID NOT NULL,
    last_hash BINARY(32) NULL,
    KEY areas_job (job_id),
    CONSTRAINT areas_company FOREIGN KEY (company_id) REFERENCES companies (id),
    CONSTRAINT areas_job FOREIGN KEY (job_id) REFERENCES jobs (id)
);
-- +goose Down
DROP TABLE IF EXISTS areas;
