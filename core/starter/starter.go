// Package starter holds formulas to begin with: for each kind of good one of each school,
// in round amounts, composed from the chemistry and from common practice. They ship with
// the program and are nobody's until a workshop takes one; what is taken is a formula like
// any other.
//
// A starter is written by weight. For who scoops it is told in cups and spoons of the
// workshop's own measures instead, the nearest that can be levelled off.
package starter

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"sync"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/method"
	"keencrock/core/quantity"
)

// Version is that of the shipped starters: it goes up when one of them changes what it is.
func Version() int { return shipped().Version }

// Starter is one of them.
type Starter struct {
	ID      string
	Kind    formula.Kind
	Name    string
	School  string
	Differs string   // how it differs from the others of its kind, in a sentence or two
	Lines   []string // an amount by weight, and the id of a material
	Uses    string   // how much is used at once
	Water   string   // and in what; empty where it is used as it stands
	Yield   string   // in pieces; empty for what is not pressed
	Method  string
	// Cautions are the codes of what an assessment says of it: none is a surprise.
	Cautions []string
}

//go:embed starters.json
var shippedFile []byte

type file struct {
	Version  int
	Starters []Starter
}

var shipped = sync.OnceValue(func() file {
	var f file
	if err := json.Unmarshal(shippedFile, &f); err != nil {
		panic(fmt.Sprintf("starter: %v", err))
	}
	return f
})

// All are the starters, those of a kind together in the order a maker meets them.
func All() []Starter { return shipped().Starters }

// Find is a starter by its id; ok is false where there is none.
func Find(id string) (s *Starter, ok bool) {
	all := shipped().Starters
	for i := range all {
		if all[i].ID == id {
			return &all[i], true
		}
	}
	return nil, false
}

// By is how amounts are told.
type By uint8

// By weight, or by cups and spoons.
const (
	Weight By = iota
	Scoop
)

// Formula is the starter as a formula in a set of measures. Its steps are read from its
// method.
func (s *Starter) Formula(measures quantity.Measures, by By, lib *material.Library, w formula.Workshop) *formula.Formula {
	f := &formula.Formula{Name: s.Name, Kind: s.Kind, Measures: measures, Method: s.Method}
	for _, line := range s.Lines {
		amount, id := cutLine(line)
		f.Lines = append(f.Lines, formula.LineOf(id, amount))
	}
	f.Yield, f.Use, f.UseWater = parse(s.Yield), parse(s.Uses), parse(s.Water)
	r := formula.Resolve(f, lib, w)
	if by == Scoop {
		scooped(f, r)
		r = formula.Resolve(f, lib, w)
	}
	f.Steps = method.Read(s.Method, r)
	return f
}

// Materials are the ids of what goes in, in the order of the lines.
func (s *Starter) Materials() []string {
	ids := make([]string, len(s.Lines))
	for i, line := range s.Lines {
		_, ids[i] = cutLine(line)
	}
	return ids
}

// cutLine parts “500 g washing-soda”: the id is the last word.
func cutLine(line string) (amount, id string) {
	at := len(line) - 1
	for at > 0 && line[at] != ' ' {
		at--
	}
	return line[:at], line[at+1:]
}

// parse reads an amount of the shipped file, which a test holds; nothing for none.
func parse(written string) quantity.Amount {
	a, _ := quantity.Parse(written)
	return a
}

// scooped tells what is weighed in cups and spoons. What is counted stays counted.
func scooped(f *formula.Formula, r *formula.Resolved) {
	for i := range f.Lines {
		l := &f.Lines[i]
		if !weighed(l.Amount) {
			continue
		}
		if m := r.Lines[i].Material; m != nil && m.Density.Known() {
			a := nearest(r.Lines[i].MassG.Value/m.Density.Value, f.Measures)
			l.Amount, l.Written = a, a.String()
		}
	}
	density := r.Density()
	if grams, ok := f.Use.MassOnly(); ok && weighed(f.Use) && density > 0 {
		f.Use, _ = quantity.NearestMeasure(grams.Value/density, f.Measures)
	} else if ml, ok := f.Use.Millilitres(quantity.Handling{Measures: f.Measures}); ok && weighed(f.Use) {
		f.Use, _ = quantity.NearestMeasure(ml.Value, f.Measures)
	}
}

// oneMeasure is the error, as a share, that one round measure is worth in place of two:
// less than what a cup that is scooped differs from the next.
const oneMeasure = 0.06

func nearest(ml float64, m quantity.Measures) quantity.Amount {
	if a, off := quantity.NearestMeasure(ml, m); math.Abs(off) <= oneMeasure {
		return a
	}
	a, _ := quantity.NearestScoop(ml, m)
	return a
}

func weighed(a quantity.Amount) bool {
	switch a.Unit() {
	case quantity.Gram, quantity.Kilogram, quantity.Millilitre, quantity.Litre:
		return true
	}
	return false
}
