-- +goose Up
UPDATE photos SET
    size = OCTET_LENGTH(bytes),
    media = CASE
        WHEN HEX(LEFT(bytes, 3)) = 'FFD8FF' THEN 'image/jpeg'
        WHEN HEX(LEFT(bytes, 4)) = '89504E47' THEN 'image/png'
        WHEN HEX(LEFT(bytes, 5)) = '255044462D' THEN 'application/pdf'
        ELSE 'application/octet-stream'
    END
WHERE media = '';
-- +goose Down
UPDATE photos SET media = '' WHERE media <> '';
