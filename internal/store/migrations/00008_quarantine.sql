-- +goose Up
CREATE TABLE IF NOT EXISTS quarantine (
    company_id UUID NOT NULL,
    job_id UUID NOT NULL,
    seq BIGINT UNSIGNED NOT NULL,
    why VARCHAR(500) NOT NULL,
    at DATETIME(6) NOT NULL,
    PRIMARY KEY (job_id, seq),
    CONSTRAINT quarantine_company FOREIGN KEY (company_id) REFERENCES companies (id),
    CONSTRAINT quarantine_job FOREIGN KEY (job_id) REFERENCES jobs (id)
);
-- +goose Down
DROP TABLE IF EXISTS quarantine;
