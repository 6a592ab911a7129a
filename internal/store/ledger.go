package store

import (
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm/clause"

	"keencrock/core/stock"
)

// Act is what was done at once with jars: a sale, a gift, jars out to a stall, a return.
type Act struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	Number     int       // of the delivery note
	Kind       string
	PartyID    *uuid.UUID
	StallDayID *uuid.UUID
	Note       string
	PersonID   uuid.UUID
	HappenedAt time.Time
	RecordedAt time.Time

	Party  string `gorm:"->;-:migration"`
	Person string `gorm:"->;-:migration"`
}

// TableName is read by GORM.
func (Act) TableName() string { return "acts" }

// AddAct begins an act and numbers it. Until the transaction ends no other of the
// workshop is numbered.
func (t *Tx) AddAct(a *Act) error {
	if err := t.lock("act number"); err != nil {
		return err
	}
	if err := t.sql("select coalesce(max(number), 0) + 1 from acts where workshop_id = @workshop", nil).Scan(&a.Number).Error; err != nil {
		return err
	}
	if a.ID == uuid.Nil {
		a.ID = NewID()
	}
	return t.db.Omit("Party", "Person").Create(a).Error
}

// ActOfStall is the act of a kind of a stall day; none where there is none yet.
func (t *Tx) ActOfStall(day uuid.UUID, kind string) (uuid.UUID, error) {
	var ids []uuid.UUID
	err := t.db.Model(&Act{}).Where("stall_day_id = ? and kind = ?", day, kind).Limit(1).Pluck("id", &ids).Error
	if len(ids) == 0 {
		return uuid.Nil, err
	}
	return ids[0], err
}

// Acts lists one page of acts, the newest first; of one party where it is given.
func (t *Tx) Acts(party uuid.UUID, p Page) ([]Act, error) {
	db := t.db.Model(&Act{}).Select("acts.*, coalesce(p.name, '') as party, w.name as person").
		Joins("left join parties p on p.workshop_id = acts.workshop_id and p.id = acts.party_id").
		Joins("join people w on w.workshop_id = acts.workshop_id and w.id = acts.person_id")
	if party != uuid.Nil {
		db = db.Where("acts.party_id = ?", party)
	}
	if p.AfterID != uuid.Nil {
		db = db.Where("(acts.happened_at, acts.id) < (?, ?)", p.AfterTime, p.AfterID)
	}
	var acts []Act
	return acts, db.Order("acts.happened_at desc, acts.id desc").Limit(p.Limit).Find(&acts).Error
}

// Act returns one act.
func (t *Tx) Act(id uuid.UUID) (*Act, error) {
	var a Act
	err := t.db.Model(&Act{}).Select("acts.*, coalesce(p.name, '') as party, w.name as person").
		Joins("left join parties p on p.workshop_id = acts.workshop_id and p.id = acts.party_id").
		Joins("join people w on w.workshop_id = acts.workshop_id and w.id = acts.person_id").Where("acts.id = ?", id).Take(&a).Error
	return &a, orNotFound(err)
}

// ActLine is what of one good of one batch moved in an act, at one price.
type ActLine struct {
	ActID    uuid.UUID
	Item     string
	Lot      uuid.UUID
	Code     string // of the batch
	Name     string
	Kind     string
	Pieces   int
	Grams    float64
	EachG    float64
	Cost     decimal.Decimal
	Price    *decimal.Decimal // of all of them
	Currency string
	Deposit  decimal.Decimal
}

// ActLines lists what moved in acts. What came back of a stall only to be sold there is
// the sale alone.
func (t *Tx) ActLines(acts ...uuid.UUID) ([]ActLine, error) {
	var lines []ActLine
	if len(acts) == 0 {
		return nil, nil
	}
	return lines, t.sql(`select m.act_id, l.item, l.id as lot, l.code, i.name, m.kind, count(distinct m.piece_id) as pieces, abs(sum(m.quantity))::float8 as grams,
			max(abs(m.quantity))::float8 as each_g, sum(m.cost) as cost, sum(m.price) as price, coalesce(max(m.price_currency), max(m.currency)) as currency, sum(m.deposit) as deposit
		from movements m join acts a on a.workshop_id = m.workshop_id and a.id = m.act_id
		join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id join items i on i.workshop_id = l.workshop_id and i.id = l.item
		where m.workshop_id = @workshop and m.act_id in @acts and m.kind = a.kind
		group by m.act_id, l.item, l.id, l.code, i.name, m.kind, m.price is null, m.price order by m.act_id, i.name, l.code`, map[string]any{"acts": acts}).Find(&lines).Error
}

// LeftBy is the movement by which a jar left the house last.
type LeftBy struct {
	ID      int64
	Piece   uuid.UUID
	Kind    string
	Price   *decimal.Decimal
	Priced  string `gorm:"column:price_currency"`
	Deposit decimal.Decimal
	Cost    decimal.Decimal
	At      time.Time  `gorm:"column:happened_at"`
	Stall   *uuid.UUID `gorm:"column:stall_day_id"`
	Party   string
}

// LeftByOf are the movements by which jars left the house last, by the jar.
func (t *Tx) LeftByOf(pieces ...stock.ID) (map[stock.ID]LeftBy, error) {
	of := map[stock.ID]LeftBy{}
	if len(pieces) == 0 {
		return of, nil
	}
	var rows []LeftBy
	err := t.sql(`select distinct on (m.piece_id) m.id, m.piece_id as piece, m.kind, m.price, coalesce(m.price_currency, '') as price_currency, m.deposit, m.cost, m.happened_at, a.stall_day_id, coalesce(p.name, '') as party
		from movements m left join acts a on a.workshop_id = m.workshop_id and a.id = m.act_id
		left join parties p on p.workshop_id = m.workshop_id and p.id = m.party_id
		where m.workshop_id = @workshop and m.piece_id in @ids and m.kind in ('gone', 'sold', 'given', 'discarded') order by m.piece_id, m.id desc`, map[string]any{"ids": uuids(pieces)}).Find(&rows).Error
	for _, r := range rows {
		of[stock.ID(r.Piece)] = r
	}
	return of, err
}

// Sums of movements by month, good, party, kind and currency. What left and what was made or
// came back are asked for apart: only for the latter is anything else looked up.
const (
	movedKeys = `date_part('month', m.happened_at at time zone @zone)::int as month, l.item, m.party_id, m.kind, coalesce(m.price_currency, m.currency) as currency`
	movedSums = `sum(m.quantity)::float8 as quantity, sum(m.cost) as cost, coalesce(sum(m.price), 0) as price`
	movedIn   = `m.workshop_id = @workshop and m.happened_at >= (@from at time zone @zone) and m.happened_at < (@to at time zone @zone)`
	goodsLeft = `select ` + movedKeys + `, '' as undoes, count(m.piece_id) as pieces, count(*) filter (where m.kind = 'sold' and m.price is null) as unpriced, ` + movedSums + `
		from movements m join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id and l.making_id is not null
		where ` + movedIn + ` and m.kind in ('sold', 'given', 'gone', 'discarded') group by 1, 2, 3, 4, 5`
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

// PartyNames are the names of all that things came from or went to, by id.
func (t *Tx) PartyNames() (map[uuid.UUID]string, error) {
	var rows []partyRow
	err := t.db.Select("id, name").Find(&rows).Error
	names := make(map[uuid.UUID]string, len(rows))
	for _, p := range rows {
		names[p.ID] = p.Name
	}
	return names, err
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
// many of each, the newest first.
func (t *Tx) NewestOfGoods(formula uuid.UUID, each int) ([]GoodMaking, error) {
	of := ""
	if formula != uuid.Nil {
		of = "and m.formula_id = @formula"
	}
	var rows []GoodMaking
	return rows, t.sql(`select q.*, l.original::float8 as made_g, f.name from (
			select m.*, row_number() over (partition by m.formula_id order by m.ended_at desc, m.id desc) as nth
			from (select workshop_id, id, code, kind, formula_id, cost, currency, jars, each_g, use_g, hands_min, heat_min, started_at, ended_at from makings
				where workshop_id = @workshop and state = 'finished') m where true `+of+`) q
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

// Party is who jars go to.
type Party struct {
	ID       uuid.UUID
	Name     string
	Kind     string // outlet, stall, customer; empty for a mere name
	Reach    string
	Note     string
	KeepFrom []string
	Fee      decimal.Decimal
	Fuel     decimal.Decimal
	Version  int
	Removed  bool
}

func (r *partyRow) party() (Party, error) {
	p := Party{ID: r.ID, Name: r.Name, Kind: r.Kind, Reach: r.Reach, Note: r.Note, Fee: r.Fee, Fuel: r.Fuel, Version: r.Version, Removed: r.RemovedAt != nil}
	return p, json.Unmarshal(r.KeepFrom, &p.KeepFrom)
}

func (p *Party) row() (*partyRow, error) {
	keep, err := json.Marshal(append([]string{}, p.KeepFrom...))
	return &partyRow{ID: p.ID, Name: p.Name, Kind: p.Kind, Reach: p.Reach, Note: p.Note, KeepFrom: keep, Fee: p.Fee, Fuel: p.Fuel, Version: p.Version}, err
}

// Outlets lists those that jars go to, or went to, by name; suppliers only where they are.
func (t *Tx) Outlets() ([]Party, error) {
	var rows []partyRow
	err := t.db.Model(&partyRow{}).Where(`removed_at is null and (kind <> '' or exists (select 1 from movements m where m.workshop_id = parties.workshop_id and m.party_id = parties.id
		and m.kind in ('gone', 'sold', 'given') and m.piece_id is not null))`).Order("name").Find(&rows).Error
	out := make([]Party, len(rows))
	for i := range rows {
		if out[i], err = rows[i].party(); err != nil {
			return nil, err
		}
	}
	return out, err
}

// Party returns one of them.
func (t *Tx) Party(id uuid.UUID) (*Party, error) {
	var row partyRow
	if err := orNotFound(t.db.Where("id = ? and removed_at is null", id).Take(&row).Error); err != nil {
		return nil, err
	}
	p, err := row.party()
	return &p, err
}

// PartyNamed returns the one of a name; nil where there is none.
func (t *Tx) PartyNamed(name string) (*Party, error) {
	var rows []partyRow
	if err := t.db.Where("lower(name) = lower(?)", name).Order("removed_at is not null, name").Limit(1).Find(&rows).Error; err != nil || len(rows) == 0 {
		return nil, err
	}
	p, err := rows[0].party()
	return &p, err
}

// AddParty keeps somebody whom jars go to. Who was a mere name becomes one; ErrTaken where
// they are one already.
func (t *Tx) AddParty(p *Party) error {
	row, err := p.row()
	if err != nil {
		return err
	}
	row.Version = 1
	done := t.db.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "workshop_id"}, {Name: "name"}},
		Where:     clause.Where{Exprs: []clause.Expression{clause.Expr{SQL: "parties.kind = '' or parties.removed_at is not null"}}},
		DoUpdates: clause.Assignments(map[string]any{"kind": row.Kind, "reach": row.Reach, "note": row.Note, "keep_from": row.KeepFrom, "fee": row.Fee, "fuel": row.Fuel, "removed_at": nil})}).Create(row)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrTaken
	}
	if done.Error != nil {
		return done.Error
	}
	kept, err := t.PartyNamed(p.Name)
	if err == nil {
		*p = *kept
	}
	return err
}

// SaveParty keeps one that was read at p.Version; ErrStale when it changed since, ErrTaken
// when another has the name.
func (t *Tx) SaveParty(p *Party) error {
	row, err := p.row()
	if err != nil {
		return err
	}
	row.Version++
	done := t.db.Model(&partyRow{}).Where("id = ? and version = ? and removed_at is null", p.ID, p.Version).Select("name", "kind", "reach", "note", "keep_from", "fee", "fuel", "version").Updates(row)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrStale
	}
	p.Version = row.Version
	return orTaken(done.Error)
}

// PartyID is the id of a name; who is not known yet is added as a mere name.
func (t *Tx) PartyID(name string) (uuid.UUID, error) {
	ids, err := t.parties(name)
	return ids[name], err
}

// RemoveParty takes one off the list. What went to them stays told, under another name
// where it is given: of their name and how to reach them nothing is left then.
func (t *Tx) RemoveParty(p *Party, name string, at time.Time) error {
	changed := map[string]any{"removed_at": at}
	if name != "" {
		changed = map[string]any{"removed_at": at, "name": name, "reach": "", "note": "", "keep_from": []byte("[]")}
	}
	if err := t.db.Model(&partyRow{}).Where("id = ?", p.ID).Updates(changed).Error; err != nil || name == "" {
		return err
	}
	return t.db.Model(&pieceRow{}).Where("gone_to = ?", p.Name).Update("gone_to", name).Error
}

// JarQuery says which jars are wanted: of an item or a making, here or, to come back, with
// a party.
type JarQuery struct {
	Item    string
	Making  uuid.UUID
	Leaving bool
	Party   string    // of those to come back; empty for whoever
	GoodOn  time.Time // zero for those that are past their date too
	Limit   int
}

// FindJars lists jars: of those that are here the ones that are best before the soonest
// first, of those that went the last that did.
func (t *Tx) FindJars(q JarQuery) ([]uuid.UUID, error) {
	db := t.db.Model(&pieceRow{}).Joins("join lots l on l.workshop_id = pieces.workshop_id and l.id = pieces.lot_id")
	if q.Item != "" {
		db = db.Where("l.item = ?", q.Item)
	}
	if q.Making != uuid.Nil {
		db = db.Where("l.making_id = ?", q.Making)
	}
	if !q.GoodOn.IsZero() {
		db = db.Where("(l.best_before is null or l.best_before >= ?)", q.GoodOn)
	}
	if q.Leaving {
		db = db.Where("pieces.gone_on is null and not l.set_aside").Order("l.best_before nulls last, l.received, l.id, pieces.number")
	} else {
		db = db.Where("pieces.gone_on is not null and pieces.gone_to <> ?", stock.UsedUpHere).Order("pieces.gone_on desc, l.received desc, l.id, pieces.number desc")
		if q.Party != "" {
			db = db.Where("lower(pieces.gone_to) = lower(?)", q.Party)
		}
	}
	var ids []uuid.UUID
	return ids, db.Limit(q.Limit).Pluck("pieces.id", &ids).Error
}

// JarsWith counts what parties have of ours: jars that nobody paid for, deposits that were
// not given back, and when anything went last.
func (t *Tx) JarsWith() (map[uuid.UUID]JarsWith, error) {
	var rows []struct {
		Party    uuid.UUID
		Out      int
		Deposits decimal.Decimal
		LastOn   time.Time
	}
	err := t.sql(`select p.id as party, coalesce(d.deposits, 0) as deposits, coalesce(g.jars, 0) as out, l.at as last_on
		from parties p
		join lateral (select m.happened_at as at from movements m where m.workshop_id = p.workshop_id and m.party_id = p.id and m.piece_id is not null order by m.happened_at desc limit 1) l on true
		left join (select m.party_id, sum(m.deposit) as deposits from movements m where m.workshop_id = @workshop and m.deposit <> 0 group by m.party_id) d on d.party_id = p.id
		left join (select m.party_id, count(*) as jars from movements m where m.workshop_id = @workshop and m.kind = 'gone' and m.piece_id is not null
			and not exists (select 1 from movements y where y.workshop_id = @workshop and y.piece_id = m.piece_id and y.id > m.id and y.kind in ('gone', 'sold', 'given', 'returned', 'discarded'))
			group by m.party_id) g on g.party_id = p.id
		where p.workshop_id = @workshop`, nil).Scan(&rows).Error
	of := map[uuid.UUID]JarsWith{}
	for _, r := range rows {
		of[r.Party] = JarsWith{r.Out, r.Deposits, r.LastOn}
	}
	return of, err
}

// JarsWith is what somebody has of ours.
type JarsWith struct {
	Out      int             // jars that nobody paid for yet
	Deposits decimal.Decimal // that were taken and not given back
	LastOn   time.Time
}

// StallDay is a day at a stall.
type StallDay struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	PartyID    uuid.UUID
	Day        time.Time `gorm:"type:date"`
	Fee        decimal.Decimal
	Fuel       decimal.Decimal
	Currency   string
	Takings    *decimal.Decimal
	Note       string
	PersonID   uuid.UUID
	OpenedAt   time.Time
	ClosedAt   *time.Time

	Party string `gorm:"->;-:migration"`
}

// TableName is read by GORM.
func (StallDay) TableName() string { return "stall_days" }

// AddStallDay keeps one; ErrTaken when one is open at that stall.
func (t *Tx) AddStallDay(d *StallDay) error { return orTaken(t.db.Omit("Party").Create(d).Error) }

// StallDays lists the last days at stalls, the newest first.
func (t *Tx) StallDays(limit int) ([]StallDay, error) {
	var days []StallDay
	return days, t.db.Model(&StallDay{}).Select("stall_days.*, p.name as party").Joins("join parties p on p.workshop_id = stall_days.workshop_id and p.id = stall_days.party_id").
		Order("stall_days.opened_at desc, stall_days.id desc").Limit(limit).Find(&days).Error
}

// StallDay returns one day, locked against other writers until the transaction ends.
func (t *Tx) StallDay(id uuid.UUID, lock bool) (*StallDay, error) {
	db := t.db.Model(&StallDay{}).Select("stall_days.*, p.name as party").Joins("join parties p on p.workshop_id = stall_days.workshop_id and p.id = stall_days.party_id").Where("stall_days.id = ?", id)
	if lock {
		db = db.Clauses(clause.Locking{Strength: "UPDATE", Table: clause.Table{Name: "stall_days"}})
	}
	var d StallDay
	return &d, orNotFound(db.Take(&d).Error)
}

// SaveStallDay keeps what a day came to.
func (t *Tx) SaveStallDay(d *StallDay) error {
	return t.db.Model(&StallDay{}).Where("id = ?", d.ID).Select("fee", "fuel", "takings", "note", "closed_at").Updates(d).Error
}

// OnStall is a jar that went out to a stall day, and what became of it there.
type OnStall struct {
	ID       int64 // of that movement
	Piece    uuid.UUID
	Lot      uuid.UUID
	Item     string
	Name     string
	Code     string
	Number   int
	Kind     string // of the last movement: gone, sold, given, returned
	Price    *decimal.Decimal
	Currency string
	Cost     decimal.Decimal
}

// OnStall lists the jars of a stall day.
func (t *Tx) OnStall(day uuid.UUID) ([]OnStall, error) {
	var rows []OnStall
	return rows, t.sql(`select * from (select distinct on (m.piece_id) m.id, m.piece_id as piece, m.lot_id as lot, l.item, i.name, l.code, p.number, m.kind, m.price, coalesce(m.price_currency, '') as currency, abs(m.cost) as cost
		from movements m join acts a on a.workshop_id = m.workshop_id and a.id = m.act_id
		join lots l on l.workshop_id = m.workshop_id and l.id = m.lot_id join items i on i.workshop_id = l.workshop_id and i.id = l.item
		join pieces p on p.workshop_id = m.workshop_id and p.id = m.piece_id
		where m.workshop_id = @workshop and a.stall_day_id = @day order by m.piece_id, m.id desc) q order by q.code, q.number`, map[string]any{"day": day}).Find(&rows).Error
}

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

// WhoHas is how many jars of a batch went to somebody, and how to reach them.
type WhoHas struct {
	Party   string
	Reach   string
	Kind    string
	Pieces  int
	Numbers string // of the jars
	LastOn  time.Time
}

// WhoHas lists who has jars of a batch.
func (t *Tx) WhoHas(making uuid.UUID) ([]WhoHas, error) {
	var rows []WhoHas
	return rows, t.sql(`select coalesce(p.name, '') as party, coalesce(p.reach, '') as reach, m.kind, count(*) as pieces, string_agg(x.number::text, ', ' order by x.number) as numbers, max(m.happened_at) as last_on
		from lots l join pieces x on x.workshop_id = l.workshop_id and x.lot_id = l.id and x.gone_on is not null
		join lateral (select * from movements m where m.workshop_id = x.workshop_id and m.piece_id = x.id and m.kind in ('gone', 'sold', 'given') order by m.id desc limit 1) m on true
		left join parties p on p.workshop_id = m.workshop_id and p.id = m.party_id
		where l.workshop_id = @workshop and l.making_id = @making group by 1, 2, 3 order by 1, 3`, map[string]any{"making": making}).Find(&rows).Error
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
