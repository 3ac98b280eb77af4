-- +goose Up
-- What a company knows of days to come, whatever the job: who is away, and the weather.
ALTER TABLE company ADD COLUMN outlook jsonb NOT NULL DEFAULT '{"away": [], "weather": []}';

-- +goose Down
ALTER TABLE company DROP COLUMN outlook;
