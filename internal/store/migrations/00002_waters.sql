-- +goose Up

-- the water of one wash and of one dishwasher run, in litres; 0 for the usual
alter table workshops
    add column laundry_water_l numeric(7, 2) not null default 0 check (laundry_water_l >= 0),
    add column dishes_water_l  numeric(7, 2) not null default 0 check (dishes_water_l >= 0);

-- +goose Down
alter table workshops drop column laundry_water_l, drop column dishes_water_l;
