-- +goose Up

-- a vat that is fed and drawn; what was done to it stands in the one log
create table vessels (
    workshop_id     uuid           not null references workshops,
    id              uuid           not null,
    name            text           not null check (name <> ''),
    capacity_ml     numeric(12, 1) not null check (capacity_ml > 0),
    stir_every_days numeric(6, 2)  not null default 0 check (stir_every_days >= 0),
    first_draw_days numeric(6, 2)  not null default 0 check (first_draw_days >= 0),
    note            text           not null default '',
    put_away_at     timestamptz,
    primary key (workshop_id, id)
);

alter table events add column vessel_id uuid;
alter table events add foreign key (workshop_id, vessel_id) references vessels;
alter table events drop constraint events_check;
alter table events add constraint events_of_one check (num_nonnulls(making_id, lot_id, vessel_id) = 1);
create index events_of_vessel on events (workshop_id, vessel_id, id) where vessel_id is not null;

-- +goose Down
delete from events where vessel_id is not null;
alter table events drop constraint events_of_one;
alter table events drop column vessel_id;
alter table events add constraint events_check check (num_nonnulls(making_id, lot_id) = 1);
drop table vessels;
