-- What leaves the workshop: labels as they were printed, checks of fillings, machines
-- and doses, cards, and the code by which a phone reads a jar.

-- +goose Up
-- 122 random bits: neither guessed nor counted through
alter table pieces add column token text not null default replace(gen_random_uuid()::text, '-', '');
create index pieces_token on pieces (token);

alter table workshops add column address text not null default '' check (length(address) <= 400);
alter table workshops add column contact text not null default '' check (length(contact) <= 400);
alter table workshops add column public_jars boolean not null default true;
alter table workshops add column machines jsonb not null default '[]';

-- a label as it was printed, for which jars and when: never worked out anew
create table label_prints (
    workshop_id uuid        not null references workshops,
    id          uuid        not null default gen_random_uuid(),
    making_id   uuid        not null,
    form        text        not null,
    width_mm    double precision not null,
    height_mm   double precision not null,
    languages   text        not null,
    sheet       text        not null,
    start       integer     not null check (start >= 0),
    content     jsonb       not null,
    labels      jsonb       not null, -- of each label: the number of its jar and the address of its code
    person_id   uuid        not null,
    at          timestamptz not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, making_id) references makings
);
create index label_prints_making on label_prints (workshop_id, making_id, at);
create trigger label_prints_append_only before update or delete on label_prints for each row execute function refuse_change();

create table fill_checks (
    workshop_id uuid        not null references workshops,
    id          uuid        not null default gen_random_uuid(),
    making_id   uuid        not null,
    nominal     double precision not null,
    unit        text        not null check (unit in ('g', 'ml')),
    weighings   jsonb       not null, -- as they were written down: gross, tare, density
    result      jsonb       not null,
    passes      boolean     not null,
    person_id   uuid        not null,
    at          timestamptz not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, making_id) references makings
);
create index fill_checks_making on fill_checks (workshop_id, making_id, at);
create trigger fill_checks_append_only before update or delete on fill_checks for each row execute function refuse_change();

create table counted_loads (
    workshop_id uuid        not null references workshops,
    id          uuid        not null default gen_random_uuid(),
    making_id   uuid        not null,
    formula_id  uuid        not null,
    loads       double precision not null check (loads > 0),
    grams       double precision not null check (grams > 0),
    person_id   uuid        not null,
    at          timestamptz not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, making_id) references makings
);
create index counted_loads_formula on counted_loads (workshop_id, formula_id, at);
create trigger counted_loads_append_only before update or delete on counted_loads for each row execute function refuse_change();

-- a workshop's own cards; the shipped ones are data of the program
create table use_cards (
    workshop_id uuid        not null references workshops,
    id          uuid        not null default gen_random_uuid(),
    formula_id  uuid        not null,
    card        jsonb       not null,
    version     integer     not null default 1,
    removed_at  timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, formula_id) references formulas
);
create index use_cards_formula on use_cards (workshop_id, formula_id) where removed_at is null;

-- what comes round: the machine, the drain, the scale
create table chores (
    workshop_id uuid        not null references workshops,
    id          uuid        not null default gen_random_uuid(),
    title       text        not null check (length(title) between 1 and 120),
    card        text        not null default '',
    every_days  integer     not null check (every_days between 1 and 3650),
    next_on     date        not null,
    removed_at  timestamptz,
    primary key (workshop_id, id)
);
create index chores_next on chores (workshop_id, next_on) where removed_at is null;

-- +goose Down
drop table chores;
drop table use_cards;
drop table counted_loads;
drop table fill_checks;
drop table label_prints;
alter table workshops drop column machines;
alter table workshops drop column public_jars;
alter table workshops drop column contact;
alter table workshops drop column address;
drop index pieces_token;
alter table pieces drop column token;
