-- +goose Up

-- what a workshop adds to the library; said is how its maker described it
create table own_materials (
    workshop_id uuid    not null references workshops,
    id          text    not null check (id like 'own-%'),
    said        jsonb   not null,
    version     integer not null,
    primary key (workshop_id, id)
);

-- +goose Down
drop table own_materials;
