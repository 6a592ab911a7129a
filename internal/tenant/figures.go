package tenant

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/learned"
	"keencrock/core/listener"
	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// LearnedFigure is a figure of a workshop's own, and what it was made of.
type LearnedFigure struct {
	learned.Figure
	Measured []store.Measuring // also those that were taken back, by time
	// Said is what was said of it once, without measuring it anew: it stands as it is, and
	// counts as one measurement as soon as there are others.
	Said    float64
	SaidAs  string
	AsUsual bool // it is not to be learned
}

// Counts reports whether the figure is used in place of what is usual.
func (f *LearnedFigure) Counts() bool { return !f.AsUsual && f.Count > 0 }

// From says what it was made of, in a few words.
func (f *LearnedFigure) From() string {
	switch last := f.lastSaid(); {
	case f.Count > 1:
		return fmt.Sprintf("%d measurings, the last %s", f.Count, last)
	default:
		return last
	}
}

// lastSaid is what was said last of those that count.
func (f *LearnedFigure) lastSaid() string {
	for _, m := range slices.Backward(f.Measured) {
		if m.TakenBackAt == nil {
			return m.Said
		}
	}
	return f.SaidAs
}

// learn makes the workshop's own figures of what was measured and said, and a library that
// has them.
func (l *Library) learn(tx *store.Tx) error {
	measured, err := tx.Measurings()
	if err != nil {
		return err
	}
	usual, err := tx.FiguresAsUsual()
	if err != nil {
		return err
	}
	l.Learned = l.learnedOf(measured, usual)
	var own []material.Material
	for key, f := range l.Learned {
		m, err := l.Materials.Find(key.Of)
		if !f.Counts() || key.Kind == learned.Size || err != nil { // err: a material that is no longer shipped
			continue
		}
		figure := material.Figure{Range: f.Range, Source: material.CustomSource}
		at := slices.IndexFunc(own, func(o material.Material) bool { return o.ID == m.ID })
		if at < 0 {
			own, at = append(own, *m), len(own)
		}
		if key.Kind == learned.Density {
			own[at].Density = figure
			continue
		}
		own[at].Piece = figure
		own[at].PieceUnit = cmp.Or(own[at].PieceUnit, "piece")
	}
	l.takeSizes()
	if all, err := l.Materials.With(own...); err == nil {
		l.Materials = all
		return nil
	}
	for _, m := range own { // one that does not hold leaves what is shipped
		if with, err := l.Materials.With(m); err == nil {
			l.Materials = with
		}
	}
	return nil
}

// takeSizes takes the sizes that were measured in place of those that were said.
func (l *Library) takeSizes() {
	for key, f := range l.Learned {
		unit, ok := quantity.ParseUnit(key.Of)
		if key.Kind != learned.Size || !ok {
			continue
		}
		if l.Sizes == nil {
			l.Sizes = &quantity.Sizes{}
		}
		l.Sizes[unit] = quantity.Range{}
		if f.Counts() {
			l.Sizes[unit] = f.Range
		}
	}
}

// learnedOf are the figures of measurements and of what was said.
func (l *Library) learnedOf(measured []store.Measuring, usual []store.FigureAsUsual) map[learned.Key]LearnedFigure {
	out := map[learned.Key]LearnedFigure{}
	for _, m := range measured {
		key := learned.Key{Kind: learned.Kind(m.Kind), Of: m.Subject}
		f := out[key]
		f.Measured = append(f.Measured, m)
		out[key] = f
	}
	said := func(kind learned.Kind, of string, value float64, as string) {
		if value > 0 {
			key := learned.Key{Kind: kind, Of: of}
			f := out[key]
			f.Said, f.SaidAs = value, as
			out[key] = f
		}
	}
	for id, row := range l.Figures {
		said(learned.Density, id, row.DensityValue, row.Weighed)
		said(learned.Piece, id, row.PieceG, "1 piece = "+quantity.FormatFigures(row.PieceG, 4)+" g")
	}
	if l.Sizes != nil {
		for u, size := range l.Sizes {
			said(learned.Size, quantity.Unit(u).String(), size.Value, fmt.Sprintf("1 %s = %s", quantity.Unit(u), quantity.FormatFigures(size.Value, 4)))
		}
	}
	for key, f := range out {
		f.Figure = l.figure(key, &f)
		f.AsUsual = leftAsUsual(usual, key)
		out[key] = f
	}
	return out
}

func leftAsUsual(usual []store.FigureAsUsual, key learned.Key) bool {
	return slices.ContainsFunc(usual, func(u store.FigureAsUsual) bool { return u.Kind == string(key.Kind) && u.Subject == key.Of })
}

// figure is what measurements and what was said make of a figure.
func (l *Library) figure(key learned.Key, f *LearnedFigure) learned.Figure {
	var values []float64
	for _, m := range f.Measured {
		if m.TakenBackAt == nil {
			values = append(values, m.Value)
		}
	}
	usual := l.usual(key)
	if len(values) == 0 && f.Said > 0 { // as it was said
		return learned.Figure{Range: quantity.Exactly(f.Said), Usual: usual, Count: 1, Share: 1}
	}
	if f.Said > 0 {
		values = append(values, f.Said)
	}
	return learned.Learn(usual, values, key.Repeat())
}

// usual is what a figure is without any measuring here; zero where nothing is.
func (l *Library) usual(key learned.Key) quantity.Range {
	if key.Kind == learned.Size {
		if unit, ok := quantity.ParseUnit(key.Of); ok {
			return unit.Usual()
		}
		return quantity.Range{}
	}
	m, err := l.Materials.Find(key.Of)
	switch {
	case err != nil:
		return quantity.Range{}
	case key.Kind == learned.Piece:
		return m.Piece.Range
	}
	return m.Density.Range
}

// mostMeasurings of one figure are kept.
const mostMeasurings = 200

// TakeMeasuring keeps a measuring as it was said: “a cup of washing soda weighs 243 g”. Its
// refusals stand in the field given.
func (s *Settings) TakeMeasuring(tx *store.Tx, a Actor, said, field string, at time.Time) (learned.Key, error) {
	refuse := func(err error) error { return problem.Unfit("bad-amount", "%s", exchange.Sentence(err)).At(field) }
	read, err := listener.ReadMeasuring(said, s.Materials)
	if err != nil {
		var unread *quantity.ParseError
		if errors.As(err, &unread) {
			p := exchange.FieldProblem(field, err)
			return learned.Key{}, &p
		}
		return learned.Key{}, refuse(err)
	}
	return s.keepMeasuring(tx, a, said, read, at, refuse)
}

func (s *Settings) keepMeasuring(tx *store.Tx, a Actor, said string, read *listener.Measuring, at time.Time, refuse func(error) error) (learned.Key, error) {
	h := quantity.Handling{Measures: s.Measures}
	if read.Of != nil {
		h = read.Of.Handling(s.Measures)
	}
	m, err := learned.Measure(read.Measure, read.Of, read.Is, h)
	if err != nil {
		return m.Key, refuse(err)
	}
	n, err := tx.CountMeasurings(string(m.Kind), m.Of)
	if err != nil {
		return m.Key, err
	}
	if n >= mostMeasurings {
		return m.Key, problem.Clash("too-many", "%d measurings of it are kept: that decides it.", n)
	}
	return m.Key, tx.AddMeasuring(&store.Measuring{ID: store.NewID(), Kind: string(m.Kind), Subject: m.Of, Said: said, Value: m.Value, PersonID: a.Person, MeasuredAt: at})
}

// TakeWeighed keeps what a measure of a material was weighed at.
func (s *Settings) TakeWeighed(tx *store.Tx, a Actor, m *material.Material, measure string, grams float64, at time.Time) error {
	refuse := func(err error) error { return problem.Unfit("bad-amount", "%s", err).At("weighed") }
	amount, err := quantity.Parse(strings.TrimSpace(measure))
	if err != nil {
		return problem.Unfit("bad-amount", "The measure: %v.", err).At("weighed")
	}
	is, err := quantity.Parse(fmt.Sprintf("%g g", grams))
	if err != nil {
		return refuse(err)
	}
	_, err = s.keepMeasuring(tx, a, fmt.Sprintf("%s = %g g", measure, grams), &listener.Measuring{Measure: amount, Of: m, Is: is}, at, refuse)
	return err
}

// ForgetMeasured takes all that was measured and said of a material back.
func ForgetMeasured(tx *store.Tx, materialID string, at time.Time) error {
	for _, kind := range []learned.Kind{learned.Density, learned.Piece} {
		if err := tx.TakeMeasuringsBack(string(kind), materialID, at); err != nil {
			return err
		}
		if err := tx.LearnAgain(string(kind), materialID); err != nil {
			return err
		}
	}
	return nil
}

// Drying is how long batches of formulas really dry, where any were weighed until they were
// dry: what the step says of it, pulled by what was weighed.
func (s *Settings) Drying(tx *store.Tx, formulas ...uuid.UUID) (map[uuid.UUID]LearnedFigure, error) {
	out := map[uuid.UUID]LearnedFigure{}
	if len(formulas) == 0 {
		return out, nil
	}
	dried, err := tx.DriedOf(formulas...)
	if err != nil || len(dried) == 0 {
		return out, err
	}
	usual, err := tx.FiguresAsUsual()
	if err != nil {
		return nil, err
	}
	for id, hours := range dried {
		stored, err := StoredFormula(tx, id, 0)
		if err != nil {
			return nil, err
		}
		key := learned.Key{Kind: learned.Drying, Of: id.String()}
		out[id] = LearnedFigure{Figure: learned.Learn(saidHours(&stored.File), hours[:min(len(hours), mostDried)], key.Repeat()), AsUsual: leftAsUsual(usual, key)}
	}
	return out, nil
}

// mostDried batches count, the newest: what dried years ago did so in another room.
const mostDried = 12

// saidHours is what the steps of a formula say of drying; zero where they say nothing.
func saidHours(file *api.FormulaFile) quantity.Range {
	f, _ := exchange.ToFormula(file)
	for i := range f.Steps {
		if step := &f.Steps[i]; step.Kind == formula.Dry {
			return learned.SaidHours(step.For.Low.Hours(), step.For.High.Hours())
		}
	}
	return quantity.Range{}
}

// StepTimes is how long hands are at the steps here, by their kind: what is usual, pulled by what
// the logs of the batches say.
func (s *Settings) StepTimes(tx *store.Tx) (map[formula.StepKind]LearnedFigure, error) {
	kept, err := tx.StepTimesCounted()
	if err != nil || len(kept) == 0 {
		return nil, err
	}
	minutes := map[formula.StepKind][]float64{}
	for _, content := range kept {
		var times []stepTime
		if err := json.Unmarshal(content, &times); err != nil {
			return nil, fmt.Errorf("the minutes of steps: %w", err)
		}
		for _, t := range times {
			kind := formula.StepKind(t.Kind)
			minutes[kind] = append(minutes[kind], t.Minutes)
		}
	}
	usual, err := tx.FiguresAsUsual()
	if err != nil {
		return nil, err
	}
	out := map[formula.StepKind]LearnedFigure{}
	for kind, counted := range minutes {
		if making.UsualMinutes(kind).IsZero() {
			continue
		}
		key := learned.Key{Kind: learned.AtStep, Of: string(kind)}
		out[kind] = LearnedFigure{Figure: learned.Learn(making.UsualMinutes(kind), counted, key.Repeat()), AsUsual: leftAsUsual(usual, key)}
	}
	return out, nil
}

// MinutesAt is how long hands are at a step of a kind, as it was counted here where it was.
func MinutesAt(counted map[formula.StepKind]LearnedFigure) func(formula.StepKind) quantity.Range {
	return func(kind formula.StepKind) quantity.Range {
		if f, ok := counted[kind]; ok && f.Counts() {
			return f.Range
		}
		return making.UsualMinutes(kind)
	}
}

// WithoutFigure are the settings as they would be if a figure were what is usual.
func (s *Settings) WithoutFigure(key learned.Key) *Settings {
	f, ok := s.Learned[key]
	if !ok || !f.Counts() {
		return s
	}
	set, lib := *s, *s.Library
	set.Library = &lib
	if unit, ok := quantity.ParseUnit(key.Of); ok && key.Kind == learned.Size && lib.Sizes != nil {
		sizes := *lib.Sizes
		sizes[unit] = quantity.Range{}
		lib.Sizes = &sizes
		return &set
	}
	m, err := lib.Materials.Find(key.Of)
	if err != nil {
		return s
	}
	usual := *m
	if key.Kind == learned.Density {
		usual.Density = material.Figure{Range: f.Usual, Source: m.Density.Source}
	} else {
		usual.Piece = material.Figure{Range: f.Usual, Source: m.Piece.Source}
	}
	if with, err := lib.Materials.With(usual); err == nil {
		lib.Materials = with
	}
	return &set
}
