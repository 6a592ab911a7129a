-- Photos of a trial: before and after, with what was found on them.

-- +goose Up
alter table pictures alter column event_id drop not null; -- one of a trial is in no log

create table swatches (
    workshop_id uuid        not null references workshops,
    id          uuid        not null, -- of the picture
    trial_id    uuid        not null,
    pair        integer     not null check (pair >= 1),
    good        integer     not null check (good >= 0),
    side        text        not null check (side in ('before', 'after')),
    found       jsonb       not null, -- as in core/colour
    cloth       integer     not null check (cloth >= -1), -- which of the areas is the clean cloth
    stain       integer     not null check (stain >= -1),
    note        text        not null default '' check (length(note) <= 200),
    person_id   uuid        not null,
    taken_at    timestamptz not null,
    primary key (workshop_id, id),
    unique (workshop_id, trial_id, pair, good, side),
    foreign key (workshop_id, id) references pictures (workshop_id, id) on delete cascade,
    foreign key (workshop_id, trial_id) references trials (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
grant select, insert, update, delete on swatches to keencrock_app;
alter table swatches enable row level security;
create policy of_workshop on swatches to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- +goose Down
drop table swatches;
delete from pictures where event_id is null;
alter table pictures alter column event_id set not null;
