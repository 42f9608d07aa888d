-- +goose Up
CREATE TABLE companies (
    id UUID NOT NULL PRIMARY KEY,
    name VARCHAR(80) NOT NULL
);
-- +goose Down
DROP TABLE companies;
