package store

import (
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

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
		where m.workshop_id = @workshop and m.piece_id in @ids and m.kind in ('gone', 'sold', 'given', 'discarded', 'sampled') order by m.piece_id, m.id desc`, map[string]any{"ids": uuids(pieces)}).Find(&rows).Error
	for _, r := range rows {
		of[stock.ID(r.Piece)] = r
	}
	return of, err
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
//
// The few lots are found first and their jars after: joined from the jars, each of thousands
// would look its lot up, through all the versions that a long import makes of it.
func (t *Tx) FindJars(q JarQuery) ([]uuid.UUID, error) {
	lots, jars, order := "true", "x.gone_on is not null and x.gone_to not in @used", "x.gone_on desc, l.received desc, l.id, x.number desc"
	within := "x.gone_on desc, x.number desc"
	if q.Item != "" {
		lots += " and item = @item"
	}
	if q.Making != uuid.Nil {
		lots += " and making_id = @making"
	}
	if !q.GoodOn.IsZero() {
		lots += " and (best_before is null or best_before >= @good_on)"
	}
	if q.Leaving {
		lots += " and not set_aside"
		jars, order, within = "x.gone_on is null", "l.best_before nulls last, l.received, l.id, x.number", "x.number"
	} else if q.Party != "" {
		jars += " and lower(x.gone_to) = lower(@party)"
	}
	var ids []uuid.UUID
	return ids, t.sql(`with l as materialized (select id, best_before, received from lots where workshop_id = @workshop and `+lots+`)
		select x.id from l cross join lateral (select x.id, x.number, x.gone_on from pieces x where x.workshop_id = @workshop and x.lot_id = l.id and `+jars+` order by `+within+` limit @limit) x
		order by `+order+` limit @limit`, map[string]any{"item": q.Item, "making": q.Making, "good_on": q.GoodOn, "used": []string{stock.UsedUpHere, stock.KeptAsSample}, "party": q.Party, "limit": q.Limit}).Scan(&ids).Error
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
		from lots l join pieces x on x.workshop_id = l.workshop_id and x.lot_id = l.id and x.gone_on is not null and x.gone_to <> @kept
		join lateral (select * from movements m where m.workshop_id = x.workshop_id and m.piece_id = x.id and m.kind in ('gone', 'sold', 'given') order by m.id desc limit 1) m on true
		left join parties p on p.workshop_id = m.workshop_id and p.id = m.party_id
		where l.workshop_id = @workshop and l.making_id = @making group by 1, 2, 3 order by 1, 3`, map[string]any{"making": making, "kept": stock.KeptAsSample}).Find(&rows).Error
}
