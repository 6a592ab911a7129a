package tenant

import (
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/internal/exchange"
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
}

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

// OpenBatches replays every batch that is neither finished nor abandoned, the oldest
// first. Of what they are made by only lines and steps are read.
func OpenBatches(tx *store.Tx, set *Settings) ([]*Batch, error) {
	rows, err := tx.OpenMakings()
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	ids := make([]uuid.UUID, len(rows))
	for i := range rows {
		ids[i] = rows[i].ID
	}
	events, err := tx.Events(ids...)
	if err != nil {
		return nil, err
	}
	out := make([]*Batch, len(rows))
	for i := range rows {
		var parts struct {
			Lines       []MadeLine        `json:"lines"`
			Steps       []api.FormulaStep `json:"steps"`
			DrinksAbove float64           `json:"drinks_above"`
		}
		if err := json.Unmarshal(rows[i].MadeBy, &parts); err != nil {
			return nil, fmt.Errorf("what batch %s is made by: %w", rows[i].Code, err)
		}
		b := &Batch{Set: set, Row: &rows[i], By: MadeBy{Lines: parts.Lines, Steps: parts.Steps, DrinksAbove: parts.DrinksAbove}}
		if b.Batch, err = making.Replay(b.Row.Code, b.By.recipe(set.Workshop.ScaleStepG), events[b.Row.ID]); err != nil {
			return nil, err
		}
		out[i] = b
	}
	return out, nil
}
