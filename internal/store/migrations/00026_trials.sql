-- Trials: what is held against what, the lots that were drawn, and the marks.

-- +goose Up
create table trials (
    workshop_id uuid        not null references workshops,
    id          uuid        not null,
    question    text        not null check (length(question) between 1 and 200),
    measure     text        not null default '' check (length(measure) <= 80), -- what is marked
    low_word    text        not null default '' check (length(low_word) <= 40),
    high_word   text        not null default '' check (length(high_word) <= 40),
    lower       boolean     not null default false, -- a lower mark is the better one
    goods       jsonb       not null, -- name, formula and version where it is one
    control     integer     not null default 0, -- which of the goods
    pairs       integer     not null check (pairs between 1 and 200),
    seed        bigint      not null,
    same        text        not null default '' check (length(same) <= 400), -- what was kept the same
    person_id   uuid        not null,
    begun_at    timestamptz not null,
    ended_at    timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index trials_begun on trials (workshop_id, begun_at desc);

create table trial_marks (
    workshop_id uuid             not null references workshops,
    trial_id    uuid             not null,
    pair        integer          not null check (pair >= 1),
    good        integer          not null check (good >= 0),
    judge       text             not null check (length(judge) between 1 and 60),
    mark        double precision not null check (mark between -1000000 and 1000000),
    person_id   uuid             not null,
    noted_at    timestamptz      not null,
    primary key (workshop_id, trial_id, pair, good, judge),
    foreign key (workshop_id, trial_id) references trials,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);

grant select, insert, update on trials, trial_marks to keencrock_app;

-- +goose StatementBegin
do $$ declare
    t text;
begin
    foreach t in array array['trials', 'trial_marks'] loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table trial_marks;
drop table trials;
