package bench

import (
	"context"
	"encoding/json"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/keeping"
	"keencrock/core/making"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// BringJars brings in jars that were there before the books were begun, a row each: a batch
// of their good on the day they were made, of which no more is known than that.
func (s *Service) BringJars(ctx context.Context, in *api.JarRows) (*api.RowsTaken, error) {
	var set *tenant.Settings
	var names map[uuid.UUID]string
	return s.BringIn(ctx, "pantry", in.Take, len(in.Rows), func(tx *store.Tx, a tenant.Actor, i int) (int, error) {
		r := &in.Rows[i]
		if i == 0 {
			var err error
			if set, err = s.Settings(tx); err != nil {
				return r.Row, err
			}
			if names, err = tx.FormulaNames(); err != nil {
				return r.Row, err
			}
		}
		j, err := jarsOfRow(tx, r, set, names)
		if err != nil {
			return r.Row, err
		}
		return r.Row, s.putJars(tx, a, j)
	})
}

// earlierJars are jars that were made before the books were begun.
type earlierJars struct {
	set        *tenant.Settings // as on the day they were made
	of         *api.StoredFormula
	assessed   *tenant.Snapshot
	jars       int
	eachG      float64
	made       time.Time // a day
	bestBefore time.Time // a day; zero to reckon it
	costEach   decimal.Decimal
	costKnown  bool
	note       string
}

// mostJars and mostInJarG are how many jars a row may have, and how much each may hold.
const (
	mostJars   = 10_000
	mostInJarG = 100_000
)

func jarsOfRow(tx *store.Tx, r *api.JarRow, set *tenant.Settings, names map[uuid.UUID]string) (*earlierJars, error) {
	j := &earlierJars{note: strings.TrimSpace(r.Note)}
	good := strings.TrimSpace(r.Good)
	id, known := tenant.FormulaNamed(names, good)
	if !known {
		return nil, problem.Unfit("unknown-good", "There is no good called “%s”: bring its formula first.", good).At("good")
	}
	var err error
	if j.of, err = tenant.StoredFormula(tx, id, 0); err != nil {
		return nil, err
	}
	if strings.TrimSpace(r.Jars) == "" {
		return nil, problem.Unfit("bad-value", "How many jars are they?").At("jars")
	}
	if j.jars, err = tenant.WholeNumber(r.Jars, "jars", 1, mostJars); err != nil {
		return nil, err
	}
	if j.made, err = sheet.Day(r.Made, false); err != nil {
		return nil, problem.Unfit("bad-value", "On which day was it made? %v.", err).At("made")
	}
	if j.made.After(set.Today) {
		return nil, problem.Unfit("bad-value", "%s is still to come.", j.made.Format(time.DateOnly)).At("made")
	}
	if strings.TrimSpace(r.BestBefore) != "" {
		if j.bestBefore, err = sheet.Day(r.BestBefore, false); err != nil {
			return nil, problem.Unfit("bad-value", "%v.", err).At("best_before")
		}
		if !j.bestBefore.After(j.made) {
			return nil, problem.Unfit("bad-value", "That is no day after it was made.").At("best_before")
		}
	}
	if text := strings.Replace(strings.TrimSpace(r.Cost), ",", ".", 1); text != "" {
		if j.costEach, err = decimal.NewFromString(text); err != nil || j.costEach.IsNegative() || j.costEach.GreaterThan(decimal.NewFromInt(100_000)) {
			return nil, problem.Unfit("bad-value", "“%s” is no amount of money.", r.Cost).At("cost")
		}
		j.costKnown = true
	}
	then := *set
	then.Today = j.made
	j.set = &then
	j.assessed = tenant.AssessFile(&j.of.File, j.set, nil)
	j.assessed.MadeOf = tenant.PlannedMakeUp(&j.of.File, j.set)
	return j, j.hold(r.Amount)
}

// hold reads how much one of the jars holds: a weight, or a volume at the density of the good.
func (j *earlierJars) hold(text string) error {
	a, err := quantity.Parse(strings.TrimSpace(text))
	if err != nil {
		return problem.Unfit("bad-value", "“%s” is no amount: say it with its unit, as “500 g”.", text).At("amount")
	}
	if g, ok := a.MassOnly(); ok {
		j.eachG = stock.Round(g.Value)
	} else if ml, ok := a.Millilitres(quantity.Handling{Measures: j.set.Measures}); ok && j.assessed.Density.Value > 0 {
		j.eachG = stock.Round(ml.Value * j.assessed.Density.Value)
	}
	if j.eachG <= 0 || j.eachG > mostInJarG {
		return problem.Unfit("bad-value", "“%s” is no weight or volume that a jar holds.", text).At("amount")
	}
	return nil
}

// putJars makes the batch that the jars are of, and the jars.
func (s *Service) putJars(tx *store.Tx, a tenant.Actor, j *earlierJars) error {
	grams := stock.Round(j.eachG * float64(j.jars))
	cost := j.costEach.Mul(decimal.NewFromInt(int64(j.jars))).Round(2)
	at := tenant.NoonOf(j.made, j.set.Workshop)
	if now := s.Now(); at.After(now) { // made this morning
		at = now
	}
	limit, _ := keeping.BestBefore(j.made, j.assessed.Class.Keeping(), nil)
	if !j.bestBefore.IsZero() {
		limit = keeping.Limit{Date: j.bestBefore, Reason: "As it was said when it was brought in."}
	}
	by := tenant.MadeBy{File: j.of.File, Earlier: true, Steps: exchange.StepFiles([]formula.Step{{Kind: formula.Weigh}, {Kind: formula.Fill}}),
		Lines: []tenant.MadeLine{{Item: tenant.EarlierItem, Name: "Made before the books were begun", TargetG: grams, Unstocked: true}}}
	row := &store.Making{Name: j.of.File.Name, Kind: j.of.File.Kind, FormulaID: j.of.Id, FormulaVersion: j.of.Version, StateName: making.Weighing.String(),
		PlannedG: grams, EachG: j.eachG, Jars: j.jars, Cost: cost, Currency: j.set.Workshop.Currency, PersonID: a.Person, StartedAt: at, EndedAt: &at,
		BestBefore: &limit.Date, BestBeforeReason: limit.Reason}
	var err error
	if row.MadeBy, err = json.Marshal(by); err != nil {
		return err
	}
	if row.Assessed, err = json.Marshal(j.assessed); err != nil {
		return err
	}
	if err := j.set.Begin(tx, row); err != nil {
		return err
	}
	weighed, packed, done := making.Happening(making.Weighed), making.Happening(making.Packed), making.Happening(making.Completed)
	weighed.Line, weighed.Grams = 0, grams
	packed.Count, packed.Grams = float64(j.jars), j.eachG
	done.Text = j.note
	for _, e := range []making.Event{weighed, packed, done} {
		e.At = at
		if _, err := tx.AddEvent(row.ID, e, nil, a.Person, s.Now()); err != nil {
			return err
		}
	}
	b, err := tenant.LoadBatch(tx, j.set, row)
	if err != nil {
		return err
	}
	row.StateName = b.State.String()
	if err := tx.SaveMakingEnd(row); err != nil {
		return err
	}
	pieces, err := filled(0, j.jars, j.eachG, cost)
	if err != nil {
		return err
	}
	lot, err := madeLot(tx, b, stock.Good, grams, cost, s)
	if err != nil {
		return err
	}
	if err := tx.AddMadeLot(lot, pieces, a.Person, at); err != nil {
		return err
	}
	if !j.costKnown {
		if err := tx.NoteUnpriced(lot.ID, []string{tenant.EarlierItem}); err != nil {
			return err
		}
	}
	return tx.StampLibrary()
}
