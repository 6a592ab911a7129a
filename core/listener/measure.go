package listener

// What sort an amount is: of a vessel, of a whole good, in spoons, said without a number.

import (
	"strings"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// isSpooned reports whether an amount is in spoons, cups or scoops, as doses are.
func isSpooned(a quantity.Amount) bool {
	switch a.Unit() {
	case quantity.Teaspoon, quantity.Tablespoon, quantity.Dessertspoon, quantity.Spoon, quantity.Scoop, quantity.Cup, quantity.Mug, quantity.Capful, quantity.Glug, quantity.Handful:
		return true
	}
	return false
}

// isVessel reports whether a unit is of what things are kept in.
func isVessel(u quantity.Unit) bool {
	switch u {
	case quantity.Jar, quantity.Bottle, quantity.Bucket, quantity.Bowl, quantity.Pot, quantity.Jug, quantity.Box, quantity.Basin, quantity.Sink, quantity.Kettle:
		return true
	}
	return false
}

// isSizeOf reports whether an amount is how much a vessel holds: “a 5 litre canister”.
func isSizeOf(said *amountSaid) bool {
	u, ok := quantity.UnitNamed(lastWord(said.written))
	return ok && u != said.Amount.Unit() && len(strings.Fields(said.written)) > 2
}

// isWhole reports whether an amount is one that a whole good has: litres, kilograms, jars,
// pieces, and no spoons.
func isWhole(a quantity.Amount) bool {
	switch u := a.Unit(); u {
	case quantity.Litre, quantity.Millilitre, quantity.Kilogram, quantity.Gram, quantity.Gallon, quantity.Quart, quantity.Pint, quantity.Pound, quantity.Ounce, quantity.Tab, quantity.Piece:
		return true
	default:
		return isVessel(u)
	}
}

// isRange reports whether an amount is said from so many to so many.
func isRange(a quantity.Amount) bool {
	terms := a.Terms()
	return len(terms) == 1 && terms[0].Low != terms[0].High
}

// unitOnly reports whether an amount was said without a number: “big spoons”.
func (s *amountSaid) unitOnly() bool {
	word := lastWord(s.written)
	_, unit := quantity.UnitNamed(word)
	first, _, _ := strings.Cut(s.written, " ")
	_, alone := quantity.UnitNamed(s.written)
	return unit && (alone || quantity.IsFill(first))
}

// thingOf is what a unit is of by itself: a lemon, the juice of one.
func thingOf(u quantity.Unit) string {
	switch {
	case u.JuiceOf():
		return u.Fruit() + " juice"
	case u.PeelOf():
		return u.Fruit() + " peel"
	case u == quantity.Lemon:
		return "lemon"
	case u == quantity.Nut: // “boil 15 nuts”
		return "soap nuts"
	}
	return ""
}

// thingSaid is what an amount without a name is of: what its unit says, or soap of a bar
// that is grated beside what is no soap, “500 g washing soda and grate in one bar”.
func (r *reader) thingSaid(a *atom, u quantity.Unit) string {
	if u == quantity.Bar && len(a.names) == 0 && a.made == nil && r.now.doing {
		if r.last != nil {
			if m := r.read(r.last.Material); m != nil && !m.Is(material.Soap) {
				return "bar of soap"
			}
		}
		if grates[r.toks[r.out[a.lo].from].word] { // “grate two bars”
			return "bar of soap"
		}
	}
	return thingOf(u)
}

// grates are what is done to a bar of soap before it goes in.
var grates = wordSet("grates")

// holds reports whether an amount is of a vessel, or what one holds: “a 16 oz bottle”.
func holds(a quantity.Amount) bool {
	k := a.Kind()
	return k == quantity.Volume || k == quantity.Mass
}

func millilitres(a quantity.Amount) float64 {
	ml, _ := a.Millilitres(quantity.Handling{Measures: quantity.US})
	return ml.Value
}

func isVolume(a quantity.Amount) bool { return a.Kind() == quantity.Volume }
