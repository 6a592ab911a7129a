package tenant

import (
	"encoding/json"
	"errors"
	"fmt"
	"sync"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// MadeBy is what a batch is made by, as it stood when it began.
type MadeBy struct {
	File        api.FormulaFile   `json:"file"`
	Target      api.Target        `json:"target"`
	Containers  api.Containers    `json:"containers"`
	Lines       []MadeLine        `json:"lines"`
	Steps       []api.FormulaStep `json:"steps,omitempty"`        // their lines are those of the batch
	Pieces      float64           `json:"pieces,omitempty"`       // that are expected
	DrinksAbove float64           `json:"drinks_above,omitempty"` // the humidity, in per cent, from which it drinks water; 0 for none known
	FromVessel  string            `json:"from_vessel,omitempty"`  // by name, of what was drawn from one
	FromKnown   bool              `json:"from_known,omitempty"`   // all that was fed to it is known, with what it cost
	Earlier     bool              `json:"earlier,omitempty"`      // made before the books were begun: its only line is EarlierItem
}

// EarlierItem is what stands for all that went into a batch that was made before the books were begun.
const EarlierItem = "before-the-books"

// MadeLine is what has to be weighed for one line.
type MadeLine struct {
	Item      string  `json:"item"`
	Name      string  `json:"name"`
	Phase     string  `json:"phase,omitempty"`
	Amount    string  `json:"amount,omitempty"`
	Hand      string  `json:"hand,omitempty"`
	TargetG   float64 `json:"target_g"`
	Optional  bool    `json:"optional,omitempty"`
	Unstocked bool    `json:"unstocked,omitempty"`
	Volatile  float64 `json:"volatile,omitempty"`
}

// recipe is what a batch is made by in the words of the core, on a scale that shows
// steps of so many grams.
func (m *MadeBy) recipe(scaleG float64) making.MadeBy {
	out := making.MadeBy{ScaleG: scaleG, Lines: make([]making.Line, len(m.Lines))}
	for i, l := range m.Lines {
		out.Lines[i] = making.Line{Item: l.Item, Name: l.Name, Phase: l.Phase, Amount: l.Amount, Hand: l.Hand, TargetG: l.TargetG,
			Optional: l.Optional, Unstocked: l.Unstocked, VolatileShare: l.Volatile}
	}
	for _, s := range m.Steps {
		if step, ok := exchange.StepIn(s, len(m.Lines), func(string, error) {}); ok {
			out.Steps = append(out.Steps, step)
		}
	}
	return out
}

// StepsOf are the steps of a formula with the lines of a batch: lines says of each
// line of the batch which of the formula it is.
func StepsOf(steps []formula.Step, lines []int) []api.FormulaStep {
	at := map[int]int{}
	for i, of := range lines {
		at[of] = i
	}
	out := exchange.StepFiles(steps)
	for i := range out {
		out[i].Lines = nil
		for _, of := range steps[i].Lines {
			if l, there := at[of]; there {
				out[i].Lines = append(out[i].Lines, l)
			}
		}
	}
	return out
}

// Batch is a batch as it stands: its row, what it is made by, how it was assessed
// and what happened to it.
type Batch struct {
	Set      *Settings
	Row      *store.Making
	By       MadeBy
	Assessed *Snapshot
	*making.Batch
}

// LoadBatch replays a batch.
func LoadBatch(tx *store.Tx, set *Settings, row *store.Making) (*Batch, error) {
	b := &Batch{Set: set, Row: row}
	if err := json.Unmarshal(row.MadeBy, &b.By); err != nil {
		return nil, fmt.Errorf("what batch %s is made by: %w", row.Code, err)
	}
	var err error
	if b.Assessed, err = ReadSnapshot(row.Assessed); err != nil {
		return nil, err
	}
	events, err := tx.Events(row.ID)
	if err != nil {
		return nil, err
	}
	b.Batch, err = making.Replay(row.Code, b.By.recipe(set.Workshop.ScaleStepG), events[row.ID])
	return b, err
}

// Begin begins a batch that has all but its id and code, when it says.
func (s *Settings) Begin(tx *store.Tx, row *store.Making) error {
	day := DayOf(row.StartedAt, s.Workshop)
	n, err := tx.CountMakings(making.CodePrefix(row.Name, day))
	if err != nil {
		return err
	}
	row.ID, row.Code = store.NewID(), making.Code(row.Name, day, n)
	if err := tx.AddMaking(row); err != nil {
		return Explain(err, "batch")
	}
	begun := making.Happening(making.Begun)
	begun.At = row.StartedAt
	_, err = tx.AddEvent(row.ID, begun, nil, row.PersonID, row.StartedAt)
	return err
}

// DrinksAbove is the humidity, in per cent, from which it drinks water; 0 where none is
// known.
func (b *Batch) DrinksAbove() float64 { return b.By.DrinksAbove }

// stepTime is how long hands were at a step, as it is kept with the batch.
type stepTime struct {
	Kind    string  `json:"kind"`
	Minutes float64 `json:"minutes"`
}

// CountWork counts how long hands and stove were at it, and how long it dried, as far as
// that is known.
func (b *Batch) CountWork() {
	heat := b.HeatMinutes()
	b.Row.HandsMin, b.Row.HeatMin, b.Row.DriedH = nil, &heat, nil
	if hours, known := b.DriedHours(); known {
		b.Row.DriedH = &hours
	}
	if hands, known := b.Hands(); known {
		b.Row.HandsMin = &hands
	}
	times := []stepTime{}
	for _, t := range b.StepTimes() {
		times = append(times, stepTime{string(t.Kind), t.Minutes})
	}
	b.Row.StepTimes, _ = json.Marshal(times) // numbers and names, which always go
}

// Refused is what the core refuses, as a problem.
func Refused(err error) error {
	var r *making.Refusal
	if !errors.As(err, &r) {
		return err
	}
	switch r.Code {
	case "batch-closed", "step-done", "undone", "packed":
		return problem.Clash(r.Code, "%s", r.Detail)
	}
	return problem.Unfit(r.Code, "%s", r.Detail).At(r.Field)
}

// openBatches are the open batches that were replayed, by their ids. They are never
// changed, and hold as long as nothing more has happened to them.
type openBatches struct {
	mu sync.Mutex
	of map[uuid.UUID]openBatch
}

type openBatch struct {
	last   int64 // event
	scaleG float64
	batch  *Batch
}

// mostOpen is how many are kept; beyond, all are let go.
const mostOpen = 5000

func (o *openBatches) find(id uuid.UUID, last int64, scaleG float64) (*Batch, bool) {
	o.mu.Lock()
	defer o.mu.Unlock()
	b, there := o.of[id]
	return b.batch, there && b.last == last && b.scaleG == scaleG
}

func (o *openBatches) keep(b *Batch, last int64) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if o.of == nil || len(o.of) >= mostOpen {
		o.of = map[uuid.UUID]openBatch{}
	}
	o.of[b.Row.ID] = openBatch{last, b.Set.Workshop.ScaleStepG, b}
}

// OpenBatches replays every batch that is neither finished nor abandoned, the oldest
// first, to be looked at and not changed. Of what they are made by only lines and
// steps are read, and those to which nothing has happened since are not replayed.
func (h *House) OpenBatches(tx *store.Tx, set *Settings) ([]*Batch, error) {
	rows, err := tx.OpenMakings()
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	out := make([]*Batch, len(rows))
	var anew []uuid.UUID
	for i, row := range rows {
		b, known := h.open.find(row.ID, row.LastEvent, set.Workshop.ScaleStepG)
		if out[i] = b; !known {
			out[i] = nil
			anew = append(anew, row.ID)
		}
	}
	if len(anew) == 0 {
		return out, nil
	}
	replayed, err := replayOpen(tx, set, anew)
	if err != nil {
		return nil, err
	}
	for i, row := range rows {
		if out[i] == nil {
			out[i] = replayed[row.ID]
			h.open.keep(out[i], row.LastEvent)
		}
	}
	return out, nil
}

// replayOpen replays batches for being looked at, by their ids.
func replayOpen(tx *store.Tx, set *Settings, ids []uuid.UUID) (map[uuid.UUID]*Batch, error) {
	rows, err := tx.MakingsMadeBy(ids...)
	if err != nil {
		return nil, err
	}
	events, err := tx.Events(ids...)
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]*Batch{}
	for i := range rows {
		var parts struct {
			Lines       []MadeLine        `json:"lines"`
			Steps       []api.FormulaStep `json:"steps"`
			DrinksAbove float64           `json:"drinks_above"`
		}
		if err := json.Unmarshal(rows[i].MadeBy, &parts); err != nil {
			return nil, fmt.Errorf("what batch %s is made by: %w", rows[i].Code, err)
		}
		rows[i].MadeBy = nil
		b := &Batch{Set: set, Row: &rows[i], By: MadeBy{Lines: parts.Lines, Steps: parts.Steps, DrinksAbove: parts.DrinksAbove}}
		if b.Batch, err = making.Replay(b.Row.Code, b.By.recipe(set.Workshop.ScaleStepG), events[b.Row.ID]); err != nil {
			return nil, err
		}
		out[b.Row.ID] = b
	}
	return out, nil
}
