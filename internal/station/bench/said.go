package bench

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/listener"
	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// ReadSaid says what is said at the bench means for a batch, each sentence with the call
// that keeps it. Nothing is stored.
func (s *Service) ReadSaid(ctx context.Context, id uuid.UUID, text string) (*api.BenchSaid, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := &api.BenchSaid{Meanings: []api.BenchMeaning{}}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		row, err := tx.Making(id)
		if err != nil {
			return tenant.Explain(err, "batch")
		}
		b, err := tenant.LoadBatch(tx, set, row)
		if err != nil {
			return err
		}
		lines := make([]*material.Material, len(b.Lines))
		for i := range b.Lines {
			lines[i], _ = set.Materials.Find(b.Lines[i].Item)
		}
		heard, err := listener.ReadBench(text, lines, set.Materials)
		if err != nil {
			return problem.TooLarge("too-long", "%s", exchange.Sentence(err))
		}
		out.Words = exchange.SaidWords(heard.Text, heard.Words)
		for i := range heard.Happenings {
			out.Meanings = append(out.Meanings, meaning(b, &heard.Happenings[i]))
		}
		return nil
	})
	return out, err
}

// meaning is what a happening is of a batch, and the call that keeps it.
func meaning(b *tenant.Batch, h *listener.Happening) api.BenchMeaning {
	note := api.BenchMeaning{Says: "A remark in the log.", Note: api.BatchNote{Text: h.Text}}
	step, at := b.Step()
	act := func(kind api.BatchActKind, says string, args ...any) api.BenchMeaning {
		m := api.BenchMeaning{Says: fmt.Sprintf(says, args...), Act: api.BatchAct{Kind: kind}}
		if at {
			m.Act.Step = &step
		}
		return m
	}
	switch h.Kind {
	case listener.Corrected:
		return correction(b, h)
	case listener.Added:
		return added(b, h)
	case listener.LeftOut:
		if h.Line < 0 {
			note.Says = fmt.Sprintf("“%s”: that is not in this batch, so it is a remark in the log.", h.Text)
			return note
		}
		return api.BenchMeaning{Says: fmt.Sprintf("%s is left out.", b.Lines[h.Line].Name), LeaveOut: api.LeaveOut{Line: h.Line, Out: true}}
	case listener.Done:
		if !at {
			return note
		}
		m := act("step-done", "%s is done", stepName(b, step))
		m.Act.Text = h.Text
		if !h.For.IsZero() {
			m.Says += ", after " + h.For.String()
		}
		m.Says += "."
		return m
	case listener.Passed:
		if !at {
			return note
		}
		return act("step-passed", "%s is passed over.", stepName(b, step))
	case listener.Stirred:
		if b.State != making.Standing {
			return note
		}
		return act("stirred", "It was stirred.")
	case listener.Counted:
		m := act("pieces-counted", "%d pieces.", h.Count)
		m.Act.Count = h.Count
		return m
	case listener.Broke:
		m := act("pieces-broke", "%d pieces broke.", h.Count)
		m.Act.Count, m.Act.Text = h.Count, h.Text
		return m
	case listener.Measured:
		with := api.MeasuredPhWith("strip")
		if h.Meter {
			with = "meter"
		}
		return api.BenchMeaning{Says: fmt.Sprintf("pH %g, with a %s.", h.PH, with), Measure: api.MeasuredPh{Ph: h.PH, With: with}}
	}
	return note
}

// added is something more that goes in; how much has to be a figure.
func added(b *tenant.Batch, h *listener.Happening) api.BenchMeaning {
	name := material.InSentence(h.Material.Name)
	if h.Amount.Open() != quantity.NotOpen {
		return api.BenchMeaning{Says: fmt.Sprintf("More %s.", name), Question: fmt.Sprintf("How much %s? Say it such as “a teaspoon” or “10 g”.", name)}
	}
	in := api.Addition{Material: h.Material.ID, Amount: h.Amount.String(), Why: h.Text}
	f, _ := exchange.ToFormula(&b.By.File)
	add, err := readAddition(b.Set, f.Measures, in)
	if err != nil {
		return api.BenchMeaning{Says: fmt.Sprintf("More %s.", name), Question: exchange.Sentence(err)}
	}
	return api.BenchMeaning{Says: fmt.Sprintf("%s more %s: %s g, to be weighed from its lot.", h.Amount, name, quantity.FormatFigures(add.grams, 3)), Add: in}
}

// correction puts the last weighing right, or that of the line that was named.
func correction(b *tenant.Batch, h *listener.Happening) api.BenchMeaning {
	seq, e := lastWeighing(b, h.Line)
	if e == nil {
		return api.BenchMeaning{Says: "A remark in the log: nothing was weighed that it could put right.", Note: api.BatchNote{Text: h.Text}}
	}
	name := material.InSentence(b.Lines[e.Line].Name)
	was := weighedNow(b, e)
	grams, ok := correctedGrams(b, e.Line, was, h)
	if !ok {
		return api.BenchMeaning{Says: fmt.Sprintf("The weighing of %s, %s g, is put right.", name, quantity.FormatFigures(was, 4)), Question: fmt.Sprintf("To how many grams of %s?", name)}
	}
	return api.BenchMeaning{Says: fmt.Sprintf("%s g of %s, not %s g.", quantity.FormatFigures(grams, 4), name, quantity.FormatFigures(was, 4)), Correct: api.BatchCorrection{Event: seq, Grams: stock.Round(grams)},
		UndoCorrect: api.BatchCorrection{Event: seq, Grams: stock.Round(was)}}
}

// lastWeighing is the last thing that was weighed, of a line where one is named; its number
// in the log.
func lastWeighing(b *tenant.Batch, line int) (seq int, e *making.Event) {
	all := b.Events()
	taken := map[int64]bool{}
	for i := range all {
		if all[i].Kind == making.Undone {
			taken[all[i].Corrects] = true
		}
	}
	for i := len(all) - 1; i >= 0; i-- {
		if e := &all[i]; e.Kind == making.Weighed && !taken[e.ID] && (line < 0 || e.Line == line) {
			return i + 1, e
		}
	}
	return 0, nil
}

// weighedNow is what a weighing counts as, after what was put right of it.
func weighedNow(b *tenant.Batch, e *making.Event) float64 {
	grams := e.Grams
	for _, o := range b.Events() {
		if o.Kind == making.Amended && o.Corrects == e.ID {
			grams = o.Grams
		}
	}
	return grams
}

// near reports whether two figures are apart by no more than a factor. How near is meant to be near is ours, from memory:
// what is meant is shown before it is kept, and can be taken back.
func near(a, b, factor float64) bool { return a > 0 && b > 0 && a <= b*factor && b <= a*factor }

// correctedGrams is what was weighed really: a mass as it was said, spoons and cups by the
// material, and a bare number by what it stands instead of: “three, not two” is half as
// much again.
func correctedGrams(b *tenant.Batch, line int, was float64, h *listener.Happening) (float64, bool) {
	if g, ok := h.Amount.MassOnly(); ok {
		return g.Value, true
	}
	if n, ok := h.Amount.Pieces(); ok {
		if of, said := h.Instead.Pieces(); h.Amount.Unit() == quantity.Bare && n.Low == n.High && (h.Instead.IsZero() && near(n.Value, was, 2) || said && near(of.Value, was, 1.05)) { // “soda 505”, “no, 210” of 200 g: grams are meant
			return n.Value, true
		}
		if o, ok := h.Instead.Pieces(); ok && o.Value > 0 && n.Low == n.High {
			return was * n.Value / o.Value, true
		}
		if o, ok := h.Instead.MassOnly(); ok && o.Value > 0 { // “300, not 200 g”
			if with, fits := h.Amount.InUnitOf(h.Instead); fits {
				g, ok := with.MassOnly()
				return g.Value, ok
			}
		}
		return 0, false
	}
	m, err := b.Set.Materials.Find(b.Lines[line].Item)
	if err != nil {
		return 0, false
	}
	f, _ := exchange.ToFormula(&b.By.File)
	g, err := h.Amount.Grams(m.Handling(f.Measures))
	return g.Value, err == nil && g.Value > 0
}
