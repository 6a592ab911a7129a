package store

import (
	"encoding/json"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"gorm.io/gorm/clause"
)

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

// partyRow is who things come from or go to.
type partyRow struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	ID         uuid.UUID `gorm:"primaryKey"`
	Name       string
	Kind       string // of package ledger's station: outlet, stall, customer; empty for a mere name
	Reach      string // how to reach them
	Note       string
	KeepFrom   []byte          `gorm:"type:jsonb;default:'[]'"` // what must not go to them
	Fee        decimal.Decimal // of a day at a stall
	Fuel       decimal.Decimal
	Version    int `gorm:"default:1"`
	RemovedAt  *time.Time
}

// TableName is read by GORM.
func (partyRow) TableName() string { return "parties" }

// mostSuppliers is how many names a note on a delivery is looked through for.
const mostSuppliers = 500

// Suppliers are the names of those that lots came from.
func (t *Tx) Suppliers() ([]string, error) {
	var names []string
	err := t.db.Model(&partyRow{}).Where("id in (?)", t.db.Model(&lotRow{}).Select("supplier_id").Where("supplier_id is not null")).Order("length(name) desc, name").Limit(mostSuppliers).Pluck("name", &names).Error
	return names, err
}

// parties are the ids of names; who is not known yet is added. Empty names are
// nobody.
func (t *Tx) parties(names ...string) (map[string]uuid.UUID, error) {
	ids := map[string]uuid.UUID{}
	var wanted []string
	for _, name := range names {
		if _, seen := ids[name]; name != "" && !seen {
			ids[name] = uuid.Nil
			wanted = append(wanted, name)
		}
	}
	if len(wanted) == 0 {
		return ids, nil
	}
	rows := make([]partyRow, len(wanted))
	for i, name := range wanted {
		rows[i] = partyRow{ID: NewID(), Name: name}
	}
	if err := t.db.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&rows, rowsAtOnce).Error; err != nil {
		return nil, err
	}
	rows = nil
	err := t.db.Where("name in ?", wanted).Find(&rows).Error
	for _, row := range rows {
		ids[row.Name] = row.ID
	}
	return ids, err
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
		and m.kind in ('gone', 'sold', 'given') and (m.piece_id is not null or m.act_id is not null)))`).Order("name").Find(&rows).Error
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

// Forgotten begins the name of whoever was forgotten; their id follows.
const Forgotten = "somebody forgotten "

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
		join lateral (select m.happened_at as at from movements m where m.workshop_id = p.workshop_id and m.party_id = p.id and (m.piece_id is not null or m.act_id is not null) order by m.happened_at desc limit 1) l on true
		left join (select m.party_id, sum(m.deposit) as deposits from movements m where m.workshop_id = @workshop and m.deposit <> 0 group by m.party_id) d on d.party_id = p.id
		left join (select m.party_id, count(*) as jars from movements m where m.workshop_id = @workshop and m.kind = 'gone' and m.piece_id is not null
			and not exists (select 1 from movements y where y.workshop_id = @workshop and y.piece_id = m.piece_id and y.id > m.id and y.kind in ('gone', 'sold', 'given', 'returned', 'discarded', 'sampled'))
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
