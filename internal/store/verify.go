package store

import (
	"context"
	"fmt"

	"github.com/google/uuid"
)

// checks are what must hold in every database: each statement lists what breaks
// it, as a sentence.
var checks = []string{
	`select w.name || ': lot ' || l.code || ' of ' || l.item || ' says ' || l.remaining || ' are left, its movements sum to ' || coalesce(m.sum, 0)
	from lots l join workshops w on w.id = l.workshop_id
	left join (select workshop_id, lot_id, sum(quantity) as sum from movements group by workshop_id, lot_id) m on m.workshop_id = l.workshop_id and m.lot_id = l.id
	where l.remaining <> coalesce(m.sum, 0)`,

	`select w.name || ': the jars of ' || l.code || ' that are here hold ' || p.here || ', its lot says ' || l.remaining
	from lots l join workshops w on w.id = l.workshop_id
	join (select workshop_id, lot_id, coalesce(sum(remaining) filter (where gone_on is null), 0) as here from pieces group by workshop_id, lot_id) p
		on p.workshop_id = l.workshop_id and p.lot_id = l.id
	where l.remaining <> p.here`,

	`select w.name || ': of ' || -m.quantity || ' g of ' || l.code || ' that went by weight came ' || b.back || ' g back'
	from movements m join workshops w on w.id = m.workshop_id join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id
	join (select workshop_id, undoes, sum(quantity) as back from movements where undoes is not null and piece_id is null group by workshop_id, undoes) b
		on b.workshop_id = m.workshop_id and b.undoes = m.id
	where b.back > -m.quantity`,

	`select w.name || ': batch ' || m.code || ' says it is ' || m.state || ', its events say ' || e.state
	from makings m join workshops w on w.id = m.workshop_id
	join lateral (select coalesce(max(case e.kind when 'finished' then 'finished' when 'abandoned' then 'abandoned' end), 'open') as state
		from events e where e.workshop_id = m.workshop_id and e.making_id = m.id) e on true
	where case when m.state in ('finished', 'abandoned') then m.state else 'open' end <> e.state`,

	`select w.name || ': batch ' || m.code || ' is ' || m.state || ' and still holds ' || a.quantity || ' of a lot'
	from allocations a join makings m on m.workshop_id = a.workshop_id and m.id = a.making_id join workshops w on w.id = m.workshop_id
	where m.state in ('finished', 'abandoned') or m.jars > 0`,

	`select w.name || ': what was fed to ' || v.name || ' on ' || to_char(e.happened_at, 'YYYY-MM-DD') || ' says ' || f.grams || ' g of a lot, its movements say ' || coalesce(m.grams, 0)
	from events e join workshops w on w.id = e.workshop_id join vessels v on v.workshop_id = e.workshop_id and v.id = e.vessel_id
	join lateral (select (of->>'lot')::uuid as lot, sum((of->>'grams')::numeric) as grams from jsonb_array_elements(e.body->'from') of group by 1) f on true
	left join lateral (select -sum(m.quantity) as grams from movements m where m.workshop_id = e.workshop_id and m.event_id = e.id and m.lot_id = f.lot) m on true
	where e.kind = 'fed' and e.body ? 'from'
		and coalesce(m.grams, 0) <> case when exists (select 1 from events u where u.workshop_id = e.workshop_id and u.vessel_id = e.vessel_id and u.kind = 'undone' and u.corrects = e.id) then 0 else f.grams end`,

	`select w.name || ': batches hold ' || s.quantity || ' g of what ' || coalesce(-m.quantity, 0) || ' g were fed to a vat of lot ' || l.code
	from (select workshop_id, event_id, lot_id, sum(quantity) as quantity, sum(cost) as cost from vat_shares group by 1, 2, 3) s
	join workshops w on w.id = s.workshop_id join lots l on l.workshop_id = s.workshop_id and l.id = s.lot_id
	left join lateral (select sum(m.quantity) as quantity, sum(m.cost) as cost from movements m where m.workshop_id = s.workshop_id and m.event_id = s.event_id and m.lot_id = s.lot_id) m on true
	where s.quantity > coalesce(-m.quantity, 0) or s.cost > coalesce(m.cost, 0)`,

	`select w.name || ': vat ' || v.name || ' says that ' || -l.ml || ' ml more were drawn than fed'
	from vessels v join workshops w on w.id = v.workshop_id
	join lateral (select sum(case e.kind when 'fed' then 1 when 'drawn' then -1 else 0 end * coalesce((e.body->>'ml')::numeric, 0)) as ml
		from events e where e.workshop_id = v.workshop_id and e.vessel_id = v.id
			and not exists (select 1 from events u where u.workshop_id = e.workshop_id and u.vessel_id = e.vessel_id and u.kind = 'undone' and u.corrects = e.id)) l on true
	where l.ml < -1`,

	`select w.name || ': batch ' || m.code || ' is finished and made no lot'
	from makings m join workshops w on w.id = m.workshop_id
	where m.state = 'finished' and m.jars > 0 and not exists (select 1 from lots l where l.workshop_id = m.workshop_id and l.making_id = m.id)`,
}

// Verify says what does not hold in any workshop: stock that is not the sum of its
// movements, jars that do not add up, batches whose events say otherwise. All is
// seen at one moment.
func (s *Store) Verify(ctx context.Context) (broken []string, err error) {
	err = s.Snapshot(acrossWorkshops(ctx), func(t *Tx) error {
		for _, check := range checks {
			var found []string
			if err := t.db.Raw(check).Scan(&found).Error; err != nil {
				return fmt.Errorf("verify: %w", err)
			}
			broken = append(broken, found...)
		}
		return nil
	})
	return broken, err
}

// Workshops counts the workshops.
func (s *Store) Workshops(ctx context.Context) (int, error) {
	var ids []uuid.UUID
	err := s.at(acrossWorkshops(ctx)).Model(&Workshop{}).Pluck("id", &ids).Error
	return len(ids), err
}
