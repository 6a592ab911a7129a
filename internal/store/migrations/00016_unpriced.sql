-- Of what was made here, what went in without a known price: the cost is at least what is
-- noted, and not less by it. A lot that was bought has no known price where none was noted.

-- +goose Up
alter table lots add column unpriced jsonb not null default '[]';
with recursive missing(workshop_id, lot_id, item) as (
    select workshop_id, id, item from lots where making_id is null and landed = 0
    union
    select m.workshop_id, into_lot.id, missing.item
    from missing
    join movements m on m.workshop_id = missing.workshop_id and m.lot_id = missing.lot_id and m.making_id is not null and m.kind <> 'made'
    join lots into_lot on into_lot.workshop_id = m.workshop_id and into_lot.making_id = m.making_id
)
update lots set unpriced = of.items
from (select workshop_id, lot_id, jsonb_agg(distinct item order by item) as items from missing group by workshop_id, lot_id) of
where lots.workshop_id = of.workshop_id and lots.id = of.lot_id and lots.making_id is not null;

-- What stands on labels: a telephone, what the law asks for where they are sold, where
-- phones read the codes of jars, and whose dose.
alter table workshops
    add column phone      text not null default '',
    add column region     text not null default '',
    add column jar_origin text not null default '',
    add column label_dose text not null default '';
grant update (phone, region, jar_origin, label_dose) on workshops to keencrock_app;

-- +goose Down
alter table workshops drop column phone, drop column region, drop column jar_origin, drop column label_dose;
alter table lots drop column unpriced;
