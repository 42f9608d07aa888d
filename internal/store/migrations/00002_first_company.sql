-- +goose Up
INSERT IGNORE INTO companies (id, name) VALUES ('01900000-0000-7000-8000-000000000001', 'This house');
-- +goose Down
DELETE FROM companies;
