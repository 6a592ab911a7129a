-- A vat stands in the books: what is fed to it leaves its lot by a movement, and what is
-- drawn of it to become a batch holds a share of each feed. What was fed before this says
-- no lot: what comes of it costs at least what is known.

-- +goose Up
alter table movements
    add column vessel_id uuid,
    add column event_id  bigint, -- by which it was fed
    add foreign key (workshop_id, vessel_id) references vessels,
    add foreign key (workshop_id, event_id) references events,
    add constraint fed_by_an_event check ((vessel_id is null) = (event_id is null));
create index movements_of_event on movements (workshop_id, event_id) where event_id is not null;

-- what of a lot that was fed a batch holds that was drawn
create table vat_shares (
    workshop_id uuid           not null,
    making_id   uuid           not null,
    event_id    bigint         not null, -- of the feed
    lot_id      uuid           not null,
    quantity    numeric(14, 3) not null check (quantity >= 0),
    cost        numeric(14, 2) not null default 0 check (cost >= 0),
    primary key (workshop_id, making_id, event_id, lot_id),
    foreign key (workshop_id, making_id) references makings,
    foreign key (workshop_id, event_id) references events,
    foreign key (workshop_id, lot_id) references lots
);
create index vat_shares_of_lot on vat_shares (workshop_id, lot_id);
create index vat_shares_of_event on vat_shares (workshop_id, event_id);
grant select, insert, delete on vat_shares to keencrock_app;
alter table vat_shares enable row level security;
create policy of_workshop on vat_shares to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- +goose Down
drop table vat_shares;
alter table movements drop column event_id, drop column vessel_id;
