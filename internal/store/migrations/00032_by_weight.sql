-- What goes by weight is of no jar, and comes back in parts.

-- +goose Up
drop index movements_undone_once;
create unique index movements_undone_once on movements (workshop_id, undoes) where undoes is not null and piece_id is not null;
create index movements_undoing on movements (workshop_id, undoes) where undoes is not null and piece_id is null;

-- +goose Down
drop index movements_undoing;
drop index movements_undone_once;
create unique index movements_undone_once on movements (workshop_id, undoes) where undoes is not null;
