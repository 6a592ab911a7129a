-- From the mixing bowl to the shelf: batches are open in more ways than one, and
-- what was used once goes back to the shelf with the rounds it served.

-- +goose Up
create index makings_open on makings (workshop_id, started_at, id) where state not in ('finished', 'abandoned');
create index makings_not_assessed on makings (workshop_id) where assessed is null;
alter table lots add column rounds smallint not null default 0 check (rounds >= 0);

-- of packaging: what one holds and what it weighs empty
alter table items add column holds_ml double precision not null default 0;
alter table items add column tare_g double precision not null default 0;

-- a vat makes a good: what is drawn of it rests, and is packed
alter table vessels add column formula_id uuid;
alter table vessels add column rest_days numeric(6, 2) not null default 0 check (rest_days >= 0);
alter table vessels add foreign key (workshop_id, formula_id) references formulas;

-- warmth and damp of the room, from a hygrometer at a rhythm or by hand
alter table workshops add column hygrometer boolean not null default false;
create table room_readings (
    workshop_id uuid          not null references workshops,
    at          timestamptz   not null,
    celsius     numeric(5, 2) not null,
    humidity    numeric(5, 2) not null check (humidity between 0 and 100),
    by_hand     boolean       not null default false,
    primary key (workshop_id, at)
);

-- +goose Down
drop table room_readings;
alter table workshops drop column hygrometer;
alter table vessels drop column rest_days;
alter table vessels drop column formula_id;
alter table items drop column tare_g;
alter table items drop column holds_ml;
alter table lots drop column rounds;
drop index makings_not_assessed;
drop index makings_open;
