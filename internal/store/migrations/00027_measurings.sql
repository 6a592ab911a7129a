-- What a workshop measured of its own measures and materials, each measuring by itself; and
-- the figures that it does not want to be learned.

-- +goose Up
create table measurings (
    workshop_id   uuid             not null references workshops,
    id            uuid             not null,
    kind          text             not null check (kind in ('density', 'piece', 'size')),
    subject       text             not null check (length(subject) between 1 and 120), -- the material or the measure
    said          text             not null check (length(said) between 1 and 200),
    value         double precision not null check (value > 0 and value < 1e9),
    person_id     uuid             not null,
    measured_at   timestamptz      not null,
    taken_back_at timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index measurings_of on measurings (workshop_id, kind, subject, measured_at);

create table figures_as_usual (
    workshop_id uuid        not null references workshops,
    kind        text        not null check (kind in ('density', 'piece', 'size', 'drying')),
    subject     text        not null check (length(subject) between 1 and 120),
    person_id   uuid        not null,
    since       timestamptz not null,
    primary key (workshop_id, kind, subject),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);

-- how long what was weighed while it dried took; counted anew for what has ended
alter table makings add column dried_h double precision check (dried_h > 0);
update makings k set heat_min = null where ended_at is not null
    and exists (select from events e where e.workshop_id = k.workshop_id and e.making_id = k.id and e.kind = 'weighed-in');

grant select, insert, update on measurings to keencrock_app;
grant select, insert, update, delete on figures_as_usual to keencrock_app;

-- +goose StatementBegin
do $$ declare
    t text;
begin
    foreach t in array array['measurings', 'figures_as_usual'] loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
alter table makings drop column dried_h;
drop table figures_as_usual;
drop table measurings;
