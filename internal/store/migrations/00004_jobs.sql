-- +goose Up
CREATE TABLE IF NOT EXISTS jobs (
    id UUID NOT NULL PRIMARY KEY,
    company_id UUID NOT NULL,
    last_seq BIGINT UNSIGNED NOT NULL DEFAULT 0,
    last_hash BINARY(32) NULL,
    KEY jobs_company (company_id),
    CONSTRAINT jobs_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS jobs;
