package why

import (
	"slices"

	"keencrock/core/assess"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Used is a good and how it is used: what facts are read from.
type Used struct {
	Formula      *formula.Formula // nil where it is not known which good it is
	Library      *material.Library
	Tools        formula.Workshop
	Water        assess.Water
	WaterKnown   bool            // its hardness was said or is the workshop's
	Dose         quantity.Amount // zero where nobody said: the one that is usual is taken
	Doses        func(*formula.Resolved) dosing.Options
	Machines     []dosing.Machine
	RoomHumidity float64 // per cent; 0 where nobody measured
}

// Facts works the good out in its water at its dose, and reads what is known from that.
func (u *Used) Facts() Facts {
	around := Around{Hardness: u.Water.Hardness, WaterKnown: u.WaterKnown, RoomHumidity: u.RoomHumidity}
	if u.Formula == nil {
		return FactsOf(nil, around)
	}
	r := formula.Resolve(u.Formula, u.Library, u.Tools)
	water := u.InUse(r, &around)
	return FactsOf(assess.Formula(u.Formula, u.Library, assess.Options{Workshop: u.Tools, Water: &water}), around)
}

// InUse is the water a good is used in, at the dose that is taken; the doses stand in around.
func (u *Used) InUse(r *formula.Resolved, around *Around) assess.Water {
	water := u.Water
	if machine := u.machine(r); machine != nil && r.TotalG.Value > 0 {
		around.DoseG, around.WantedG = u.doses(r, machine)
		if around.DoseG > 0 {
			water.GramsPerLitre = around.DoseG / machine.WaterL
		}
	}
	return water
}

// What changes are told of: of causes that are likely enough, and of so many.
const (
	worthChanging = 0.02
	mostChanges   = 5
)

// Changes are what may be done to the formula against the likely causes, beside these; nil for
// those against which nothing can be done in it.
func (u *Used) Changes(f *Finding) []*Change {
	out := make([]*Change, len(f.Causes))
	if u.Formula == nil {
		return out
	}
	r := formula.Resolve(u.Formula, u.Library, u.Tools)
	var around Around
	u.InUse(r, &around)
	told := 0
	for i := range f.Causes {
		if f.Causes[i].Odds < worthChanging || told >= mostChanges {
			break
		}
		if out[i] = f.Causes[i].Change(r, around.DoseG, around.WantedG, u.Library); out[i] != nil {
			told++
		}
	}
	return out
}

// machine is the one that a kind of good is used in first; nil where it goes into no water.
func (u *Used) machine(r *formula.Resolved) *dosing.Machine {
	for _, m := range dosing.MachinesFor(r.Formula.Kind, u.Machines) {
		if m.ID != dosing.AsItIs.ID {
			return &m
		}
	}
	return nil
}

// doses are how much of it is taken, and how much is reckoned for its water; 0 for what cannot
// be told.
func (u *Used) doses(r *formula.Resolved, m *dosing.Machine) (taken, wanted float64) {
	o := u.Doses(r)
	if !u.Dose.IsZero() {
		o.Said, o.SaidFor = u.Dose, nil
	}
	rows, err := dosing.Table(r, []dosing.Where{{Machine: *m, Hardness: u.Water.Hardness, Celsius: u.Water.Celsius}}, o)
	if err != nil || len(rows) == 0 {
		return 0, 0
	}
	row := &rows[0]
	if !u.Dose.IsZero() || row.SaidBy == dosing.ByFormula {
		taken = row.SaidG
	}
	if row.Computed && row.Reaches && u.WaterKnown {
		wanted = row.Grams
	}
	return taken, wanted
}

// SeenOn is where something may be seen of a kind of good: on what it is used on, and as what it
// is made.
func SeenOn(k formula.Kind) []string {
	info := k.Info()
	on := map[string][]string{"laundry": {"laundry"}, "dishes": {"dishes"}, "toilet": {"surface"}, "surfaces": {"surface"}, "skin": {"soap", "skin"}}[info.UsedOn]
	switch k {
	case "laundry-powder", "dish-powder", "scent-booster":
		on = append(on, "powder")
	case "laundry-liquid", "dish-gel", "rinse-aid", "spray", "hand-soap", "fabric-softener", "soap-nut-extract":
		on = append(on, "liquid")
	}
	if info.Wetted {
		on = append(on, "pressed")
	}
	if info.Slow {
		on = append(on, "slow")
	}
	return on
}

// publicFacts tell nothing of what a good is made of.
var publicFacts = []string{"hard-water", "soft-water", "underdosed", "overdosed", "humid", "dry-room"}

// Outside leaves out what speaks for or against a cause by what the good is made of: for who
// has a jar of it and not its recipe. What was weighed stays weighed.
func (f *Finding) Outside(facts Facts) {
	for i := range f.Causes { // what was found here is the workshop's own
		f.Causes[i].Here = 0
	}
	private := map[string]bool{}
	for name, fact := range facts {
		private[fact.Says] = private[fact.Says] || !slices.Contains(publicFacts, name)
	}
	isPrivate := func(says string) bool { return private[says] }
	for i := range f.Causes {
		f.Causes[i].Because = slices.DeleteFunc(f.Causes[i].Because, isPrivate)
		f.Causes[i].But = slices.DeleteFunc(f.Causes[i].But, isPrivate)
	}
	f.Says = f.words()
}
