-- +goose Up

-- People and places ---------------------------------------------------------

create table workshops (
    id               uuid primary key,
    name             text           not null check (name <> ''),
    measures         text           not null default 'us',
    currency         char(3)        not null default 'EUR',
    hardness         text           not null default '',
    scale_step_g     numeric(9, 3)  not null default 1 check (scale_step_g > 0),
    scale_capacity_g numeric(12, 3) not null default 5000 check (scale_capacity_g > 0),
    drops_per_ml     numeric(6, 2)  not null default 0,
    scoop_ml         numeric(9, 3)  not null default 0,
    version          integer        not null default 1,
    created_at       timestamptz    not null
);

create table people (
    id            uuid primary key,
    workshop_id   uuid        not null references workshops,
    login         text        not null check (login = lower(login)),
    name          text        not null,
    password_hash text        not null,
    role          text        not null check (role in ('owner', 'maker', 'viewer')),
    created_at    timestamptz not null,
    removed_at    timestamptz,
    unique (workshop_id, id)
);
create unique index people_login on people (login) where removed_at is null;

create table sessions (
    token_hash  bytea primary key,
    workshop_id uuid        not null,
    person_id   uuid        not null,
    csrf_token  text        not null,
    created_at  timestamptz not null,
    expires_at  timestamptz not null,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index sessions_person on sessions (person_id);

create table sign_in_tries (
    id      bigint generated always as identity primary key,
    login   text        not null,
    address text        not null,
    at      timestamptz not null
);
create index sign_in_tries_login on sign_in_tries (login, at);
create index sign_in_tries_address on sign_in_tries (address, at);

-- The shelf -----------------------------------------------------------------

create table material_settings (
    workshop_id   uuid           not null references workshops,
    material      text           not null,
    reorder_g     numeric(14, 3) not null default 0 check (reorder_g >= 0),
    density_value double precision not null default 0 check (density_value >= 0),
    weighed       text           not null default '',
    primary key (workshop_id, material)
);

create table lots (
    id          uuid primary key,
    workshop_id uuid           not null references workshops,
    code        text           not null check (code <> ''),
    material    text           not null,
    supplier    text           not null default '',
    original_g  numeric(14, 3) not null check (original_g > 0),
    remaining_g numeric(14, 3) not null check (remaining_g >= 0),
    landed      numeric(14, 2) not null default 0 check (landed >= 0),
    received    date           not null,
    best_before date,
    opened      date,
    set_aside   boolean        not null default false,
    clumped     boolean        not null default false,
    note        text           not null default '',
    unique (workshop_id, id),
    unique (workshop_id, material, code)
);
-- "newest first" pages, whole shelf and one material; stock that is left
create index lots_newest on lots (workshop_id, received desc, id desc);
create index lots_newest_of_material on lots (workshop_id, material, received desc, id desc);
create index lots_in_stock on lots (workshop_id, material) where remaining_g > 0;

-- Formulas ------------------------------------------------------------------

create table formulas (
    id          uuid primary key,
    workshop_id uuid        not null references workshops,
    name        text        not null check (name <> ''),
    kind        text        not null,
    school      text        not null default '',
    lines       integer     not null,
    version     integer     not null check (version > 0),
    changed_at  timestamptz not null,
    hidden_at   timestamptz,
    unique (workshop_id, id)
);
create index formulas_by_name on formulas (workshop_id, name) where hidden_at is null;

create table formula_versions (
    workshop_id uuid        not null,
    formula_id  uuid        not null,
    version     integer     not null,
    file        jsonb       not null,
    person_id   uuid        not null,
    at          timestamptz not null,
    primary key (formula_id, version),
    foreign key (workshop_id, formula_id) references formulas (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);

-- Batches and jars ----------------------------------------------------------

create table batches (
    id                 uuid primary key,
    workshop_id        uuid           not null references workshops,
    code               text           not null,
    name               text           not null,
    kind               text           not null,
    formula_id         uuid           not null,
    formula_version    integer        not null,
    state              text           not null check (state in ('weighing', 'finished', 'abandoned')),
    person_id          uuid           not null,
    loss               double precision not null default 0,
    planned_g          numeric(14, 3) not null,
    container_count    integer        not null default 0,
    container_each     text           not null default '',
    container_fill     double precision not null default 1,
    container_each_g   numeric(14, 3) not null default 0,
    jars               integer        not null default 0,
    cost               numeric(14, 2) not null default 0,
    use_g              double precision not null default 0,
    best_before        date,
    best_before_reason text           not null default '',
    started_at         timestamptz    not null,
    finished_at        timestamptz,
    unique (workshop_id, id),
    unique (workshop_id, code),
    foreign key (formula_id, formula_version) references formula_versions (formula_id, version),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index batches_newest on batches (workshop_id, started_at desc, id desc);
create index batches_newest_in_state on batches (workshop_id, state, started_at desc, id desc);
create index batches_of_formula on batches (formula_id, started_at desc);

create table batch_lines (
    workshop_id uuid           not null,
    batch_id    uuid           not null,
    line        integer        not null,
    material    text           not null,
    name        text           not null,
    phase       text           not null default '',
    amount      text           not null,
    target_g    numeric(14, 3) not null check (target_g >= 0),
    primary key (batch_id, line),
    foreign key (workshop_id, batch_id) references batches (workshop_id, id)
);

create table batch_events (
    id          bigint generated always as identity primary key,
    workshop_id uuid           not null,
    batch_id    uuid           not null,
    kind        text           not null check (kind in ('started', 'weighed', 'took-out', 'noted', 'finished', 'abandoned')),
    line        integer,
    lot_id      uuid,
    grams       numeric(14, 3) not null default 0,
    text        text           not null default '',
    key         uuid,
    person_id   uuid           not null,
    at          timestamptz    not null,
    foreign key (workshop_id, batch_id) references batches (workshop_id, id),
    foreign key (workshop_id, lot_id) references lots (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id),
    unique (batch_id, key)
);
create index batch_events_of_batch on batch_events (batch_id, id);
create index batch_events_of_lot on batch_events (lot_id) where lot_id is not null;

create table stock_movements (
    id          bigint generated always as identity primary key,
    workshop_id uuid           not null,
    lot_id      uuid           not null,
    kind        text           not null check (kind in ('received', 'drawn', 'discarded', 'corrected')),
    grams       numeric(14, 3) not null,
    cost        numeric(14, 2) not null default 0,
    batch_id    uuid,
    line        integer,
    reason      text           not null default '',
    person_id   uuid           not null,
    at          timestamptz    not null,
    foreign key (workshop_id, lot_id) references lots (workshop_id, id),
    foreign key (workshop_id, batch_id) references batches (workshop_id, id),
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index stock_movements_of_lot on stock_movements (lot_id, id);
create index stock_movements_of_batch on stock_movements (batch_id) where batch_id is not null;

create table jars (
    id          uuid primary key,
    workshop_id uuid           not null,
    batch_id    uuid           not null,
    number      integer        not null check (number > 0),
    grams       numeric(14, 3) not null,
    cost        numeric(14, 2) not null,
    gone_on     date,
    gone_to     text           not null default '',
    unique (batch_id, number),
    foreign key (workshop_id, batch_id) references batches (workshop_id, id)
);
create index jars_left on jars (workshop_id, batch_id) where gone_on is null;

-- What has happened stays so ------------------------------------------------

-- +goose StatementBegin
create function refuse_change() returns trigger language plpgsql as $$
begin
    if tg_op = 'DELETE' and current_setting('keencrock.removing', true) = 'on' then
        return old; -- a whole workshop is being removed
    end if;
    raise exception '% is append-only: add a correction instead', tg_table_name;
end $$;
-- +goose StatementEnd

create trigger append_only before update or delete on formula_versions for each row execute function refuse_change();
create trigger append_only before update or delete on batch_events for each row execute function refuse_change();
create trigger append_only before update or delete on stock_movements for each row execute function refuse_change();

-- +goose Down
drop table jars, stock_movements, batch_events, batch_lines, batches, formula_versions, formulas, lots, material_settings, sign_in_tries, sessions, people, workshops;
drop function refuse_change;
