-- Jars that are kept to be looked at while they age, and what was seen of them.

-- +goose Up
create table samples (
    workshop_id uuid        not null references workshops,
    id          uuid        not null,
    piece_id    uuid        not null,
    making_id   uuid        not null,
    stands      text        not null default '' check (length(stands) <= 80), -- where: "by the window"
    person_id   uuid        not null,
    kept_on     date        not null,
    ended_on    date,
    primary key (workshop_id, id),
    foreign key (workshop_id, piece_id) references pieces (workshop_id, id),
    foreign key (workshop_id, making_id) references makings (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create unique index samples_of_piece on samples (workshop_id, piece_id) where ended_on is null;
create index samples_of_making on samples (workshop_id, making_id);

create table sample_looks (
    workshop_id   uuid             not null references workshops,
    id            uuid             not null,
    sample_id     uuid             not null,
    looked_on     date             not null,
    signs         jsonb            not null default '[]', -- as in core/keeping; none for as new
    good          boolean          not null, -- still good to use
    ph            double precision check (ph between 0 and 14),
    note          text             not null default '' check (length(note) <= 400),
    person_id     uuid             not null,
    noted_at      timestamptz      not null,
    taken_back_at timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, sample_id) references samples (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index sample_looks_of on sample_looks (workshop_id, sample_id, looked_on);

alter table figures_as_usual drop constraint figures_as_usual_kind_check;
alter table figures_as_usual add constraint figures_as_usual_kind_check check (kind in ('density', 'piece', 'size', 'drying', 'keeping'));

grant select, insert, update on samples, sample_looks to keencrock_app;

-- +goose StatementBegin
do $$ declare
    t text;
begin
    foreach t in array array['samples', 'sample_looks'] loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table sample_looks;
drop table samples;
alter table figures_as_usual drop constraint figures_as_usual_kind_check;
alter table figures_as_usual add constraint figures_as_usual_kind_check check (kind in ('density', 'piece', 'size', 'drying'));
