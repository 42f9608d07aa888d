-- +goose Up
CREATE TABLE IF NOT EXISTS signers (
    company_id UUID NOT NULL,
    id UUID NOT NULL,
    name VARCHAR(80) NOT NULL,
    role VARCHAR(16) NOT NULL,
    public_key VARBINARY(65) NOT NULL,
    PRIMARY KEY (company_id, id),
    CONSTRAINT signers_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS signers;
