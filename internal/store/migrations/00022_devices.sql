-- +goose Up
CREATE TABLE IF NOT EXISTS devices (
    company_id UUID NOT NULL,
    id UUID NOT NULL,
    name VARCHAR(80) NOT NULL,
    role VARCHAR(16) NOT NULL,
    installation UUID NULL,
    public_key VARBINARY(65) NULL,
    secret_hash BINARY(32) NOT NULL,
    before_hash BINARY(32) NULL,
    turned_at DATETIME(6) NOT NULL,
    paired_at DATETIME(6) NOT NULL,
    seen_at DATETIME(6) NOT NULL,
    waiting INT UNSIGNED NOT NULL DEFAULT 0,
    revoked_at DATETIME(6) NULL,
    PRIMARY KEY (company_id, id),
    UNIQUE KEY devices_secret (secret_hash),
    KEY devices_before (before_hash),
    CONSTRAINT devices_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS devices;
