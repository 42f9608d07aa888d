-- +goose Up
CREATE TABLE IF NOT EXISTS photos (
    id UUID NOT NULL PRIMARY KEY,
    company_id UUID NOT NULL,
    job_id UUID NOT NULL,
    hash BINARY(32) NOT NULL,
    received_at DATETIME(6) NOT NULL,
    bytes MEDIUMBLOB NOT NULL,
    KEY photos_job (job_id),
    CONSTRAINT photos_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS photos;
