-- What is to be bought: what was short when something was to be made, by material and by
-- what it is for.

-- +goose Up
create table wanted (
    workshop_id uuid           not null references workshops,
    item        text           not null check (length(item) between 1 and 200),
    reason      text           not null check (length(reason) <= 120), -- the good it is for; empty where nothing is said
    quantity    numeric(14, 3) not null check (quantity >= 0), -- in grams
    person_id   uuid           not null,
    noted_at    timestamptz    not null,
    primary key (workshop_id, item, reason)
);
grant select, insert, update, delete on wanted to keencrock_app;
alter table wanted enable row level security;
create policy of_workshop on wanted to keencrock_app using (
    workshop_id = (select nullif(nullif(current_setting('keencrock.workshop', true), '*'), '')::uuid)
    or (select current_setting('keencrock.workshop', true) = '*'));

-- +goose Down
drop table wanted;
