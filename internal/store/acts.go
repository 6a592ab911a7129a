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
		group by m.act_id, l.item, l.id, l.code, i.name, m.kind, m.price is null, m.price, m.piece_id is null order by m.act_id, i.name, l.code, m.piece_id is null`, map[string]any{"acts": acts}).Find(&lines).Error
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
	Opened  bool      // of those here: also such as something was taken out of
	Limit   int
}

// FindJars lists jars: of those that are here the ones that are best before the soonest
// first, of those that went the last that did.
//
// The few lots are found first and their jars after: joined from the jars, each of thousands
// would look its lot up, through all the versions that a long import makes of it.
func (t *Tx) FindJars(q JarQuery) ([]uuid.UUID, error) {
	lots, jars, order := q.lots(), "x.gone_on is not null and x.gone_to not in @used", "x.gone_on desc, l.received desc, l.id, x.number desc"
	within := "x.gone_on desc, x.number desc"
	if q.Leaving {
		jars, order, within = "x.gone_on is null", "l.best_before nulls last, l.received, l.id, x.number", "x.number"
		if !q.Opened {
			jars += " and x.remaining >= x.original"
		}
	} else if q.Party != "" {
		jars += " and lower(x.gone_to) = lower(@party)"
	}
	var ids []uuid.UUID
	return ids, t.sql(`with l as materialized (select id, best_before, received from lots where workshop_id = @workshop and `+lots+`)
		select x.id from l cross join lateral (select x.id, x.number, x.gone_on from pieces x where x.workshop_id = @workshop and x.lot_id = l.id and `+jars+` order by `+within+` limit @limit) x
		order by `+order+` limit @limit`, q.args()).Scan(&ids).Error
}

// lots is which lots they are of.
func (q *JarQuery) lots() string {
	lots := "true"
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
	}
	return lots
}

func (q *JarQuery) args() map[string]any {
	return map[string]any{"item": q.Item, "making": q.Making, "good_on": q.GoodOn, "used": []string{stock.UsedUpHere, stock.KeptAsSample}, "party": q.Party, "limit": q.Limit}
}

// FindWeighable lists the lots that something can be weighed out of, those that are best
// before the soonest first.
func (t *Tx) FindWeighable(q JarQuery) ([]stock.ID, error) {
	var ids []uuid.UUID
	err := t.sql(`select id from lots where workshop_id = @workshop and making_id is not null and remaining > 0 and `+q.lots()+` order by best_before nulls last, received, id`, q.args()).Scan(&ids).Error
	out := make([]stock.ID, len(ids))
	for i, id := range ids {
		out[i] = stock.ID(id)
	}
	return out, err
}

// WeighedOut is what went out by weight in one movement, less what of it came back.
type WeighedOut struct {
	ID       int64
	Lot      uuid.UUID `gorm:"column:lot_id"`
	Grams    float64
	Cost     decimal.Decimal
	Price    *decimal.Decimal
	Currency string
	Party    string
	At       time.Time
}

// FindWeighedOut lists what went out by weight and is not back, the last first.
func (t *Tx) FindWeighedOut(q JarQuery) ([]WeighedOut, error) {
	party := ""
	if q.Party != "" {
		party = " and lower(p.name) = lower(@party)"
	}
	var rows []WeighedOut
	return rows, t.sql(`select m.id, m.lot_id, (-m.quantity - coalesce(b.grams, 0))::float8 as grams, m.cost + coalesce(b.cost, 0) as cost, m.price + coalesce(b.price, 0) as price,
			coalesce(m.price_currency, m.currency) as currency, coalesce(p.name, '') as party, m.happened_at as at
		from movements m left join parties p on p.workshop_id = m.workshop_id and p.id = m.party_id
		left join lateral (select sum(u.quantity) as grams, sum(u.cost) as cost, sum(u.price) as price from movements u where u.workshop_id = m.workshop_id and u.piece_id is null and u.undoes = m.id) b on true
		where m.workshop_id = @workshop and m.piece_id is null and m.act_id is not null and m.kind in ('sold', 'given', 'gone', 'discarded')
			and m.lot_id in (select id from lots where workshop_id = @workshop and `+q.lots()+`) and -m.quantity > coalesce(b.grams, 0)`+party+`
		order by m.id desc`, q.args()).Find(&rows).Error
}

// WhoHas is how many jars of a batch went to somebody, and how to reach them.
type WhoHas struct {
	Party   string
	Reach   string
	Kind    string
	Pieces  int
	Numbers string  // of the jars
	Grams   float64 // that went by weight
	LastOn  time.Time
}

// WhoHas lists who has jars of a batch, or some of it by weight.
func (t *Tx) WhoHas(making uuid.UUID) ([]WhoHas, error) {
	var rows []WhoHas
	return rows, t.sql(`select coalesce(p.name, '') as party, coalesce(p.reach, '') as reach, h.kind, sum(h.pieces) as pieces, coalesce(string_agg(h.number::text, ', ' order by h.number), '') as numbers,
			sum(h.grams)::float8 as grams, max(h.at) as last_on
		from (select m.party_id, m.kind, 1 as pieces, x.number, 0 as grams, m.happened_at as at
			from lots l join pieces x on x.workshop_id = l.workshop_id and x.lot_id = l.id and x.gone_on is not null and x.gone_to <> @kept
			join lateral (select * from movements m where m.workshop_id = x.workshop_id and m.piece_id = x.id and m.kind in ('gone', 'sold', 'given') order by m.id desc limit 1) m on true
			where l.workshop_id = @workshop and l.making_id = @making
			union all select m.party_id, m.kind, 0, null, -m.quantity - coalesce((select sum(u.quantity) from movements u where u.workshop_id = m.workshop_id and u.piece_id is null and u.undoes = m.id), 0), m.happened_at
			from lots l join movements m on m.workshop_id = l.workshop_id and m.lot_id = l.id and m.piece_id is null and m.act_id is not null and m.kind in ('gone', 'sold', 'given')
			where l.workshop_id = @workshop and l.making_id = @making) h
		left join parties p on p.workshop_id = @workshop and p.id = h.party_id
		where h.pieces > 0 or h.grams > 0 group by 1, 2, 3 order by 1, 3`, map[string]any{"making": making, "kept": stock.KeptAsSample}).Find(&rows).Error
}
