-- +goose Up

-- what a workshop adds to the library; said is how its maker described it
create table own_materials (
    workshop_id uuid    not null references workshops,
    id          text    not null check (id like 'own-%'),
    said        jsonb   not null,
    version     integer not null,
    primary key (workshop_id, id)
);

-- changes whenever the workshop's figures or own materials do, so that a library
-- worked out once can be used until then; never the same again, even if what
-- changed it is rolled back
alter table workshops add column library_stamp uuid not null default gen_random_uuid();

-- +goose Down
alter table workshops drop column library_stamp;
drop table own_materials;
