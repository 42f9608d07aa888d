-- +goose Up
CREATE TABLE IF NOT EXISTS pairings (
    company_id UUID NOT NULL,
    code_hash BINARY(32) NOT NULL,
    role VARCHAR(16) NOT NULL,
    until_at DATETIME(6) NOT NULL,
    PRIMARY KEY (company_id, code_hash),
    CONSTRAINT pairings_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS pairings;
