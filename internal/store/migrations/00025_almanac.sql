-- Makings set by hand, how much of a good usually goes, days off, suppliers' days, and the
-- address of the plan for one's own calendar; whether those who only look see prices.

-- +goose Up
create table plan_pins (
    workshop_id uuid        not null references workshops,
    id          uuid        not null,
    formula_id  uuid        not null,
    bench       date        not null,
    person_id   uuid        not null,
    set_at      timestamptz not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, formula_id) references formulas,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index plan_pins_bench on plan_pins (workshop_id, bench);

create table plan_needs (
    workshop_id uuid             not null references workshops,
    formula_id  uuid             not null,
    follow      boolean          not null default false, -- it is made for what usually goes
    per_week    double precision check (per_week between 0 and 100000), -- as somebody said; null for as it is reckoned
    primary key (workshop_id, formula_id),
    foreign key (workshop_id, formula_id) references formulas
);

alter table plan_limits
    add column days_off  jsonb not null default '[]', -- from and to
    add column suppliers jsonb not null default '[]'; -- name, days, delivery

create table calendars (
    workshop_id  uuid        not null references workshops,
    id           uuid        not null,
    token_hash   bytea       not null,
    person_id    uuid        not null,
    made_at      timestamptz not null,
    withdrawn_at timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);

create index calendars_token on calendars (token_hash); -- asked for before it is known of which workshop it is

alter table workshops add column viewers_see_prices boolean not null default false;
grant update (viewers_see_prices) on workshops to keencrock_app;

grant select, insert, update, delete on plan_pins, plan_needs to keencrock_app;
grant select, insert, update on calendars to keencrock_app;

-- +goose StatementBegin
do $$ declare
    t text;
begin
    foreach t in array array['plan_pins', 'plan_needs', 'calendars'] loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
alter table workshops drop column viewers_see_prices;
drop table calendars;
drop table plan_needs;
drop table plan_pins;
alter table plan_limits drop column suppliers, drop column days_off;
