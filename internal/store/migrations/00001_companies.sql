-- +goose Up
CREATE TABLE IF NOT EXISTS companies (
    id UUID NOT NULL PRIMARY KEY,
    name VARCHAR(80) NOT NULL
);
-- +goose Down
DROP TABLE IF EXISTS companies;
