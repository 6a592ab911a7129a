package ledger

import (
	"context"
	"fmt"
	"io"
	"strings"

	"github.com/google/uuid"

	"keencrock/core/making"
	"keencrock/core/stock"
	"keencrock/core/why"
	"keencrock/internal/exchange/paper"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// BatchRecord is the record of a batch for an inspector, as PDF: who, when, from which
// lots, what was weighed, checked and put right, what became of it, and room to sign.
func (s *Service) BatchRecord(ctx context.Context, id uuid.UUID) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, 0, err
	}
	var doc *paper.Document
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
		lots, err := tx.LotsByID(b.Lots())
		if err != nil {
			return err
		}
		made, err := tx.LotsOfMakings(stock.ID(id))
		if err != nil {
			return err
		}
		labels, err := tx.LabelPrints(id)
		if err != nil {
			return err
		}
		holders, err := tx.WhoHas(id)
		if err != nil {
			return err
		}
		samples, err := samplesOf(tx, id)
		if err != nil {
			return err
		}
		causes, err := tx.FoundCauses(uuid.Nil, id)
		if err != nil {
			return err
		}
		doc = record(set, b, lots, made[stock.ID(id)])
		doc.Parts = append(doc.Parts, samples...)
		doc.Parts = append(doc.Parts, foundCauses(set, causes)...)
		doc.Parts = append(doc.Parts, labelled(set, labels), whereJarsAre(holders),
			paper.Part{Heading: "Signed", Sign: []string{"Made by", "Checked by"}})
		return nil
	})
	if err != nil {
		return nil, 0, err
	}
	return file(doc.A4())
}

const stamp = "2006-01-02 15:04"

func record(set *tenant.Settings, b *tenant.Batch, lots map[stock.ID]*stock.Lot, made *stock.Lot) *paper.Document {
	w := set.Workshop
	head := paper.Part{Pairs: [][2]string{{"Batch", b.Row.Code}, {"Good", fmt.Sprintf("%s, formula version %d", b.Row.Name, b.Row.FormulaVersion)}, {"Begun", tenant.At(b.Row.StartedAt, w).Format(stamp) + " by " + b.Row.Person}}}
	say := func(what, is string) { head.Pairs = append(head.Pairs, [2]string{what, is}) }
	if b.Row.EndedAt != nil {
		say("Ended", tenant.At(*b.Row.EndedAt, w).Format(stamp)+", "+b.State.String())
	}
	if made != nil {
		say("Came of it", fmt.Sprintf("%.0f g in %d jars", made.Original, b.Row.Jars))
		if !made.BestBefore.IsZero() {
			say("Best before", made.BestBefore.Format("2006-01-02")+". "+b.Row.BestBeforeReason)
		}
	}
	if hands, known := b.Hands(); known {
		say("Hands", fmt.Sprintf("%.0f min", hands))
	}
	weighed := paper.Table{Heads: []string{"Material", "Lot", "From", "Planned", "Weighed"}, Wide: []float64{0.3, 0.18, 0.26, 0.13, 0.13}, Right: []bool{false, false, false, true, true}}
	for i := range b.Lines {
		l, first := &b.Lines[i], true
		row := func(lot, from, grams string) {
			name, planned := "", ""
			if first {
				name, planned = l.Name, fmt.Sprintf("%.1f g", l.TargetG)
			}
			first = false
			weighed.Rows = append(weighed.Rows, []string{name, lot, from, planned, grams})
		}
		for _, share := range b.InBowl() {
			if share.Line != i {
				continue
			}
			code, from := "", ""
			if lot := lots[share.Lot]; lot != nil {
				code, from = lot.Code, lot.Supplier
			}
			row(code, from, fmt.Sprintf("%.1f g", share.Grams))
		}
		if first {
			row("", "", "left out")
		}
	}
	log := paper.Table{Heads: []string{"When", "Who", "What"}, Wide: []float64{0.2, 0.2, 0.6}}
	for _, e := range b.Events() {
		undone := ""
		if b.IsUndone(e.ID) {
			undone = " (taken back)"
		}
		log.Rows = append(log.Rows, []string{tenant.At(e.At, w).Format(stamp), e.By, saidOfEvent(b, &e) + undone})
	}
	parts := []paper.Part{head, {Heading: "Weighed", Table: weighed}}
	if labels := b.Labels(); len(labels) > 0 {
		parts = append(parts, paper.Part{Heading: "Found by checks", Text: labels})
	}
	var cautions []string
	for _, c := range b.Assessed.Cautions {
		if c.Severity != "note" {
			cautions = append(cautions, c.Text+" "+c.Advice)
		}
	}
	if len(cautions) > 0 {
		parts = append(parts, paper.Part{Heading: "Cautions", Text: cautions})
	}
	parts = append(parts, paper.Part{Heading: "Log, with all that was put right", Table: log})
	return &paper.Document{Title: "Record of batch " + b.Row.Code, Under: oneLine(w.Name, w.Address), Parts: parts,
		Foot: w.Name + ". What a record has to hold is for the authority where you live to say."}
}

// samplesOf are the jars of a batch that were kept to be looked at, with what was seen of them
// and when that ended.
func samplesOf(tx *store.Tx, making uuid.UUID) ([]paper.Part, error) {
	all, err := tenant.Samples(tx)
	if err != nil {
		return nil, err
	}
	table := paper.Table{Heads: []string{"Jar", "Kept on", "Seen", "Looked at until"}, Wide: []float64{0.1, 0.16, 0.54, 0.2}}
	for i := range all {
		one := &all[i]
		if one.MakingID != making {
			continue
		}
		until := "still kept"
		if one.EndedOn != nil {
			until = one.EndedOn.Format("2006-01-02")
		}
		table.Rows = append(table.Rows, []string{fmt.Sprint(one.Number), one.KeptOn.Format("2006-01-02"), one.Says(), until})
	}
	if len(table.Rows) == 0 {
		return nil, nil
	}
	return []paper.Part{{Heading: "Samples", Table: table}}, nil
}

// foundCauses are what was found to be the cause of what went wrong with a batch.
func foundCauses(set *tenant.Settings, rows []store.FoundCause) []paper.Part {
	if len(rows) == 0 {
		return nil
	}
	var text []string
	for i := range rows {
		seen, cause := why.Shipped().Names(rows[i].Seen, rows[i].Cause)
		text = append(text, strings.TrimSpace(fmt.Sprintf("%s: %s: %s. %s", tenant.At(rows[i].FoundAt, set.Workshop).Format(stamp), seen, cause, rows[i].Note)))
	}
	return []paper.Part{{Heading: "Found to be the cause", Text: text}}
}

// saidOfEvent is an event in words.
func saidOfEvent(b *tenant.Batch, e *making.Event) string {
	name := strings.ReplaceAll(string(e.Kind), "-", " ")
	if e.Step != making.NoStep && e.Step < len(b.Steps) {
		name = fmt.Sprintf("%s, step %d, %s", name, e.Step+1, strings.ToLower(b.Steps[e.Step].Kind.Info().Name))
	}
	parts := []string{name}
	if e.Line != making.NoLine && e.Line < len(b.Lines) {
		parts = append(parts, b.Lines[e.Line].Name)
	}
	if e.LotCode != "" {
		parts = append(parts, "lot "+e.LotCode)
	}
	if e.Grams != 0 {
		parts = append(parts, fmt.Sprintf("%.1f g", e.Grams))
	}
	if e.Count != 0 {
		parts = append(parts, fmt.Sprintf("%g", e.Count))
	}
	if e.PH != nil {
		parts = append(parts, fmt.Sprintf("pH %g, by %s", e.PH.PH, e.PH.With))
	}
	for _, t := range []string{e.Answer, e.Text} {
		if t != "" {
			parts = append(parts, "“"+t+"”")
		}
	}
	return strings.Join(parts, ", ")
}

func labelled(set *tenant.Settings, prints []store.LabelPrint) paper.Part {
	p := paper.Part{Heading: "Labels"}
	for i := range prints {
		p.Text = append(p.Text, fmt.Sprintf("%s: printed by %s, in %s.", tenant.At(prints[i].At, set.Workshop).Format(stamp), prints[i].Person, strings.ReplaceAll(prints[i].Languages, ",", ", ")))
	}
	if len(p.Text) == 0 {
		p.Text = []string{"None was printed here."}
	}
	return p
}

func whereJarsAre(holders []store.WhoHas) paper.Part {
	p := paper.Part{Heading: "Who has jars of it"}
	if len(holders) == 0 {
		p.Text = []string{"Nobody: none has left."}
		return p
	}
	p.Table = paper.Table{Heads: []string{"Who", "How to reach them", "Jars", "Numbers"}, Wide: []float64{0.25, 0.35, 0.1, 0.3}, Right: []bool{false, false, true}}
	for _, h := range holders {
		who := h.Party
		if who == "" {
			who = "nobody said"
		}
		p.Table.Rows = append(p.Table.Rows, []string{who, h.Reach, fmt.Sprint(h.Pieces), withWeight(h)})
	}
	return p
}

// withWeight are the numbers of the jars somebody has, and what they have by weight.
func withWeight(h store.WhoHas) string {
	if h.Grams <= 0 {
		return h.Numbers
	}
	return strings.TrimPrefix(fmt.Sprintf("%s, and %.0f g by weight", h.Numbers, h.Grams), ", and ")
}
