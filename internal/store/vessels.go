package store

import (
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"keencrock/core/vessel"
)

// Vessel is a vat that is fed and drawn.
type Vessel struct {
	WorkshopID    uuid.UUID `gorm:"primaryKey"`
	ID            uuid.UUID `gorm:"primaryKey"`
	Name          string
	CapacityML    float64 `gorm:"column:capacity_ml"`
	StirEveryDays float64
	FirstDrawDays float64
	FormulaID     *uuid.UUID // what it makes
	RestDays      float64    // how long what is drawn rests
	Note          string
	PutAwayAt     *time.Time
}

// Plan is how it is kept.
func (v *Vessel) Plan() vessel.Plan {
	days := func(n float64) time.Duration { return time.Duration(n * 24 * float64(time.Hour)) }
	return vessel.Plan{CapacityML: v.CapacityML, StirEvery: days(v.StirEveryDays), FirstDraw: days(v.FirstDrawDays)}
}

// VesselEvent is something that was done to a vessel, with who did it.
type VesselEvent struct {
	vessel.Event
	ID     int64
	By     string
	Text   string
	Batch  *uuid.UUID // that what was drawn became
	From   []FedFrom  // the lots that it was fed from
	Given  bool       // what is not said to be from a lot cost nothing
	Undone bool       // taken back by another
}

// FedFrom is what of a lot was fed to a vessel.
type FedFrom struct {
	Lot   uuid.UUID `json:"lot"`
	Grams float64   `json:"grams"`
	As    string    `json:"as"` // liquid, sugar or peel
}

// IsKnown reports whether it is known what a feed is from: lots, or what cost nothing.
// What was fed before vats stood in the books is not.
func (e *VesselEvent) IsKnown() bool {
	return e.Given || len(e.From) > 0 || e.SugarG == 0 && e.PeelG == 0
}

// Happened are the events that count, in the order they happened.
func Happened(events []VesselEvent) []vessel.Event {
	var out []vessel.Event
	for _, e := range events {
		if !e.Undone {
			out = append(out, e.Event)
		}
	}
	slices.SortStableFunc(out, func(a, b vessel.Event) int { return a.At.Compare(b.At) })
	return out
}

// undoneKind is the kind of an event that takes another back.
const undoneKind = "undone"

// AddVessel adds a vessel.
func (t *Tx) AddVessel(v *Vessel) error { return t.db.Create(v).Error }

// Vessels lists the vessels that are in use, by name.
func (t *Tx) Vessels() ([]Vessel, error) {
	var vessels []Vessel
	return vessels, t.db.Where("put_away_at is null").Order("name, id").Find(&vessels).Error
}

// LockVessel returns a vessel, locked against other writers until the transaction
// ends.
func (t *Tx) LockVessel(id uuid.UUID) (*Vessel, error) {
	var locked []uuid.UUID
	err := t.sql(`select id from vessels where workshop_id = @workshop and id = @id for update`, map[string]any{"id": id}).Scan(&locked).Error
	if err != nil {
		return nil, err
	}
	return t.Vessel(id)
}

// Vessel returns one vessel, in use or not.
func (t *Tx) Vessel(id uuid.UUID) (*Vessel, error) {
	var v Vessel
	return &v, orNotFound(t.db.Where("id = ?", id).Take(&v).Error)
}

// SaveVessel keeps how a vessel is kept, and whether it is in use.
func (t *Tx) SaveVessel(v *Vessel) error {
	return t.db.Model(&Vessel{}).Where("id = ?", v.ID).Updates(map[string]any{"name": v.Name, "capacity_ml": v.CapacityML,
		"stir_every_days": v.StirEveryDays, "first_draw_days": v.FirstDrawDays, "formula_id": v.FormulaID, "rest_days": v.RestDays, "note": v.Note, "put_away_at": v.PutAwayAt}).Error
}

// vesselBody is what an event of a vessel says.
type vesselBody struct {
	ML     float64 `json:"ml,omitempty"`
	SugarG float64 `json:"sugar_g,omitempty"`
	PeelG  float64 `json:"peel_g,omitempty"`
	Text   string  `json:"text,omitempty"`

	Batch *uuid.UUID `json:"batch,omitempty"`
	From  []FedFrom  `json:"from,omitempty"`
	Given bool       `json:"given,omitempty"`
}

// AddVesselEvent records what was done to a vessel, and returns its id.
func (t *Tx) AddVesselEvent(id uuid.UUID, e VesselEvent, by uuid.UUID, recorded time.Time) (int64, error) {
	return t.addVesselRow(id, e.Kind.String(), vesselBody{e.ML, e.SugarG, e.PeelG, e.Text, e.Batch, e.From, e.Given}, nil, e.At, by, recorded)
}

// UndoVesselEvent records that an event is taken back.
func (t *Tx) UndoVesselEvent(id uuid.UUID, event int64, by uuid.UUID, at time.Time) error {
	_, err := t.addVesselRow(id, undoneKind, vesselBody{}, &event, at, by, at)
	return err
}

func (t *Tx) addVesselRow(id uuid.UUID, kind string, body vesselBody, corrects *int64, at time.Time, by uuid.UUID, recorded time.Time) (int64, error) {
	content, err := json.Marshal(body)
	if err != nil {
		return 0, err
	}
	row := eventRow{VesselID: &id, Kind: kind, Body: content, Corrects: corrects, PersonID: by, HappenedAt: at, RecordedAt: recorded}
	err = t.db.Omit("Person").Create(&row).Error
	return row.ID, err
}

// VesselEvents lists what was done to vessels, by vessel, in the order recorded.
func (t *Tx) VesselEvents(ids ...uuid.UUID) (map[uuid.UUID][]VesselEvent, error) {
	of := map[uuid.UUID][]VesselEvent{}
	if len(ids) == 0 {
		return of, nil
	}
	var rows []eventRow
	err := t.db.Model(&eventRow{}).Select("events.*, p.name as person").
		Joins("join people p on p.workshop_id = events.workshop_id and p.id = events.person_id").
		Where("events.vessel_id in ?", ids).Order("events.id").Find(&rows).Error
	if err != nil {
		return nil, err
	}
	undone := map[int64]bool{}
	for _, r := range rows {
		if r.Kind == undoneKind && r.Corrects != nil {
			undone[*r.Corrects] = true
		}
	}
	for _, r := range rows {
		if r.Kind == undoneKind {
			continue
		}
		kind, err := vessel.ParseKind(r.Kind)
		if err != nil {
			return nil, err
		}
		var body vesselBody
		if err := json.Unmarshal(r.Body, &body); err != nil {
			return nil, fmt.Errorf("event %d: %w", r.ID, err)
		}
		of[*r.VesselID] = append(of[*r.VesselID], VesselEvent{ID: r.ID, By: r.Person, Text: body.Text, Batch: body.Batch, From: body.From, Given: body.Given, Undone: undone[r.ID],
			Event: vessel.Event{Kind: kind, At: r.HappenedAt, ML: body.ML, SugarG: body.SugarG, PeelG: body.PeelG}})
	}
	return of, nil
}
