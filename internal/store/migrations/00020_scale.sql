-- A scale is on the bench only where somebody says so; those who had one keep it.

-- +goose Up
alter table workshops add column scale boolean not null default false;
update workshops set scale = true;
grant update (scale) on workshops to keencrock_app;

-- +goose Down
alter table workshops drop column scale;
