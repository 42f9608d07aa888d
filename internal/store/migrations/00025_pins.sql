-- +goose Up
CREATE TABLE IF NOT EXISTS pins (
    company_id UUID NOT NULL,
    person_id UUID NOT NULL,
    salt BINARY(16) NOT NULL,
    hash BINARY(32) NOT NULL,
    wrong INT UNSIGNED NOT NULL DEFAULT 0,
    rests_until DATETIME(6) NOT NULL,
    PRIMARY KEY (company_id, person_id),
    CONSTRAINT pins_company FOREIGN KEY (company_id) REFERENCES companies (id)
);
-- +goose Down
DROP TABLE IF EXISTS pins;
