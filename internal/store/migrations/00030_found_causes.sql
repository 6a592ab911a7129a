-- What was found to be the cause of what went wrong, with the good and the batch it was of.

-- +goose Up
create table found_causes (
    workshop_id   uuid        not null references workshops,
    id            uuid        not null,
    seen          text        not null check (length(seen) between 1 and 80), -- as in core/why
    cause         text        not null check (length(cause) between 1 and 80),
    formula_id    uuid,
    making_id     uuid,
    note          text        not null default '' check (length(note) <= 400),
    person_id     uuid        not null,
    found_at      timestamptz not null,
    taken_back_at timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, formula_id) references formulas (workshop_id, id),
    foreign key (workshop_id, making_id) references makings (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index found_causes_of on found_causes (workshop_id, seen, cause) where taken_back_at is null;
create index found_causes_of_formula on found_causes (workshop_id, formula_id) where taken_back_at is null;

grant select, insert, update on found_causes to keencrock_app;
alter table found_causes enable row level security;
create policy of_workshop on found_causes to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- +goose Down
drop table found_causes;
