-- What is known to have cost nothing, a gift or what was kept back of a batch, is told from
-- what nobody noted a price of; and what was kept back knows its batch.

-- +goose Up
alter table lots
    add column free      boolean not null default false,
    add column kept_from uuid, -- the making it was taken back out of
    add foreign key (workshop_id, kept_from) references makings,
    add constraint free_costs_nothing check (not free or landed = 0);
create index lots_kept_from on lots (workshop_id, kept_from) where kept_from is not null;

-- as it was said until now: in a note
update lots set free = true where landed = 0 and making_id is null and note = 'a gift';
update lots l set free = true, kept_from = m.id
from makings m
where m.workshop_id = l.workshop_id and l.making_id is null and l.landed = 0 and l.rounds > 0
    and (l.note = 'from batch ' || m.code || ',' or l.note like 'from batch ' || m.code || ', %')
    and starts_with(l.code, m.code || '-');

-- a bottle that was filled is something to empty once: it knows what it took of which jar
alter table chores
    drop constraint chores_every_days_check,
    add constraint chores_every_days_check check (every_days between 0 and 3650), -- 0: once
    add column bottle jsonb;

-- +goose Down
delete from chores where every_days = 0;
alter table chores
    drop column bottle,
    drop constraint chores_every_days_check,
    add constraint chores_every_days_check check (every_days between 1 and 3650);
alter table lots drop column kept_from, drop column free;
