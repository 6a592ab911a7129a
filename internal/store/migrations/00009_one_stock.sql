-- One stock, one making, one log. Whatever can be counted is an item; lots of it
-- come and go by movements; a making is its lines and its events. Every key
-- carries the workshop, so that workshops can be spread over servers. What finds
-- the workshop of who signs in (sessions by their token, people by their login,
-- tries) is looked up before it is known, and stays one directory.

-- +goose Up

-- The day of a workshop is that of its time zone; empty for the server's.
alter table workshops add column time_zone text not null default '';

alter table sessions drop constraint sessions_workshop_id_person_id_fkey;
alter table formula_versions drop constraint formula_versions_workshop_id_person_id_fkey;
alter table formula_versions drop constraint formula_versions_workshop_id_formula_id_fkey;
alter table batches drop constraint batches_workshop_id_person_id_fkey;
alter table batches drop constraint batches_formula_id_formula_version_fkey;
alter table batch_events drop constraint batch_events_workshop_id_person_id_fkey;
alter table stock_movements drop constraint stock_movements_workshop_id_person_id_fkey;

alter table people drop constraint people_pkey, drop constraint people_workshop_id_id_key, add primary key (workshop_id, id);
alter table formulas drop constraint formulas_pkey, drop constraint formulas_workshop_id_id_key, add primary key (workshop_id, id);
alter table formula_versions drop constraint formula_versions_pkey, add primary key (workshop_id, formula_id, version);

alter table sessions add foreign key (workshop_id, person_id) references people;
alter table formula_versions add foreign key (workshop_id, person_id) references people;
alter table formula_versions add foreign key (workshop_id, formula_id) references formulas;

-- Who things come from and go to ---------------------------------------------

create table parties (
    workshop_id uuid not null references workshops,
    id          uuid not null,
    name        text not null check (name <> ''),
    primary key (workshop_id, id),
    unique (workshop_id, name)
);

insert into parties (workshop_id, id, name)
select workshop_id, gen_random_uuid(), name
from (select workshop_id, supplier as name from lots where supplier <> ''
      union
      select workshop_id, gone_to from jars where gone_to <> '') named;

-- Items and makings ----------------------------------------------------------

create table items (
    workshop_id uuid not null references workshops,
    id          text not null, -- of the material, or 'good-' and the formula
    kind        text not null, -- raw, packaging, half-made, good
    unit        text not null, -- g, ml, piece
    name        text not null, -- of what is made here; the library names the rest
    primary key (workshop_id, id)
);

create table makings (
    workshop_id        uuid           not null references workshops,
    id                 uuid           not null,
    code               text           not null,
    name               text           not null,
    kind               text           not null,
    formula_id         uuid           not null,
    formula_version    integer        not null,
    state              text           not null, -- follows from the events; kept for lists
    person_id          uuid           not null,
    made_by            jsonb          not null, -- formula, lines and size as they were when it began
    assessed           jsonb,                   -- cautions, keeping and what it is made of
    loss               double precision not null default 0,
    planned_g          numeric(14, 3) not null,
    use_g              double precision not null default 0,
    jars               integer        not null default 0,
    each_g             numeric(14, 3) not null default 0,
    cost               numeric(14, 2) not null default 0,
    currency           char(3)        not null,
    best_before        date,
    best_before_reason text           not null default '',
    started_at         timestamptz    not null,
    ended_at           timestamptz,
    primary key (workshop_id, id),
    unique (workshop_id, code),
    foreign key (workshop_id, formula_id, formula_version) references formula_versions,
    foreign key (workshop_id, person_id) references people
);

insert into makings (workshop_id, id, code, name, kind, formula_id, formula_version, state, person_id, made_by, loss, planned_g, use_g,
    jars, each_g, cost, currency, best_before, best_before_reason, started_at, ended_at)
select b.workshop_id, b.id, b.code, b.name, b.kind, b.formula_id, b.formula_version, b.state, b.person_id,
    jsonb_build_object(
        'file', v.file,
        'target', coalesce((select nullif(e.text, '')::jsonb from batch_events e where e.batch_id = b.id and e.kind = 'started' order by e.id limit 1), '{}'),
        'containers', jsonb_build_object('count', b.container_count, 'each', b.container_each, 'fill', b.container_fill),
        'lines', (select coalesce(jsonb_agg(jsonb_build_object('item', l.material, 'name', l.name, 'phase', l.phase, 'amount', l.amount, 'hand', l.hand,
                'target_g', l.target_g, 'optional', l.optional, 'unstocked', l.material = 'water') order by l.line), '[]')
            from batch_lines l where l.batch_id = b.id)),
    b.loss, b.planned_g, b.use_g, b.jars, b.container_each_g, b.cost, w.currency, b.best_before, b.best_before_reason, b.started_at, b.finished_at
from batches b
join workshops w on w.id = b.workshop_id
join formula_versions v on v.workshop_id = b.workshop_id and v.formula_id = b.formula_id and v.version = b.formula_version;

insert into items (workshop_id, id, kind, unit, name)
select distinct workshop_id, material, 'raw', 'g', '' from lots
union all
select b.workshop_id, 'good-' || b.formula_id, 'good', 'g', f.name
from (select distinct workshop_id, formula_id from batches where state = 'finished') b
join formulas f on f.workshop_id = b.workshop_id and f.id = b.formula_id;

-- Lots -------------------------------------------------------------------------

create table stock_lots (
    workshop_id uuid           not null references workshops,
    id          uuid           not null,
    item        text           not null,
    code        text           not null check (code <> ''),
    original    numeric(14, 3) not null check (original > 0),
    remaining   numeric(14, 3) not null check (remaining >= 0), -- the sum of its movements
    landed      numeric(14, 2) not null default 0 check (landed >= 0),
    currency    char(3)        not null,
    supplier_id uuid,
    making_id   uuid, -- what made it
    received    date           not null,
    best_before date,
    opened      date,
    set_aside   boolean        not null default false,
    clumped     boolean        not null default false,
    note        text           not null default '',
    ph          bigint, -- the measurement that holds
    primary key (workshop_id, id),
    unique (workshop_id, item, code),
    foreign key (workshop_id, item) references items,
    foreign key (workshop_id, supplier_id) references parties,
    foreign key (workshop_id, making_id) references makings
);

insert into stock_lots (workshop_id, id, item, code, original, remaining, landed, currency, supplier_id, received, best_before, opened, set_aside, clumped, note)
select l.workshop_id, l.id, l.material, l.code, l.original_g, l.remaining_g, l.landed, w.currency, p.id, l.received, l.best_before, l.opened, l.set_aside, l.clumped, l.note
from lots l
join workshops w on w.id = l.workshop_id
left join parties p on p.workshop_id = l.workshop_id and p.name = l.supplier;

-- what a finished batch made is a lot of its good
insert into stock_lots (workshop_id, id, item, code, original, remaining, landed, currency, making_id, received, best_before)
select m.workshop_id, gen_random_uuid(), 'good-' || m.formula_id, m.code, made.g, made.here, m.cost, m.currency, m.id, (m.ended_at at time zone 'UTC')::date, m.best_before
from makings m
join (select batch_id, sum(grams) as g, coalesce(sum(grams) filter (where gone_on is null), 0) as here from jars group by batch_id) made on made.batch_id = m.id
where m.state = 'finished' and made.g > 0;

create table pieces (
    workshop_id uuid           not null,
    id          uuid           not null,
    lot_id      uuid           not null,
    number      integer        not null check (number > 0),
    original    numeric(14, 3) not null check (original > 0),
    remaining   numeric(14, 3) not null check (remaining >= 0),
    cost        numeric(14, 2) not null,
    gone_on     date,
    gone_to     text           not null default '',
    primary key (workshop_id, id),
    unique (workshop_id, lot_id, number),
    foreign key (workshop_id, lot_id) references stock_lots
);
insert into pieces (workshop_id, id, lot_id, number, original, remaining, cost, gone_on, gone_to)
select j.workshop_id, j.id, l.id, j.number, j.grams, j.grams, j.cost, j.gone_on, j.gone_to
from jars j join stock_lots l on l.workshop_id = j.workshop_id and l.making_id = j.batch_id;

-- Movements --------------------------------------------------------------------

create table movements (
    workshop_id uuid           not null,
    id          bigint         generated always as identity,
    lot_id      uuid           not null,
    piece_id    uuid,
    kind        text           not null,
    quantity    numeric(14, 3) not null,
    cost        numeric(14, 2) not null default 0,
    currency    char(3)        not null,
    making_id   uuid,
    line        integer,
    party_id    uuid,
    reason      text           not null default '',
    person_id   uuid           not null,
    happened_at timestamptz    not null,
    recorded_at timestamptz    not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, lot_id) references stock_lots,
    foreign key (workshop_id, piece_id) references pieces,
    foreign key (workshop_id, making_id) references makings,
    foreign key (workshop_id, party_id) references parties,
    foreign key (workshop_id, person_id) references people
);

insert into movements (workshop_id, lot_id, kind, quantity, cost, currency, making_id, line, party_id, reason, person_id, happened_at, recorded_at)
select s.workshop_id, s.lot_id, s.kind, s.grams, s.cost, l.currency, s.batch_id, s.line,
    case when s.kind = 'received' then l.supplier_id end, s.reason, s.person_id, s.at, s.at
from stock_movements s join stock_lots l on l.workshop_id = s.workshop_id and l.id = s.lot_id
order by s.id;

insert into movements (workshop_id, lot_id, kind, quantity, cost, currency, making_id, person_id, happened_at, recorded_at)
select l.workshop_id, l.id, 'made', l.original, l.landed, l.currency, l.making_id, m.person_id, m.ended_at, m.ended_at
from stock_lots l join makings m on m.workshop_id = l.workshop_id and m.id = l.making_id
order by m.ended_at;

insert into movements (workshop_id, lot_id, piece_id, kind, quantity, cost, currency, party_id, person_id, happened_at, recorded_at)
select p.workshop_id, p.lot_id, p.id, 'gone', -p.original, p.cost, l.currency, t.id, m.person_id, p.gone_on, now()
from pieces p
join stock_lots l on l.workshop_id = p.workshop_id and l.id = p.lot_id
join makings m on m.workshop_id = l.workshop_id and m.id = l.making_id
left join parties t on t.workshop_id = p.workshop_id and t.name = p.gone_to
where p.gone_on is not null
order by p.gone_on, p.lot_id, p.number;

-- What happens to a making or a lot ---------------------------------------------

create table events (
    workshop_id uuid        not null,
    id          bigint      generated always as identity,
    making_id   uuid,
    lot_id      uuid,
    kind        text        not null,
    body        jsonb       not null default '{}',
    key         uuid,
    corrects    bigint,
    person_id   uuid        not null,
    happened_at timestamptz not null,
    recorded_at timestamptz not null,
    primary key (workshop_id, id),
    check (num_nonnulls(making_id, lot_id) = 1),
    unique (workshop_id, making_id, key),
    foreign key (workshop_id, making_id) references makings,
    foreign key (workshop_id, lot_id) references stock_lots,
    foreign key (workshop_id, corrects) references events,
    foreign key (workshop_id, person_id) references people
);

insert into events (workshop_id, making_id, kind, body, key, person_id, happened_at, recorded_at)
select e.workshop_id, e.batch_id, e.kind,
    jsonb_strip_nulls(jsonb_build_object('line', e.line, 'lot', e.lot_id, 'grams', nullif(e.grams, 0),
        'text', case when e.kind <> 'started' then nullif(e.text, '') end, 'ph', e.ph, 'ph_with', nullif(e.ph_with, ''))),
    e.key, e.person_id, e.at, e.at
from batch_events e order by e.id;

-- What was measured, of a lot or a making.
create table measurements (
    workshop_id uuid          not null,
    id          bigint        generated always as identity,
    making_id   uuid,
    lot_id      uuid,
    kind        text          not null, -- ph
    value       numeric(10, 3) not null,
    instrument  text          not null,
    person_id   uuid,                   -- not known of what was measured before this table
    happened_at timestamptz   not null,
    recorded_at timestamptz   not null,
    primary key (workshop_id, id),
    check (num_nonnulls(making_id, lot_id) = 1),
    foreign key (workshop_id, making_id) references makings,
    foreign key (workshop_id, lot_id) references stock_lots,
    foreign key (workshop_id, person_id) references people
);

insert into measurements (workshop_id, making_id, kind, value, instrument, person_id, happened_at, recorded_at)
select workshop_id, batch_id, 'ph', ph, ph_with, person_id, at, at from batch_events where ph is not null order by id;
insert into measurements (workshop_id, lot_id, kind, value, instrument, happened_at, recorded_at)
select workshop_id, id, 'ph', ph, ph_with, now(), now() from lots where ph is not null;
alter table stock_lots add foreign key (workshop_id, ph) references measurements;
update stock_lots l set ph = m.id from measurements m where m.workshop_id = l.workshop_id and m.lot_id = l.id;

-- What open makings hold of a lot, weighed out and not drawn yet.
create table allocations (
    workshop_id uuid           not null,
    making_id   uuid           not null,
    line        integer        not null,
    lot_id      uuid           not null,
    quantity    numeric(14, 3) not null,
    primary key (workshop_id, making_id, line, lot_id),
    foreign key (workshop_id, making_id) references makings,
    foreign key (workshop_id, lot_id) references stock_lots
);
insert into allocations (workshop_id, making_id, line, lot_id, quantity)
select e.workshop_id, e.batch_id, e.line, e.lot_id, sum(e.grams)
from batch_events e join batches b on b.id = e.batch_id
where b.state = 'weighing' and e.lot_id is not null and e.kind in ('weighed', 'took-out')
group by e.workshop_id, e.batch_id, e.line, e.lot_id;

drop table jars, stock_movements, batch_events, batch_lines, batches, lots;
alter table stock_lots rename to lots;
alter index stock_lots_pkey rename to lots_pkey;
alter index stock_lots_workshop_id_item_code_key rename to lots_workshop_id_item_code_key;

create index makings_newest on makings (workshop_id, started_at desc, id desc);
create index makings_newest_in_state on makings (workshop_id, state, started_at desc, id desc);
create index makings_last_of_formula on makings (workshop_id, formula_id, ended_at desc) where state = 'finished';
create index makings_ended on makings (workshop_id, ended_at desc, id desc) where state = 'finished';
create index lots_newest on lots (workshop_id, received desc, id desc);
create index lots_newest_of_item on lots (workshop_id, item, received desc, id desc);
create index lots_left on lots (workshop_id, item) where remaining > 0;
create index lots_code on lots (workshop_id, lower(code));
create index lots_goods_newest on lots (workshop_id, received desc, id desc) where remaining > 0 and making_id is not null;
create index lots_goods_left on lots (workshop_id, best_before, id) where remaining > 0 and making_id is not null;
create index lots_of_making on lots (workshop_id, making_id) where making_id is not null;
create index pieces_here on pieces (workshop_id, lot_id) where gone_on is null;
create index movements_of_lot on movements (workshop_id, lot_id, id);
create index movements_of_making on movements (workshop_id, making_id) where making_id is not null;
create index events_of_making on events (workshop_id, making_id, id) where making_id is not null;
create index events_of_lot on events (workshop_id, lot_id, id) where lot_id is not null;
create index measurements_of_making on measurements (workshop_id, making_id, id) where making_id is not null;
create index lots_measured on lots (workshop_id) where ph is not null and remaining > 0;
create index allocations_of_lot on allocations (workshop_id, lot_id);

create trigger append_only before update or delete on events for each row execute function refuse_change();
create trigger append_only before update or delete on movements for each row execute function refuse_change();
create trigger append_only before update or delete on measurements for each row execute function refuse_change();

-- +goose Down
-- +goose StatementBegin
do $$ begin
    raise exception 'there is no way back from here: restore what was dumped before it';
end $$;
-- +goose StatementEnd
