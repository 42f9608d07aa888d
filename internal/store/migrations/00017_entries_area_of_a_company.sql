-- +goose Up
ALTER TABLE entries
    ADD KEY IF NOT EXISTS entries_of_area (company_id, area_id),
    ADD CONSTRAINT entries_area_of_company FOREIGN KEY IF NOT EXISTS (company_id, area_id) REFERENCES areas (company_id, id);
-- +goose Down
SELECT 1;
