-- +goose Up
CREATE TABLE IF NOT EXISTS people (
    id UUID NOT NULL,
    company_id UUID NOT NULL,
    name VARCHAR(80) NOT NULL,
    PRIMARY KEY (company_id, id),
    CONSTRAINT people_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS people;
