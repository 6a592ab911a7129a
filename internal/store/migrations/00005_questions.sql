-- +goose Up

-- how many questions the newest version still asks: one with some is a draft
alter table formulas add column questions integer not null default 0 check (questions >= 0);

-- what is too little for the scale is counted in drops or spoons
alter table batch_lines add column hand text not null default '';

-- one piece of a material, weighed in this workshop; 0 for the usual
alter table material_settings add column piece_g double precision not null default 0 check (piece_g >= 0);

-- the workshop's own sizes of vague measures and vessels, in millilitres or
-- grams by what the unit measures
create table own_sizes (
    workshop_id uuid not null references workshops,
    unit        text not null,
    size        double precision not null check (size > 0),
    primary key (workshop_id, unit)
);

-- +goose Down
drop table own_sizes;
alter table material_settings drop column piece_g;
alter table batch_lines drop column hand;
alter table formulas drop column questions;
