-- What is ordered, once or every so many weeks, and within which limits it is made.

-- +goose Up
create table orders (
    workshop_id uuid        not null references workshops,
    id          uuid        not null,
    formula_id  uuid        not null,
    party_id    uuid,
    jars        integer     not null check (jars between 1 and 100000),
    day         date        not null,
    every_weeks integer     not null default 0 check (every_weeks between 0 and 52), -- 0: once
    until       date,       -- of a standing one; null for as long as nobody says otherwise
    note        text        not null default '' check (length(note) <= 400),
    person_id   uuid        not null,
    noted_at    timestamptz not null,
    ended_at    timestamptz, -- given, or taken back
    primary key (workshop_id, id),
    foreign key (workshop_id, formula_id) references formulas,
    foreign key (workshop_id, party_id) references parties,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index orders_open on orders (workshop_id, day) where ended_at is null;

create table plan_limits (
    workshop_id     uuid             not null references workshops,
    work_days       jsonb            not null default '[1, 2, 3, 4, 5]', -- 1 Monday to 7 Sunday
    bench_min_a_day double precision not null default 240 check (bench_min_a_day >= 0),
    vessels         jsonb            not null default '[]', -- name and count
    version         integer          not null default 1,
    primary key (workshop_id)
);

grant select, insert, update on orders, plan_limits to keencrock_app;

-- who somebody was stands in parties alone, where they can be forgotten: not in what was noted
update movements set reason = 'the jar was said to be gone elsewhere' where kind = 'corrected' and piece_id is not null and reason like 'jar % was said to be gone to %';

-- +goose StatementBegin
do $$ declare
    t text;
begin
    foreach t in array array['orders', 'plan_limits'] loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table plan_limits;
drop table orders;
