package why

import (
	"fmt"
	"math"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Fact is something known, and how much it holds, from 0 to 1; with its figure in a sentence.
type Fact struct {
	Level float64
	Says  string
}

// Facts are what is known, by name. What is not known is not in it.
type Facts map[string]Fact

// Known are the facts that causes may ask for, in the order they are told.
var Known = []string{
	"hardness-unmet", "chalk", "soap-scum", "soap-fat", "hard-water", "soft-water", "underdosed", "overdosed", "very-alkaline", "alkaline", "sour", "very-sour",
	"has-soap", "no-soap", "strong-soap", "weak-soap", "has-surfactant", "no-surfactant", "has-chelant", "no-chelant", "has-bleach", "no-bleach", "has-enzyme", "no-enzyme",
	"has-acid", "no-acid", "weak-acid", "has-vinegar", "fizz-pair", "lopsided", "wet-line", "no-wet-line", "no-binder", "much-soda", "has-crystal-soda", "drinks-water", "humid", "dry-room",
	"has-oil", "much-oil", "has-scent", "has-starch", "has-thickener", "no-thickener", "has-salt", "salty", "watery", "strong-spirit", "has-botanical", "has-perishable", "no-preservative",
	"has-sugar", "sugar-low", "fermented", "has-chlorine", "has-ammonia", "free-lye", "fine-dust",
}

// Around is what is known beside the good.
type Around struct {
	Hardness     quantity.Hardness
	WaterKnown   bool
	DoseG        float64 // that is taken; 0 where nobody said
	WantedG      float64 // that is reckoned for this water; 0 where none can be
	RoomHumidity float64 // per cent; 0 where nobody measured
}

// FactsOf are the facts of a good in its water; of none where a is nil.
func FactsOf(a *assess.Assessment, around Around) Facts {
	f := Facts{}
	f.water(around)
	if a != nil && a.Resolved.TotalG.Value > 0 {
		g := goodOf(a.Resolved)
		f.makeUp(g)
		f.form(g)
		f.chemistry(a, around)
	}
	return f
}

// set keeps a fact that holds at all.
func (f Facts) set(name string, level float64, says string, args ...any) {
	if level = min(1, max(0, level)); level > 0 && !math.IsNaN(level) {
		f[name] = Fact{level, fmt.Sprintf(says, args...)}
	}
}

// between is how far x is on the way from one bound to the other, from 0 to 1.
func between(x, from, to float64) float64 { return min(1, max(0, (x-from)/(to-from))) }

// Bounds of hard and soft water, in mmol/l: handbooks call it soft up to 1.3 and very hard from 3
// on (from memory).
const (
	softWater = 1.3
	hardWater = 3.0
)

func (f Facts) water(w Around) {
	if w.WaterKnown {
		h := float64(w.Hardness)
		f.set("hard-water", between(h, softWater, hardWater), "The water has %.0f mg/l of hardness: %s.", w.Hardness.MGPerL(), w.Hardness.Class())
		f.set("soft-water", between(h, softWater, 0.3), "The water has %.0f mg/l of hardness: %s.", w.Hardness.MGPerL(), w.Hardness.Class())
	}
	if w.DoseG > 0 && w.WantedG > 0 {
		f.set("underdosed", between(w.WantedG/w.DoseG, 1, 2), "%.0f g are taken; %.0f g are reckoned for this water.", w.DoseG, w.WantedG)
		f.set("overdosed", between(w.DoseG/w.WantedG, 1, 2), "%.0f g are taken; %.0f g are reckoned for this water.", w.DoseG, w.WantedG)
	}
	if w.RoomHumidity > 0 {
		f.set("humid", between(w.RoomHumidity, 55, 75), "The room has %.0f %% of humidity.", w.RoomHumidity)
		f.set("dry-room", between(w.RoomHumidity, 50, 35), "The room has %.0f %% of humidity.", w.RoomHumidity)
	}
}

// good is what a formula is made of, by share.
type good struct {
	kind   formula.KindInfo
	of     map[material.Tags]float64
	wet    float64 // water and what is mostly water
	liquid bool
	binds  float64
	holds  float64 // what holds lime
	hydrat float64 // soda crystals
	acid   float64
	base   float64 // baking soda, for the acid
}

func goodOf(r *formula.Resolved) *good {
	g := &good{kind: r.Formula.Kind.Info(), of: map[material.Tags]float64{}}
	for _, l := range r.Lines {
		m := l.Material
		if m == nil {
			continue
		}
		share := l.Share.Value
		for _, t := range []material.Tags{material.Soap, material.Surfactant, material.Peroxide, material.Oxidiser, material.Enzyme, material.Vinegar, material.Carbonate, material.Bicarbonate,
			material.Oil, material.ScentOil, material.CitrusOil, material.Starch, material.Thickener, material.Salt, material.Water, material.Alcohol, material.Botanical, material.Perishable, material.Preservative, material.AcidPreservative,
			material.Sugar, material.Fermented, material.Chlorine, material.Ammonia, material.Caustic, material.FineDust, material.DustyAcid, material.DustyAlkali, material.Humectant} {
			if m.Is(t) {
				g.of[t] += share
			}
		}
		if m.Is(material.Acid) || m.Is(material.StrongAcid) || m.Is(material.WeakAcid) {
			g.acid += share
		}
		if m.Is(material.Soap) || m.Is(material.Starch) || m.Is(material.Sugar) || m.Is(material.Humectant) || m.Is(material.Thickener) {
			g.binds += share
		}
		if m.Liquid() {
			g.wet += share
		}
		if m.Is(material.Chelant) || m.Is(material.Citrate) || m.Does("chelant") {
			g.holds += share
		}
		if m.ID == "soda-crystals" {
			g.hydrat += share
		}
		g.base = g.of[material.Bicarbonate]
	}
	g.liquid = g.wet > 0.4
	return g
}

func (g *good) has(tags ...material.Tags) (share float64) {
	for _, t := range tags {
		share += g.of[t]
	}
	return share
}

// either sets one fact where something is in a good, and another where it is not.
func (f Facts) either(share float64, has, hasNot, name string) {
	if share > 0 {
		if has != "" {
			f.set(has, 1, "There is %s in it.", name)
		}
	} else if hasNot != "" {
		f.set(hasNot, 1, "There is no %s in it.", name)
	}
}

func (f Facts) makeUp(g *good) {
	f.either(g.has(material.Soap), "has-soap", "no-soap", "soap")
	f.either(g.has(material.Surfactant)+g.has(material.Soap), "has-surfactant", "no-surfactant", "surfactant")
	f.either(g.holds, "has-chelant", "no-chelant", "chelant")
	f.either(g.has(material.Peroxide, material.Oxidiser), "has-bleach", "no-bleach", "bleach")
	f.either(g.has(material.Enzyme), "has-enzyme", "no-enzyme", "enzyme")
	f.either(g.acid, "has-acid", "no-acid", "acid")
	f.either(g.has(material.Vinegar), "has-vinegar", "", "vinegar")
	f.either(g.has(material.Oil, material.ScentOil, material.CitrusOil), "has-oil", "", "oil")
	f.either(g.has(material.ScentOil, material.CitrusOil), "has-scent", "", "scent oil")
	f.either(g.has(material.Starch), "has-starch", "", "starch")
	f.either(g.has(material.Thickener), "has-thickener", "no-thickener", "thickener")
	f.either(g.has(material.Salt), "has-salt", "", "salt")
	f.either(g.has(material.Botanical), "has-botanical", "", "plant matter")
	f.either(g.has(material.Perishable), "has-perishable", "", "anything that spoils")
	f.either(g.has(material.Sugar), "has-sugar", "", "sugar")
	f.either(g.has(material.Chlorine), "has-chlorine", "", "chlorine bleach")
	f.either(g.has(material.Ammonia), "has-ammonia", "", "ammonia")
	f.either(g.has(material.Caustic), "free-lye", "", "lye")
	f.either(g.has(material.FineDust, material.DustyAcid, material.DustyAlkali), "fine-dust", "", "fine dust")
	f.either(g.hydrat, "has-crystal-soda", "", "washing soda in crystals")
	f.set("much-oil", between(g.has(material.Oil), 0.01, 0.05), "%.0f %% of it is oil.", 100*g.has(material.Oil))
	f.set("much-soda", between(g.has(material.Carbonate), 0.35, 0.7), "%.0f %% of it is soda.", 100*g.has(material.Carbonate))
	if g.kind.Is(formula.Ferments) || g.has(material.Fermented) > 0 {
		f.set("fermented", 1, "It is fermented.")
	}
}

// acidToSoda is how much citric acid spends a gram of baking soda: 192.1 ÷ 3 ÷ 84.0.
const acidToSoda = 0.762

func (f Facts) form(g *good) {
	if g.liquid {
		soap := g.has(material.Soap)
		f.set("strong-soap", between(soap, 0.03, 0.12), "%.0f %% of it is soap.", 100*soap)
		if soap > 0 {
			f.set("weak-soap", between(soap, 0.06, 0.01), "Only %.1f %% of it is soap.", 100*soap)
		}
		f.set("salty", between(g.has(material.Salt, material.Carbonate), 0.01, 0.06), "%.0f %% of it is salt or soda.", 100*g.has(material.Salt, material.Carbonate))
		f.set("watery", between(g.has(material.Water), 0.3, 0.7), "%.0f %% of it is water.", 100*g.has(material.Water))
		f.set("strong-spirit", between(g.has(material.Alcohol), 0.1, 0.3), "%.0f %% of it is spirit.", 100*g.has(material.Alcohol))
		f.either(g.has(material.Preservative, material.AcidPreservative), "", "no-preservative", "preservative")
		if sour := g.has(material.Vinegar); sour > 0 {
			f.set("weak-acid", between(g.has(material.Water)/(g.has(material.Water)+sour), 0.1, 0.6), "The vinegar is thinned with water.")
		}
		if sugar, water := g.has(material.Sugar), g.has(material.Water); g.kind.Is(formula.Ferments) && water > 0 {
			f.set("sugar-low", between(sugar/water, 0.09, 0.03), "%.0f g of sugar to a litre of water.", 1000*sugar/water)
		}
		return
	}
	if g.acid > 0 && g.base > 0 {
		f.set("fizz-pair", 1, "Acid and soda are in it together.")
		f.set("lopsided", between(math.Abs(math.Log2(g.acid/g.base/acidToSoda)), 0.7, 2.5), "%.0f g of acid to 100 g of baking soda, where %.0f g would spend it.", 100*g.acid/g.base, 100*acidToSoda)
	}
	if g.kind.Wetted {
		f.set("wet-line", between(g.wet, 0.02, 0.08), "%.0f %% of it is liquid.", 100*g.wet)
		if g.wet < 0.005 {
			f.set("no-wet-line", 1, "Nothing wets it.")
		}
		f.either(g.binds, "", "no-binder", "binder")
	}
}

func (f Facts) chemistry(a *assess.Assessment, w Around) {
	s := a.Solution
	if s == nil {
		return
	}
	if w.WaterKnown && s.Hardness.Total > 0 {
		f.set("hardness-unmet", between(s.Hardness.Left, 0.2, 1.5), "In %.0f mg/l it leaves %.1f mmol/l of hardness unmet.", w.Hardness.MGPerL(), s.Hardness.Left)
		f.set("chalk", between(s.Hardness.Precipitation, 0.2, 1.5), "In %.0f mg/l %.1f mmol/l fall out as chalk.", w.Hardness.MGPerL(), s.Hardness.Precipitation)
	}
	if s.HasSoap {
		f.set("soap-scum", between(s.Hardness.SoapLost(), 0.05, 0.5), "%.0f %% of its soap is lost to scum.", 100*s.Hardness.SoapLost())
		fat := s.ProtonatedByGood()
		if a.Pot != nil {
			fat = max(fat, a.Pot.ProtonatedByGood())
		}
		f.set("soap-fat", between(fat, 0.03, 0.3), "%.0f %% of its soap is fat again.", 100*fat)
	}
	at := s
	if a.Pot != nil { // what touches skin and stone is what stands in the bottle
		at = a.Pot
	}
	if at.PHKnown() {
		ph := at.ClosedPH.Value
		f.set("alkaline", between(ph, 8.3, 10), "Its pH is %.1f.", ph)
		f.set("very-alkaline", between(ph, 9.8, 11.3), "Its pH is %.1f.", ph)
		f.set("sour", between(ph, 6, 3.5), "Its pH is %.1f.", ph)
		f.set("very-sour", between(ph, 3, 1.8), "Its pH is %.1f.", ph)
	}
	if s.Caking != nil {
		f.set("drinks-water", between(s.Caking.AboveRH, 78, 55), "It drinks water from %.0f %% of humidity on.", s.Caking.AboveRH)
	}
}
