-- +goose Up
CREATE TABLE IF NOT EXISTS audit (
    company_id UUID NOT NULL,
    id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT,
    at DATETIME(6) NOT NULL,
    what VARCHAR(32) NOT NULL,
    device_id UUID NULL,
    subject VARCHAR(80) NOT NULL,
    PRIMARY KEY (id),
    KEY audit_company (company_id, id),
    CONSTRAINT audit_company_of FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS audit;
