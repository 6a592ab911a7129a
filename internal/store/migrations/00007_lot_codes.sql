-- +goose Up

-- a code is looked for in any case of letters
create index lots_code on lots (workshop_id, lower(code));

-- +goose Down
drop index lots_code;
