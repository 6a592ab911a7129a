-- What goods bring, and who has them. A sale, a gift and a return are movements with a
-- party and a price; an act holds together what was done at once. Prices are added to and
-- never changed, so that what was asked then can be told.

-- +goose Up
alter table parties
    add column kind       text  not null default '' check (kind in ('', 'outlet', 'stall', 'customer')), -- '': only a name so far
    add column reach      text  not null default '' check (length(reach) <= 400), -- how to reach them
    add column note       text  not null default '' check (length(note) <= 400),
    add column keep_from  jsonb not null default '[]', -- what must not go to them
    add column fee        numeric(14, 2) not null default 0 check (fee >= 0),  -- of a day at a stall
    add column fuel       numeric(14, 2) not null default 0 check (fuel >= 0),
    add column version    integer not null default 1,
    add column removed_at timestamptz;

create table stall_days (
    workshop_id uuid           not null references workshops,
    id          uuid           not null,
    party_id    uuid           not null,
    day         date           not null,
    fee         numeric(14, 2) not null default 0 check (fee >= 0),
    fuel        numeric(14, 2) not null default 0 check (fuel >= 0),
    currency    char(3)        not null,
    takings     numeric(14, 2) check (takings >= 0), -- null until they are counted
    note        text           not null default '' check (length(note) <= 400),
    person_id   uuid           not null,
    opened_at   timestamptz    not null,
    closed_at   timestamptz,
    primary key (workshop_id, id),
    foreign key (workshop_id, party_id) references parties,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create unique index stall_days_open on stall_days (workshop_id, party_id) where closed_at is null;

create table acts (
    workshop_id  uuid        not null references workshops,
    id           uuid        not null,
    number       integer     not null check (number > 0), -- of the delivery note
    kind         text        not null check (kind in ('gone', 'sold', 'given', 'returned', 'discarded')),
    party_id     uuid,
    stall_day_id uuid,
    note         text        not null default '' check (length(note) <= 400),
    person_id    uuid        not null,
    happened_at  timestamptz not null,
    recorded_at  timestamptz not null,
    primary key (workshop_id, id),
    unique (workshop_id, number),
    foreign key (workshop_id, party_id) references parties,
    foreign key (workshop_id, stall_day_id) references stall_days,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index acts_newest on acts (workshop_id, happened_at desc, id desc);
create index acts_of_stall_day on acts (workshop_id, stall_day_id) where stall_day_id is not null;

alter table movements
    add column act_id         uuid,
    add column undoes         bigint,         -- the movement that it takes back
    add column price          numeric(14, 2), -- what it brought; null where nobody said
    add column price_currency char(3),
    add column deposit        numeric(14, 2) not null default 0,
    add foreign key (workshop_id, act_id) references acts,
    add foreign key (workshop_id, undoes) references movements,
    add constraint price_in_a_currency check ((price is null) = (price_currency is null));
create index movements_of_act on movements (workshop_id, act_id) where act_id is not null;
create unique index movements_undone_once on movements (workshop_id, undoes) where undoes is not null;
create index movements_of_party on movements (workshop_id, party_id, happened_at) where party_id is not null;
create index movements_in_time on movements (workshop_id, happened_at);
create index movements_of_piece on movements (workshop_id, piece_id, id) where piece_id is not null;
create index movements_with_deposit on movements (workshop_id, party_id) where deposit <> 0;
create index movements_gone on movements (workshop_id, party_id) where kind = 'gone';

create table prices (
    workshop_id uuid           not null references workshops,
    id          bigint         generated always as identity,
    formula_id  uuid           not null,
    party_id    uuid,           -- null for whoever has no price of their own
    price       numeric(14, 2)  check (price >= 0), -- of one jar; null takes it back
    deposit     numeric(14, 2) not null default 0 check (deposit >= 0),
    currency    char(3)        not null,
    person_id   uuid           not null,
    at          timestamptz    not null,
    primary key (workshop_id, id),
    foreign key (workshop_id, formula_id) references formulas,
    foreign key (workshop_id, party_id) references parties,
    foreign key (workshop_id, person_id) references people (workshop_id, id)
);
create index prices_of_good on prices (workshop_id, formula_id, party_id, id desc);

-- minutes at the bench and on the stove of a batch that has ended; hands are null where
-- nobody counted them
alter table makings
    add column hands_min double precision check (hands_min >= 0),
    add column heat_min  double precision check (heat_min >= 0);

create table rates (
    workshop_id uuid             not null references workshops,
    hour        numeric(14, 2)   not null default 0 check (hour >= 0), -- of hands; 0 where nobody said
    kwh         numeric(14, 4)   not null default 0 check (kwh >= 0),
    stove_w     double precision not null default 0 check (stove_w >= 0),
    bought      jsonb            not null default '[]', -- bought goods to compare with
    version     integer          not null default 1,
    primary key (workshop_id)
);

grant select, insert on acts, prices to keencrock_app;
grant select, insert, update on stall_days, rates to keencrock_app;
-- +goose StatementBegin
do $$ declare
    t text;
begin
    foreach t in array array['stall_days', 'acts', 'prices', 'rates'] loop
        execute format('alter table %I enable row level security', t);
        execute format('create policy of_workshop on %I to keencrock_app using (
            workshop_id = (select nullif(nullif(current_setting(''keencrock.workshop'', true), ''*''), '''')::uuid)
            or (select current_setting(''keencrock.workshop'', true) = ''*''))', t);
    end loop;
end $$;
-- +goose StatementEnd

-- +goose Down
drop table rates;
alter table makings drop column hands_min, drop column heat_min;
drop table prices;
alter table movements drop column act_id, drop column undoes, drop column price, drop column price_currency, drop column deposit;
drop index if exists movements_in_time, movements_of_party, movements_of_piece, movements_gone;
drop table acts;
drop table stall_days;
alter table parties drop column kind, drop column reach, drop column note, drop column keep_from, drop column fee, drop column fuel, drop column version, drop column removed_at;
