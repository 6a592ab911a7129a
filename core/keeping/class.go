package keeping

import (
	"fmt"

	"keencrock/core/quantity"
)

// Class is a sort of good by how it spoils.
type Class struct {
	Code string
	Name string
	Days int
	Why  string
	// Figure is the one that decided; nil where the sort of good did.
	Figure *Figure
}

// Figure is a number that decides, and the line it is held against.
type Figure struct {
	Name         string
	Value, Limit float64
	Unit         string
}

// The classes of good. Common practice, lives from memory.
var (
	Dry           = Class{Code: "dry", Name: "dry powder", Days: 730, Why: "a dry powder keeps about two years airtight"}
	DryBleach     = Class{Code: "dry-bleach", Name: "dry powder with oxygen bleach", Days: 180, Why: "oxygen bleach fades in about half a year"}
	Effervescent  = Class{Code: "effervescent", Name: "dry acid and soda together", Days: 270, Why: "acid and soda slowly spend each other with the damp of the air"}
	WetMild       = Class{Code: "wet-mild", Name: "wet, mild and unpreserved", Days: 14, Why: "nothing in it stops mould: one week warm, two to three weeks cold"}
	WetStrong     = Class{Code: "wet-strong", Name: "wet, strongly acid, alkaline or salted", Days: 365, Why: "too sour, alkaline or salty for most mould"}
	WetPreserved  = Class{Code: "wet-preserved", Name: "wet and preserved", Days: 365, Why: "a preserved liquid keeps about a year"}
	WithAlcohol   = Class{Code: "with-alcohol", Name: "with a fifth of alcohol or more", Days: 730, Why: "alcohol keeps it; about two years closed"}
	WithPeroxide  = Class{Code: "with-peroxide", Name: "wet with peroxide", Days: 30, Why: "peroxide fades once it is out of its bottle"}
	WithBleach    = Class{Code: "with-bleach", Name: "wet with chlorine bleach", Days: 90, Why: "chlorine bleach fades within months, and faster once it is thinned"}
	WetSoap       = Class{Code: "wet-soap", Name: "strong liquid soap", Days: 365, Why: "undiluted soap is alkaline enough to keep about a year"}
	Ferment       = Class{Code: "ferment", Name: "ferment", Days: 365, Why: "a sour ferment keeps about a year cool"}
	InfusedSour   = Class{Code: "infused-vinegar", Name: "infused vinegar", Days: 365, Why: "strained vinegar keeps about a year"}
	SoapNutLiquid = Class{Code: "soap-nut", Name: "soap-nut water", Days: 10, Why: "soap-nut water sours within about ten days even when cold"}
	WetPerishable = Class{Code: "wet-perishable", Name: "wet with fresh fruit or milk", Days: 7, Why: "what is fresh in it spoils within a week, even cold"}
)

// Lines a wet good is held against. The first two are those of the rules for
// sour foods, 21 CFR 114: pH 4.6, and water activity 0.85 (21 CFR 110 and 117);
// the others are common practice, from memory. A good counts as sour below
// SourPH, which leaves room to the first line for what it takes up in use.
const (
	AcidifiedPH   = 4.6
	SafeActivity  = 0.85
	SourPH        = 4.2
	AlkalinePH    = 10.0
	alcoholKeeps  = 0.20
	soapKeeps     = 0.15
	soapPH        = 9.0
	fermentShare  = 0.2
	preservedBase = 0.5 // of a bought, preserved base
)

// Bottle is what a good is as it stands in its bottle or jar; its class follows
// from that, not from what it was made of. Shares are of the whole by mass, 0
// to 1.
type Bottle struct {
	Wet bool
	// Slow goods, by the kind of the formula.
	Ferments, Infused bool

	PH            quantity.Range // after the gas has left
	PHKnown       bool
	WaterActivity float64 // of what is dissolved, 1 for water
	Alcohol       float64 // of alcohol and water together
	Soap          float64 // dry, that is not curdled
	Preservatives []Preservative
	PreservedBase float64 // of materials that are sold preserved
	Ferment       float64 // of a sour ferment

	Peroxide    bool
	Chlorine    bool
	AcidAndSoda bool // dry, side by side
	SoapNut     bool // water that soap nuts were in
	Perishable  bool // fresh fruit, juice or milk that is not strained out
}

// Classify finds the class of a good.
func Classify(b *Bottle) Class {
	if !b.Wet {
		switch {
		case b.Peroxide:
			return DryBleach
		case b.AcidAndSoda:
			return Effervescent
		}
		return Dry
	}
	sour := b.PHKnown && b.PH.High < SourPH
	alkaline := b.PHKnown && b.PH.Low > AlkalinePH
	switch {
	case b.Chlorine:
		return WithBleach
	case b.Peroxide:
		return WithPeroxide
	case b.Alcohol >= alcoholKeeps:
		return WithAlcohol.because("alcohol", b.Alcohol*100, alcoholKeeps*100, "%", "%.0f %% of its liquid is alcohol, which keeps it about two years closed")
	case b.WaterActivity > 0 && b.WaterActivity <= SafeActivity:
		return WetStrong.because("water activity", b.WaterActivity, SafeActivity, "", "so much salt or sugar binds its water (activity %.2f) that nothing grows")
	case (b.Ferments || b.Ferment >= fermentShare) && (!b.PHKnown || b.PH.High < AcidifiedPH):
		if b.PHKnown {
			return Ferment.because("pH", b.PH.Value, AcidifiedPH, "", "at pH %.1f a ferment keeps about a year cool")
		}
		return Ferment
	case b.Infused && sour:
		return InfusedSour.because("pH", b.PH.Value, SourPH, "", "strained, at pH %.1f, it keeps about a year")
	case sour && !b.Perishable:
		return WetStrong.because("pH", b.PH.Value, SourPH, "", "at pH %.1f it is too sour for most mould")
	case b.Soap >= soapKeeps && b.PHKnown && b.PH.Low > soapPH:
		return WetSoap.because("soap", b.Soap*100, soapKeeps*100, "%", "%.0f %% of soap keeps itself about a year")
	case alkaline:
		return WetStrong.because("pH", b.PH.Value, AlkalinePH, "", "at pH %.1f it is too alkaline for most mould")
	}
	for _, p := range b.Preservatives {
		if p.Works {
			c := WetPreserved
			c.Why = fmt.Sprintf("%s keeps it about a year: %s", p.Name, p.Why)
			c.Figure = p.figure()
			return c
		}
	}
	switch {
	case b.PreservedBase >= preservedBase:
		return WetPreserved.because("preserved base", b.PreservedBase*100, preservedBase*100, "%", "%.0f %% of it is sold preserved, enough to keep the rest")
	case b.Perishable:
		return WetPerishable
	case b.SoapNut:
		return SoapNutLiquid
	case !b.PHKnown:
		c := WetMild
		c.Why = "its pH is not known, so nothing is counted on: measure it, or keep it cold and use it within two weeks"
		return c
	}
	return WetMild.because("pH", b.PH.Value, SourPH, "", "at pH %.1f nothing in it stops mould: one week warm, two to three weeks cold")
}

// because is the class with the figure that decided.
func (c Class) because(name string, value, limit float64, unit, why string) Class {
	c.Why = fmt.Sprintf(why, value)
	c.Figure = &Figure{Name: name, Value: value, Limit: limit, Unit: unit}
	return c
}
