package store

import (
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/core/stock"
)

// TableName is read by GORM.
func (Act) TableName() string { return "acts" }

// Sums of movements by month, good, party, kind and currency. What left and what was made or
// came back are asked for apart: only for the latter is anything else looked up.
const (
	movedKeys = `date_part('month', m.happened_at at time zone @zone)::int as month, l.item, m.party_id, m.kind, coalesce(m.price_currency, m.currency) as currency`
	movedSums = `sum(m.quantity)::float8 as quantity, sum(m.cost) as cost, coalesce(sum(m.price), 0) as price, coalesce(sum(m.quantity) filter (where m.piece_id is null), 0)::float8 as weighed`
	movedIn   = `m.workshop_id = @workshop and m.happened_at >= (@from at time zone @zone) and m.happened_at < (@to at time zone @zone)`
	goodsLeft = `select ` + movedKeys + `, '' as undoes, count(m.piece_id) as pieces, count(*) filter (where m.kind = 'sold' and m.price is null) as unpriced, ` + movedSums + `
		from movements m join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id and l.making_id is not null
		where ` + movedIn + ` and m.kind in ('sold', 'given', 'gone', 'discarded', 'sampled') group by 1, 2, 3, 4, 5`
	goodsCame = `select ` + movedKeys + `, m.undone as undoes, case m.kind when 'made' then round(sum(m.quantity / l.original * coalesce(m.jars, 0))) else count(m.piece_id) end as pieces, 0 as unpriced, ` + movedSums + `
		from (select m.*, case when m.undoes is null then '' else (select u.kind from movements u where u.workshop_id = @workshop and u.id = m.undoes) end as undone,
				case m.kind when 'made' then (select k.jars from makings k where k.workshop_id = @workshop and k.id = m.making_id) end as jars
			from movements m where ` + movedIn + ` and m.kind in ('made', 'corrected', 'returned')) m
		join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id and l.making_id is not null
		group by 1, 2, 3, 4, 5, 6`
)

// MovedGoods sums what moved in a year, by the clocks of a zone, of the goods that were made
// here: by month, good, party, kind and currency.
func (t *Tx) MovedGoods(year int, zone string) ([]MovedGood, error) {
	// of a hundred thousand movements come a few hundred sums: to be hashed, which the planner
	// does not see behind the walls between workshops
	if err := t.hashing(true); err != nil {
		return nil, err
	}
	args := func() map[string]any {
		return map[string]any{"from": fmt.Sprintf("%d-01-01", year), "to": fmt.Sprintf("%d-01-01", year+1), "zone": zone}
	}
	var left, came []MovedGood
	if err := t.sql(goodsLeft, args()).Find(&left).Error; err != nil {
		return nil, err
	}
	if err := t.sql(goodsCame, args()).Find(&came).Error; err != nil {
		return nil, err
	}
	return append(left, came...), t.hashing(false)
}

// hashing lets the planner do nothing but hash in this transaction, or what it likes.
func (t *Tx) hashing(only bool) error {
	rest := "on"
	if only {
		rest = "off"
	}
	var set string
	return t.sql("select set_config('enable_sort', @rest, true) || set_config('enable_nestloop', @rest, true) where cast(@workshop as uuid) is not null", map[string]any{"rest": rest}).Scan(&set).Error
}

// MovedGood is a sum of movements that went the same way.
type MovedGood struct {
	Month    int // from 1
	Item     string
	PartyID  *uuid.UUID
	Kind     string
	Undoes   string
	Pieces   int
	Unpriced int
	Quantity float64
	Weighed  float64 // of the quantity, what moved by weight and in no jar
	Cost     decimal.Decimal
	Price    decimal.Decimal
	Currency string
}

// StockThen is what was left of a lot at the end of a day, and what all of it had cost.
type StockThen struct {
	Item      string
	Kind      string
	Original  float64
	Remaining float64
	Landed    decimal.Decimal
	Currency  string
	Unpriced  bool
}

// StockThen lists what was there at a moment: of each lot as much as its movements had
// left by then.
func (t *Tx) StockThen(at time.Time) ([]StockThen, error) {
	var rows []StockThen
	return rows, t.sql(`select l.item, i.kind, l.original::float8, q.left::float8 as remaining, l.landed, l.currency, (l.landed = 0 and not l.free and l.making_id is null) as unpriced
		from (select lot_id, sum(quantity) as left from movements where workshop_id = @workshop and happened_at < @at group by lot_id having sum(quantity) > 0) q
		join lots l on l.workshop_id = @workshop and l.id = q.lot_id join items i on i.workshop_id = l.workshop_id and i.id = l.item`, map[string]any{"at": at}).Find(&rows).Error
}

// Drawing is what a making used of one lot.
type Drawing struct {
	Making   uuid.UUID
	Lot      uuid.UUID
	Code     string
	At       time.Time
	Item     string
	Name     string // of what is made here or filled; else the library names it
	Kind     string // of movement: drawn, filled, discarded
	Quantity float64
	Cost     decimal.Decimal
	Unpriced bool // some of it has no known price
}

// Drawings lists what makings used, by item and lot; what was discarded with them too.
func (t *Tx) Drawings(makings ...uuid.UUID) ([]Drawing, error) {
	if len(makings) == 0 {
		return nil, nil
	}
	var rows []Drawing
	return rows, t.sql(`select q.making_id as making, l.id as lot, l.code, max(q.at) as at, l.item, i.name, q.kind, sum(q.quantity)::float8 as quantity, sum(q.cost) as cost,
			bool_or(l.unpriced <> '[]' or l.making_id is null and l.landed = 0 and not l.free) as unpriced
		from (select making_id, lot_id, kind, -quantity as quantity, cost, happened_at as at from movements where workshop_id = @workshop and making_id in @ids and kind in ('drawn', 'filled', 'discarded')
			union all select s.making_id, s.lot_id, 'drawn', s.quantity, s.cost, null from vat_shares s where s.workshop_id = @workshop and s.making_id in @ids) q
		join lots l on l.workshop_id = @workshop and l.id = q.lot_id join items i on i.workshop_id = l.workshop_id and i.id = l.item
		group by q.making_id, l.id, l.code, l.item, i.name, q.kind having sum(q.quantity) <> 0 order by q.making_id, q.kind, i.name, l.item, l.code`, map[string]any{"ids": makings}).Find(&rows).Error
}

// GoodMaking is a batch that made a good, as far as its cost goes.
type GoodMaking struct {
	ID        uuid.UUID
	Code      string
	Name      string // of the good
	Kind      string
	FormulaID uuid.UUID
	Cost      decimal.Decimal
	Currency  string
	Jars      int
	EachG     float64
	UseG      float64
	MadeG     float64
	HandsMin  *float64
	HeatMin   *float64
	StartedAt time.Time
	EndedAt   time.Time
}

// NewestOfGoods lists the last batches that made something of each good, or of one, so
// many of each, the newest first; none that was made before the books were begun, of which
// nobody knows what went in. Those end as they begin: of the others that is not read.
func (t *Tx) NewestOfGoods(formula uuid.UUID, each int) ([]GoodMaking, error) {
	of := ""
	if formula != uuid.Nil {
		of = "and m.formula_id = @formula"
	}
	var rows []GoodMaking
	return rows, t.sql(`select q.*, l.original::float8 as made_g, f.name from (
			select m.*, row_number() over (partition by m.formula_id order by m.ended_at desc, m.id desc) as nth
			from (select workshop_id, id, code, kind, formula_id, cost, currency, jars, each_g, use_g, hands_min, heat_min, started_at, ended_at from makings
				where workshop_id = @workshop and state = 'finished' and (started_at < ended_at or coalesce(made_by->>'earlier', '') <> 'true')) m where true `+of+`) q
		join lots l on l.workshop_id = @workshop and l.making_id = q.id join formulas f on f.workshop_id = @workshop and f.id = q.formula_id
		where q.nth <= @each order by f.name, q.formula_id, q.ended_at desc, q.id desc`, map[string]any{"formula": formula, "each": each}).Find(&rows).Error
}

// Failed is what came to nothing of a good.
type Failed struct {
	FormulaID uuid.UUID
	Batches   int
	Cost      decimal.Decimal
	Currency  string
	MadeG     float64 // that was made well in the same time
}

// FailedSince sums what came to nothing of each good since a day: what abandoned batches
// had used up, and what was discarded of what was made, against what was made well.
func (t *Tx) FailedSince(since time.Time) ([]Failed, error) {
	var rows []Failed
	return rows, t.sql(`select f.formula_id, max(f.currency) as currency, sum(f.cost) as cost, count(distinct f.batch) as batches,
			coalesce((select sum(l.original) from makings m join lots l on l.workshop_id = m.workshop_id and l.making_id = m.id
				where m.workshop_id = @workshop and m.formula_id = f.formula_id and m.ended_at >= @since), 0)::float8 as made_g
		from (select m.formula_id, m.id as batch, v.cost, v.currency from movements v join makings m on m.workshop_id = v.workshop_id and m.id = v.making_id
				where v.workshop_id = @workshop and v.kind = 'discarded' and v.happened_at >= @since
			union all select m.formula_id, null, v.cost, v.currency from movements v join lots l on l.workshop_id = v.workshop_id and l.id = v.lot_id
				join makings m on m.workshop_id = l.workshop_id and m.id = l.making_id
				where v.workshop_id = @workshop and v.kind = 'discarded' and v.making_id is null and v.happened_at >= @since) f
		group by f.formula_id`, map[string]any{"since": since}).Find(&rows).Error
}

// PlannedPrices are what a unit of items cost in the newest priced lot before a day that
// is none of some, in a currency; of an item that has no other that of theirs.
func (t *Tx) PlannedPrices(currency string, before time.Time, not []stock.ID, items ...string) (map[string]decimal.Decimal, error) {
	of := map[string]decimal.Decimal{}
	if len(items) == 0 {
		return of, nil
	}
	var rows []struct {
		Item     string
		Landed   decimal.Decimal
		Original float64
	}
	err := t.sql(`select distinct on (item) item, landed, original::float8 from lots where workshop_id = @workshop and item in @items and currency = @currency and landed > 0 and received <= @before
		order by item, id in @not, received desc, id desc`, map[string]any{"items": items, "currency": currency, "before": before, "not": append(uuids(not), uuid.Nil)}).Scan(&rows).Error
	for _, r := range rows {
		of[r.Item] = r.Landed.DivRound(decimal.NewFromFloat(r.Original), 10)
	}
	return of, err
}

// UsualHands is the median of the minutes that hands were at the batches of a formula that
// ended before a moment, and how many those were.
func (t *Tx) UsualHands(formula uuid.UUID, before time.Time) (minutes float64, of int, err error) {
	var row struct {
		Minutes *float64
		Of      int
	}
	err = t.sql(`select percentile_cont(0.5) within group (order by hands_min) as minutes, count(*) as of from makings
		where workshop_id = @workshop and formula_id = @formula and state = 'finished' and ended_at < @before and hands_min is not null`,
		map[string]any{"formula": formula, "before": before}).Scan(&row).Error
	if row.Minutes != nil {
		minutes = *row.Minutes
	}
	return minutes, row.Of, err
}

// Price is what a jar of a good costs, for a party or for whoever has none of their own.
type Price struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         int64     `gorm:"primaryKey"`
	FormulaID  uuid.UUID
	PartyID    *uuid.UUID
	Price      *decimal.Decimal // nil takes it back
	Deposit    decimal.Decimal
	Currency   string
	PersonID   uuid.UUID
	At         time.Time
}

// TableName is read by GORM.
func (Price) TableName() string { return "prices" }

// Prices lists the prices that hold.
func (t *Tx) Prices() ([]Price, error) {
	var rows []Price
	return rows, t.sql(`select * from (select distinct on (formula_id, party_id) * from prices where workshop_id = @workshop order by formula_id, party_id, id desc) q
		where price is not null`, nil).Find(&rows).Error
}

// EarlierPrices lists the prices that held before those of [Tx.Prices], and when each was taken
// back, the newest of each good and party first: so many of each.
func (t *Tx) EarlierPrices(each int) ([]Price, error) {
	var rows []Price
	return rows, t.sql(`select * from (select *, row_number() over (partition by formula_id, party_id order by id desc) as nth from prices where workshop_id = @workshop) q
		where nth between 2 and @most order by formula_id, party_id, id desc`, map[string]any{"most": each + 1}).Find(&rows).Error
}

// AddPrices keeps prices that hold from now on.
func (t *Tx) AddPrices(rows []Price) error { return t.db.Create(&rows).Error }

// Rates are what an hour of hands and a kilowatt hour cost; zero where nobody said.
type Rates struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	Hour       decimal.Decimal
	KWh        decimal.Decimal `gorm:"column:kwh"`
	StoveW     float64         `gorm:"column:stove_w"`
	Bought     []byte          `gorm:"type:jsonb;default:'[]'"`
	Version    int
}

// TableName is read by GORM.
func (Rates) TableName() string { return "rates" }

// Rates are those of the workshop; of version 0 where nobody said any.
func (t *Tx) Rates() (*Rates, error) {
	var rows []Rates
	err := t.db.Limit(1).Find(&rows).Error
	if len(rows) == 0 {
		return &Rates{}, err
	}
	return &rows[0], err
}

// SaveRates keeps rates that were read at r.Version; ErrStale when they changed since.
func (t *Tx) SaveRates(r *Rates) error {
	read := r.Version
	r.Version++
	if read == 0 {
		return orStale(t.db.Create(r).Error)
	}
	result := t.db.Model(&Rates{}).Where("version = ?", read).Select("hour", "kwh", "stove_w", "bought", "version").Updates(r)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrStale
	}
	return result.Error
}

// orStale is ErrStale where somebody else was first.
func orStale(err error) error {
	if err != nil && orTaken(err) == ErrTaken {
		return ErrStale
	}
	return err
}

// TableName is read by GORM.
func (StallDay) TableName() string { return "stall_days" }

// Bought is a lot that was bought, with what it cost.
type Bought struct {
	Item     string
	Supplier string
	Code     string
	Received time.Time
	Original float64
	Landed   decimal.Decimal
	Currency string
}

// Bought lists every priced lot of raw material, by item and day.
func (t *Tx) Bought() ([]Bought, error) {
	var rows []Bought
	return rows, t.sql(`select l.item, coalesce(p.name, '') as supplier, l.code, l.received, l.original::float8, l.landed, l.currency from lots l
		join items i on i.workshop_id = l.workshop_id and i.id = l.item and i.kind = 'raw'
		left join parties p on p.workshop_id = l.workshop_id and p.id = l.supplier_id
		where l.workshop_id = @workshop and l.making_id is null and l.landed > 0 order by l.item, l.received, l.id`, nil).Find(&rows).Error
}

// FirstMovement is when anything moved first; zero where nothing did.
func (t *Tx) FirstMovement() (time.Time, error) {
	var at *time.Time
	err := t.sql("select min(happened_at) from movements where workshop_id = @workshop", nil).Scan(&at).Error
	return timeOf(at), err
}

// FormulaNames are the names of all formulas, of those put away too.
func (t *Tx) FormulaNames() (map[uuid.UUID]string, error) {
	var rows []struct {
		ID   uuid.UUID
		Name string
	}
	err := t.sql("select id, name from formulas where workshop_id = @workshop", nil).Scan(&rows).Error
	of := make(map[uuid.UUID]string, len(rows))
	for _, r := range rows {
		of[r.ID] = r.Name
	}
	return of, err
}
