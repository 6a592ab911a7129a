package store

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/core/making"
	"keencrock/core/stock"
)

// Making is one making of a formula version: a batch. What it is made by, and how
// that was assessed, are snapshots that only the bench reads.
type Making struct {
	WorkshopID       uuid.UUID `gorm:"primaryKey"`
	ID               uuid.UUID `gorm:"primaryKey"`
	Code             string
	Name             string
	Kind             string
	FormulaID        uuid.UUID
	FormulaVersion   int
	StateName        string `gorm:"column:state"`
	PersonID         uuid.UUID
	MadeBy           []byte `gorm:"type:jsonb"`
	Assessed         []byte `gorm:"type:jsonb"`
	Loss             float64
	PlannedG         float64
	UseG             float64
	Jars             int
	EachG            float64
	Cost             decimal.Decimal
	Currency         string
	BestBefore       *time.Time
	BestBeforeReason string
	StartedAt        time.Time
	EndedAt          *time.Time
	HandsMin         *float64 // at the bench; nil where nobody counted them
	StepTimes        []byte   `gorm:"type:jsonb"` // kind and minutes of each step that hands were at; nil where nobody looked
	HeatMin          *float64 // on the stove, of one that has ended
	DriedH           *float64 // until it was dry; nil where that was not weighed
	Person           string   `gorm:"->;-:migration"`
}

// State is how far the batch is.
func (m *Making) State() making.State {
	state, err := making.ParseState(m.StateName)
	if err != nil { // no other is ever kept
		panic(err)
	}
	return state
}

// AnyOpen is the state of whatever is neither finished nor abandoned, in a query.
const AnyOpen = "open"

const isOpen = "state not in ('finished', 'abandoned')"

// MakingQuery says which batches are wanted, newest first.
type MakingQuery struct {
	State        string
	AfterStarted time.Time
	AfterID      uuid.UUID
	Limit        int
}

// listed are the columns that lists show: the snapshots are large.
const listed = "id, code, name, kind, formula_id, formula_version, state, jars, each_g, use_g, cost, currency, best_before, best_before_reason, started_at, ended_at"

var listedOfMakings = "makings." + strings.ReplaceAll(listed, ", ", ", makings.")

// Makings lists one page of batches, without their snapshots.
func (t *Tx) Makings(q MakingQuery) ([]Making, error) {
	db := t.db.Model(&Making{}).Select(listed)
	switch q.State {
	case "":
	case AnyOpen:
		db = db.Where(isOpen)
	default:
		db = db.Where("state = ?", q.State)
	}
	if q.AfterID != uuid.Nil {
		db = db.Where("(started_at, id) < (?, ?)", q.AfterStarted, q.AfterID)
	}
	var makings []Making
	return makings, db.Order("started_at desc, id desc").Limit(q.Limit).Find(&makings).Error
}

// Making returns one batch.
func (t *Tx) Making(id uuid.UUID) (*Making, error) {
	var m Making
	err := t.db.Model(&Making{}).Select("makings.*, p.name as person").
		Joins("join people p on p.workshop_id = makings.workshop_id and p.id = makings.person_id").Where("makings.id = ?", id).Take(&m).Error
	return &m, orNotFound(err)
}

// MakingsByID returns batches by id, without their snapshots.
func (t *Tx) MakingsByID(ids ...stock.ID) (map[stock.ID]*Making, error) {
	byID := map[stock.ID]*Making{}
	if len(ids) == 0 {
		return byID, nil
	}
	var rows []Making
	err := t.db.Model(&Making{}).Select(listed).Where("id in ?", uuids(ids)).Find(&rows).Error
	for i := range rows {
		byID[stock.ID(rows[i].ID)] = &rows[i]
	}
	return byID, err
}

// LockMaking locks a batch against other writers until the transaction ends and
// returns it as it then stands.
func (t *Tx) LockMaking(id uuid.UUID) (*Making, error) {
	var locked []uuid.UUID
	err := t.sql(`select id from makings where workshop_id = @workshop and id = @id for update`, map[string]any{"id": id}).Scan(&locked).Error
	if err != nil {
		return nil, err
	}
	return t.Making(id)
}

// CountMakings counts the batches whose code begins so. Until the transaction
// ends no other one of the workshop gets an answer for that prefix, so that two
// that start at once do not take one code.
func (t *Tx) CountMakings(codePrefix string) (int, error) {
	if err := t.lock("batch code " + codePrefix); err != nil {
		return 0, err
	}
	var n int64
	err := t.db.Model(&Making{}).Where("code like ?", codePrefix+"%").Count(&n).Error
	return int(n), err
}

// AddMaking adds a batch; ErrTaken when its code is.
func (t *Tx) AddMaking(m *Making) error { return orTaken(t.db.Omit("Person").Create(m).Error) }

// OpenMaking is a batch that is neither finished nor abandoned, and the last that
// happened to it.
type OpenMaking struct {
	ID        uuid.UUID
	LastEvent int64
}

// OpenMakings lists the batches that are neither finished nor abandoned, the oldest
// first.
func (t *Tx) OpenMakings() ([]OpenMaking, error) {
	var open []OpenMaking
	return open, t.sql(`select m.id, coalesce(e.id, 0) as last_event from makings m
		left join lateral (select id from events where events.workshop_id = m.workshop_id and events.making_id = m.id order by id desc limit 1) e on true
		where m.workshop_id = @workshop and m.`+isOpen+` order by m.started_at, m.id`, nil).Find(&open).Error
}

// MakingsMadeBy returns batches by id, with what they are made by.
func (t *Tx) MakingsMadeBy(ids ...uuid.UUID) ([]Making, error) {
	var makings []Making
	return makings, t.db.Model(&Making{}).Select(listed+", made_by, planned_g, loss").Where("id in ?", ids).Find(&makings).Error
}

// AssessedMakings are the snapshots of batches, by id.
func (t *Tx) AssessedMakings(ids ...stock.ID) (map[uuid.UUID][]byte, error) {
	of := map[uuid.UUID][]byte{}
	if len(ids) == 0 {
		return of, nil
	}
	var rows []Making
	err := t.db.Model(&Making{}).Select("id, assessed").Where("id in ?", uuids(ids)).Find(&rows).Error
	for i := range rows {
		of[rows[i].ID] = rows[i].Assessed
	}
	return of, err
}

// SaveState keeps how far a batch is, for lists.
func (t *Tx) SaveState(m *Making) error {
	return t.db.Model(&Making{}).Where("id = ?", m.ID).Update("state", m.StateName).Error
}

// SavePacked keeps what is packed of a batch by now.
func (t *Tx) SavePacked(m *Making) error {
	return t.db.Model(&Making{}).Where("id = ?", m.ID).Updates(map[string]any{"jars": m.Jars, "cost": m.Cost, "each_g": m.EachG, "assessed": m.Assessed,
		"best_before": m.BestBefore, "best_before_reason": m.BestBeforeReason}).Error
}

// ReleaseHeld forgets what a batch held of lots.
func (t *Tx) ReleaseHeld(batch uuid.UUID) error {
	return t.db.Where("making_id = ?", batch).Delete(&allocationRow{}).Error
}

// SaveMakingEnd keeps how a batch ended, and forgets what it held.
func (t *Tx) SaveMakingEnd(m *Making) error {
	err := t.db.Model(&Making{}).Where("id = ?", m.ID).Updates(map[string]any{
		"state": m.StateName, "jars": m.Jars, "cost": m.Cost, "each_g": m.EachG, "assessed": m.Assessed,
		"best_before": m.BestBefore, "best_before_reason": m.BestBeforeReason, "ended_at": m.EndedAt,
		"hands_min": m.HandsMin, "heat_min": m.HeatMin, "dried_h": m.DriedH, "step_times": m.StepTimes,
	}).Error
	if err != nil {
		return err
	}
	return t.ReleaseHeld(m.ID)
}

// SaveWork keeps how long hands and stove were at a batch.
func (t *Tx) SaveWork(m *Making) error {
	return t.db.Model(&Making{}).Where("id = ?", m.ID).Updates(map[string]any{"hands_min": m.HandsMin, "heat_min": m.HeatMin, "dried_h": m.DriedH, "step_times": m.StepTimes}).Error
}

// DriedOf are the hours that batches of formulas took to dry, as they were weighed, the
// newest first.
func (t *Tx) DriedOf(formulas ...uuid.UUID) (map[uuid.UUID][]float64, error) {
	of := map[uuid.UUID][]float64{}
	var rows []Making
	err := t.db.Select("formula_id, dried_h").Where("formula_id in ? and dried_h is not null", formulas).Order("ended_at desc, id").Find(&rows).Error
	for _, r := range rows {
		of[r.FormulaID] = append(of[r.FormulaID], *r.DriedH)
	}
	return of, err
}

// StepTimesCounted are what was counted of the steps of the newest batches, as it is kept.
func (t *Tx) StepTimesCounted() ([][]byte, error) {
	var rows []Making
	err := t.db.Select("step_times").Where("state = 'finished' and jsonb_array_length(step_times) > 0").Order("ended_at desc, id").Limit(mostStepTimes).Find(&rows).Error
	out := make([][]byte, len(rows))
	for i := range rows {
		out[i] = rows[i].StepTimes
	}
	return out, err
}

// mostStepTimes is of how many batches the steps count: what took long years ago was done by
// other hands.
const mostStepTimes = 60

// FormulasDried lists the formulas of which a batch was weighed until it was dry.
func (t *Tx) FormulasDried() ([]uuid.UUID, error) {
	var ids []uuid.UUID
	return ids, t.db.Model(&Making{}).Where("dried_h is not null").Distinct().Order("formula_id").Pluck("formula_id", &ids).Error
}

// MakingsWithoutWork lists the batches of before it was kept how long they took, oldest
// first.
func (t *Tx) MakingsWithoutWork() ([]Making, error) {
	var makings []Making
	return makings, t.db.Model(&Making{}).Select("makings.*").Where("ended_at is not null and (heat_min is null or step_times is null)").Order("started_at, id").Find(&makings).Error
}

// SaveAssessed keeps how a batch was assessed.
func (t *Tx) SaveAssessed(id uuid.UUID, assessed []byte) error {
	return t.db.Model(&Making{}).Where("id = ?", id).Update("assessed", assessed).Error
}

// FinishedMakings lists one page of finished batches, newest first, without their
// snapshots: after one of an end and an id.
func (t *Tx) FinishedMakings(p Page) ([]Making, error) {
	db := t.db.Model(&Making{}).Select(listed).Where("state = 'finished'")
	if p.AfterID != uuid.Nil {
		db = db.Where("(ended_at, id) < (?, ?)", p.AfterTime, p.AfterID)
	}
	var makings []Making
	return makings, db.Order("ended_at desc, id desc").Limit(p.Limit).Find(&makings).Error
}

// DatedGoods lists finished batches with something left that are best before a
// day, the nearest date first; at most limit, without their snapshots.
func (t *Tx) DatedGoods(before time.Time, limit int) ([]Making, error) {
	var makings []Making
	return makings, t.db.Model(&Making{}).Select(listedOfMakings).
		Joins("join lots l on l.workshop_id = makings.workshop_id and l.making_id = makings.id").
		Where("makings.state = 'finished' and l.making_id is not null and l.remaining > 0 and l.best_before < ?", before).
		Order("l.best_before, l.id").Limit(limit).Find(&makings).Error
}

// eventRow is something that happened, as it is kept.
type eventRow struct {
	ID         int64 `gorm:"primaryKey"`
	WorkshopID uuid.UUID
	MakingID   *uuid.UUID
	LotID      *uuid.UUID
	VesselID   *uuid.UUID
	Kind       string
	Body       []byte `gorm:"type:jsonb"`
	Key        *uuid.UUID
	Corrects   *int64
	PersonID   uuid.UUID
	HappenedAt time.Time
	RecordedAt time.Time
	Person     string `gorm:"->;-:migration"`
}

// TableName is read by GORM.
func (eventRow) TableName() string { return "events" }

// eventBody is what an event says.
type eventBody struct {
	Line     *int       `json:"line,omitempty"`
	Step     *int       `json:"step,omitempty"`
	Lot      *uuid.UUID `json:"lot,omitempty"`
	Item     string     `json:"item,omitempty"`
	Name     string     `json:"name,omitempty"`
	Volatile float64    `json:"volatile,omitempty"`
	Grams    float64    `json:"grams,omitempty"`
	Count    float64    `json:"count,omitempty"`
	Pieces   int        `json:"pieces,omitempty"`
	Seconds  float64    `json:"seconds,omitempty"`
	Text     string     `json:"text,omitempty"`
	Answer   string     `json:"answer,omitempty"`
	PH       *float64   `json:"ph,omitempty"`
	PHWith   string     `json:"ph_with,omitempty"`
}

func bodyOf(e making.Event) eventBody {
	body := eventBody{Lot: idOrNull(e.Lot), Item: e.Item, Name: e.Name, Volatile: e.Volatile, Grams: e.Grams, Count: e.Count, Pieces: e.Pieces, Seconds: e.Seconds, Text: e.Text, Answer: e.Answer}
	if e.Line != making.NoLine {
		body.Line = &e.Line
	}
	if e.Step != making.NoStep {
		body.Step = &e.Step
	}
	if e.PH != nil {
		body.PH, body.PHWith = &e.PH.PH, e.PH.With
	}
	return body
}

// AddEvent records what happened to a batch, under a key where it has one, and
// returns it with its number; ErrTaken when the key was recorded before. It may
// have happened before it is recorded.
func (t *Tx) AddEvent(batch uuid.UUID, e making.Event, key *uuid.UUID, by uuid.UUID, recorded time.Time) (making.Event, error) {
	content, err := json.Marshal(bodyOf(e))
	if err != nil {
		return e, err
	}
	row := eventRow{MakingID: &batch, Kind: string(e.Kind), Body: content, Key: key, Corrects: orNull(e.Corrects), PersonID: by, HappenedAt: e.At, RecordedAt: recorded}
	if err := orTaken(t.db.Omit("Person").Create(&row).Error); err != nil {
		return e, err
	}
	e.ID = row.ID
	if e.PH == nil {
		return e, nil
	}
	_, err = t.measurePH(measurementRow{MakingID: &batch}, e.PH, by, e.At)
	return e, err
}

// AddLotEvent records what was marked of a lot.
func (t *Tx) AddLotEvent(lot stock.ID, kind, text string, by uuid.UUID, at time.Time) error {
	content, err := json.Marshal(eventBody{Text: text})
	if err != nil {
		return err
	}
	return t.db.Omit("Person").Create(&eventRow{LotID: idOrNull(lot), Kind: kind, Body: content, PersonID: by, HappenedAt: at, RecordedAt: at}).Error
}

// HasEvent reports whether a key was recorded.
func (t *Tx) HasEvent(batch, key uuid.UUID) (bool, error) {
	var n int64
	err := t.db.Model(&eventRow{}).Where("making_id = ? and key = ?", batch, key).Count(&n).Error
	return n > 0, err
}

// Events lists what happened to batches, by batch, in the order recorded.
func (t *Tx) Events(batches ...uuid.UUID) (map[uuid.UUID][]making.Event, error) {
	rows, err := t.db.Model(&eventRow{}).Select("events.id, events.making_id, events.kind, events.body, events.corrects, events.happened_at, p.name").
		Joins("join people p on p.workshop_id = events.workshop_id and p.id = events.person_id").
		Where("events.making_id in ?", batches).Order("events.id").Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	of := map[uuid.UUID][]making.Event{}
	var lots []stock.ID
	for rows.Next() {
		var r eventRow
		if err := rows.Scan(&r.ID, &r.MakingID, &r.Kind, &r.Body, &r.Corrects, &r.HappenedAt, &r.Person); err != nil {
			return nil, err
		}
		e, err := r.event()
		if err != nil {
			return nil, err
		}
		if e.Lot != (stock.ID{}) {
			lots = append(lots, e.Lot)
		}
		of[*r.MakingID] = append(of[*r.MakingID], e)
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	return of, t.nameLots(of, lots)
}

// nameLots gives events the codes of their lots. They are asked for by their ids, and
// not joined by what stands in a body: PostgreSQL may use no index for a join that
// opens documents of rows it may yet have to hide.
func (t *Tx) nameLots(of map[uuid.UUID][]making.Event, lots []stock.ID) error {
	if len(lots) == 0 {
		return nil
	}
	slices.SortFunc(lots, func(a, b stock.ID) int { return bytes.Compare(a[:], b[:]) })
	var named []struct {
		ID   uuid.UUID
		Code string
	}
	if err := t.db.Model(&lotRow{}).Select("id, code").Where("id in ?", uuids(slices.Compact(lots))).Find(&named).Error; err != nil {
		return err
	}
	codes := make(map[stock.ID]string, len(named))
	for _, l := range named {
		codes[stock.ID(l.ID)] = l.Code
	}
	for _, events := range of {
		for i := range events {
			events[i].LotCode = codes[events[i].Lot]
		}
	}
	return nil
}

func (r *eventRow) event() (making.Event, error) {
	var body eventBody
	if err := json.Unmarshal(r.Body, &body); err != nil {
		return making.Event{}, err
	}
	e := making.Happening(making.EventKind(r.Kind))
	e.ID, e.By, e.At = r.ID, r.Person, r.HappenedAt
	e.Item, e.Name, e.Volatile, e.Grams, e.Count, e.Pieces, e.Seconds, e.Text, e.Answer = body.Item, body.Name, body.Volatile, body.Grams, body.Count, body.Pieces, body.Seconds, body.Text, body.Answer
	if body.Line != nil {
		e.Line = *body.Line
	}
	if body.Step != nil {
		e.Step = *body.Step
	}
	if body.Lot != nil {
		e.Lot = stock.ID(*body.Lot)
	}
	if body.PH != nil {
		e.PH = &stock.Measured{PH: *body.PH, With: body.PHWith}
	}
	if r.Corrects != nil {
		e.Corrects = *r.Corrects
	}
	return e, nil
}

// allocationRow is what a line of an open batch holds of a lot.
type allocationRow struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	MakingID   uuid.UUID `gorm:"primaryKey"`
	Line       int       `gorm:"primaryKey"`
	LotID      uuid.UUID `gorm:"primaryKey"`
	Quantity   float64
}

// TableName is read by GORM.
func (allocationRow) TableName() string { return "allocations" }

// Hold keeps what a line of an open batch holds of a lot.
func (t *Tx) Hold(batch uuid.UUID, line int, lot stock.ID, quantity float64) error {
	row := allocationRow{MakingID: batch, Line: line, LotID: uuid.UUID(lot), Quantity: quantity}
	return t.db.Clauses(onConflictUpdate([]string{"workshop_id", "making_id", "line", "lot_id"}, "quantity")).Create(&row).Error
}

// GoodMade is what the newest making of an item says of it.
type GoodMade struct {
	Item     string
	Name     string
	Assessed []byte
}

// Goods lists the goods that were made here, each as it was made last.
func (t *Tx) Goods() ([]GoodMade, error) {
	var goods []GoodMade
	return goods, t.sql(`select i.id as item, i.name, m.assessed
		from items i
		join lateral (select assessed from makings m where m.workshop_id = i.workshop_id and m.state = 'finished'
			and m.formula_id = substr(i.id, 6)::uuid order by m.ended_at desc limit 1) m on true
		where i.workshop_id = @workshop and i.kind in ('half-made', 'good') order by i.id`, nil).Find(&goods).Error
}

// MakingsWithoutSnapshot lists the batches of before there were snapshots of how
// one was assessed, oldest first.
func (t *Tx) MakingsWithoutSnapshot() ([]Making, error) {
	var makings []Making
	return makings, t.db.Model(&Making{}).Select("makings.*").Where("assessed is null").Order("started_at, id").Find(&makings).Error
}
