-- +goose Up
CREATE TABLE IF NOT EXISTS entries (
    id UUID NOT NULL PRIMARY KEY,
    company_id UUID NOT NULL,
    job_id UUID NOT NULL,
    area_id UUID NULL,
    seq BIGINT UNSIGNED NOT NULL,
    kind VARCHAR(40) NOT NULL,
    at DATETIME(6) NOT NULL,
    by_person UUID NOT NULL,
    corrects UUID NULL,
    received_at DATETIME(6) NOT NULL,
    hash BINARY(32) NOT NULL,
    bytes JSON NOT NULL,
    UNIQUE KEY entries_seq (job_id, seq),
    KEY entries_area (area_id, at),
    CONSTRAINT entries_company FOREIGN KEY (company_id) REFERENCES companies (id),
    CONSTRAINT entries_job FOREIGN KEY (job_id) REFERENCES jobs (id)
);
-- +goose Down
DROP TABLE IF EXISTS entries;
