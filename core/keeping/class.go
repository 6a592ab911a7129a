package keeping

import (
	"fmt"

	"keencrock/core/quantity"
)

// Class is a sort of good by how it spoils.
type Class struct {
	Code string
	Name string
	Days int // from when it is ready
	Why  string
	// ReadyDays is how long it takes, from being set up, until it is ready; 0 for what is
	// ready when it is made.
	ReadyDays int
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
	Dry            = Class{Code: "dry", Name: "dry powder", Days: 730, Why: "a dry powder keeps about two years airtight"}
	DryBleach      = Class{Code: "dry-bleach", Name: "dry powder with oxygen bleach", Days: 180, Why: "oxygen bleach fades in about half a year"}
	Effervescent   = Class{Code: "effervescent", Name: "dry acid and soda together", Days: 270, Why: "acid and soda slowly spend each other with the damp of the air"}
	WetMild        = Class{Code: "wet-mild", Name: "wet, mild and unpreserved", Days: 14, Why: "nothing in it stops mould: one week warm, two to three weeks cold"}
	WetStrong      = Class{Code: "wet-strong", Name: "wet, strongly acid, alkaline or salted", Days: 365, Why: "too sour, alkaline or salty for most mould"}
	WetAlkaline    = Class{Code: "wet-alkaline", Name: "wet and alkaline", Days: 180, Why: "alkaline enough to keep about half a year"}
	WetPreserved   = Class{Code: "wet-preserved", Name: "wet and preserved", Days: 365, Why: "a preserved liquid keeps about a year"}
	WithAlcohol    = Class{Code: "with-alcohol", Name: "with a fifth of alcohol or more", Days: 730, Why: "alcohol keeps it; about two years closed"}
	WithPeroxide   = Class{Code: "with-peroxide", Name: "wet with peroxide", Days: 30, Why: "peroxide fades once it is out of its bottle"}
	PeroxideSpent  = Class{Code: "peroxide-spent", Name: "oxygen bleach in water", Days: 1, Why: "oxygen bleach is spent within a day once it is in water or beside an alkali: mix it when it is used"}
	WithBleach     = Class{Code: "with-bleach", Name: "wet with chlorine bleach", Days: 90, Why: "chlorine bleach fades within months"}
	BleachThinned  = Class{Code: "bleach-thinned", Name: "chlorine bleach, thinned", Days: 1, Why: "thinned chlorine bleach is made anew each day"}
	WetSoap        = Class{Code: "wet-soap", Name: "strong liquid soap", Days: 365, Why: "undiluted soap is alkaline enough to keep about a year"}
	BarSoap        = Class{Code: "bar-soap", Name: "soap of oil and lye", Days: 730, ReadyDays: 28, Why: "cured for four to six weeks, a bar keeps about two years; then its oils turn"}
	Ferment        = Class{Code: "ferment", Name: "ferment", Days: 365, Why: "a ripe, sour ferment keeps about a year cool"}
	FermentToRipen = Class{Code: "ferment", Name: "ferment", Days: 365, ReadyDays: 90, Why: "it is ready after about two months and a month’s rest; ripe and sour (pH 3 to 4) it keeps about a year cool: measure it then"}
	InfusedSour    = Class{Code: "infused-vinegar", Name: "infused vinegar", Days: 365, Why: "strained vinegar keeps about a year"}
	SourSalted     = Class{Code: "sour-salted", Name: "fruit, cooked with salt and acid", Days: 90, Why: "cooked with salt and acid, fruit keeps about three months cold"}
	SoapNutLiquid  = Class{Code: "soap-nut", Name: "soap-nut water", Days: 10, Why: "soap-nut water sours within about ten days even when cold"}
	Oily           = Class{Code: "oily", Name: "oil and wax, without water", Days: 730, Why: "nothing grows where there is no water; in time the oils turn rancid"}
	WetPerishable  = Class{Code: "wet-perishable", Name: "wet with fresh fruit or milk", Days: 7, Why: "what is fresh in it spoils within a week, even cold"}
)

// Classes are all of them, the longest living first of each sort.
func Classes() []Class {
	return []Class{Dry, DryBleach, Effervescent, WithAlcohol, WetSoap, WetStrong, WetPreserved, WetAlkaline, WetMild, WithPeroxide, PeroxideSpent, WithBleach, BleachThinned, BarSoap, Oily,
		FermentToRipen, InfusedSour, SourSalted, SoapNutLiquid, WetPerishable}
}

// Lines a wet good is held against. AcidifiedPH is that of the rules for sour foods, 21 CFR
// 114, and SafeActivity the water activity of 21 CFR 110 and 117. AlkalinePH and
// alcoholKeeps are those of ISO 29621 (cosmetics at low microbiological risk: pH 10 and
// more, 20 % of ethanol and more), from memory. The others are common practice, from
// memory. A good counts as sour below SourPH, which leaves room to the first line for what
// it takes up in use.
const (
	AcidifiedPH  = 4.6
	SafeActivity = 0.85
	SourPH       = 4.2
	AlkalinePH   = 10.0
	mildAlkaline = 9.5 // what most moulds and bacteria do not bear, and some do

	alcoholKeeps  = 0.20
	soapKeeps     = 0.15
	soapPH        = 9.0
	fermentShare  = 0.2
	preservedBase = 0.5  // of a bought, preserved base
	saltKeeps     = 0.05 // of salt in fruit that was cooked with it
	peroxidePH    = 8.0  // above it peroxide takes itself apart within a day
	bleachAsSold  = 0.9  // less of it than this is thinned
)

// Bottle is what a good is as it stands in its bottle or jar; its class follows
// from that, not from what it was made of. Shares are of the whole by mass, 0
// to 1.
type Bottle struct {
	Wet bool
	// Slow goods, by the kind of the formula.
	Ferments, Infused bool

	// PH is after the gas has left, Fresh with it still in, Aired once it has taken up
	// what air brings in a year; of the worst of them it is kept.
	PH, Fresh, Aired quantity.Range
	PHKnown          bool
	PHMeasured       bool
	WaterActivity    float64 // of what is dissolved, 1 for water
	Alcohol          float64 // of alcohol and water together
	Soap             float64 // dry, that is not curdled
	Salt             float64
	Preservatives    []Preservative
	PreservedBase    float64 // of materials that are sold preserved
	Ferment          float64 // of a sour ferment

	Peroxide    bool
	Chlorine    float64 // of chlorine bleach as it is sold
	AcidAndSoda bool    // dry, side by side
	SoapNut     bool    // water that soap nuts were in
	Perishable  bool    // fresh fruit, juice or milk that is not strained out
	Cooked      bool
	// Waterless says that what flows in it is oil and nothing else.
	Waterless bool
	// Saponified says that it is oil and lye that become a bar of soap.
	Saponified bool
}

// mostPH and leastPH are the ends of the pH it may come to while it stands.
func (b *Bottle) mostPH() float64 { return max(b.PH.High, b.Fresh.High) }

func (b *Bottle) leastPH() float64 {
	least := b.PH.Low
	for _, ph := range []quantity.Range{b.Fresh, b.Aired} {
		if !ph.IsZero() {
			least = min(least, ph.Low)
		}
	}
	return least
}

// Stands is the pH it may come to while it stands, at its ends.
func (b *Bottle) Stands() quantity.Range {
	return quantity.Range{Value: b.PH.Value, Low: b.leastPH(), High: b.mostPH()}
}

// Classify finds the class of a good: by what it is, then by the first thing that keeps it, then
// by how little does.
func Classify(b *Bottle) Class {
	for _, found := range []func() (Class, bool){b.withoutWater, b.byWhatKillsAll, b.slow, b.byPH, b.byPreservative} {
		if c, is := found(); is {
			return c
		}
	}
	return b.unkept()
}

// withoutWater is the class of what holds no water that anything could grow in.
func (b *Bottle) withoutWater() (Class, bool) {
	switch {
	case b.Saponified:
		return BarSoap, true
	case b.Wet && b.Waterless:
		return Oily, true
	case b.Wet:
		return Class{}, false
	case b.Peroxide:
		return DryBleach, true
	case b.AcidAndSoda:
		return Effervescent, true
	}
	return Dry, true
}

// byWhatKillsAll is the class of what holds bleach, peroxide, alcohol, or so much that is
// dissolved that nothing grows in it.
func (b *Bottle) byWhatKillsAll() (Class, bool) {
	switch {
	case b.Chlorine >= bleachAsSold:
		return WithBleach, true
	case b.Chlorine > 0:
		return BleachThinned.because("chlorine bleach", b.Chlorine*100, bleachAsSold*100, "%", "with %.2f %% of chlorine bleach it is thinned: made anew each day"), true
	case b.Peroxide && !(b.PHKnown && b.mostPH() <= peroxidePH):
		return PeroxideSpent, true
	case b.Peroxide:
		return WithPeroxide, true
	case b.Alcohol >= alcoholKeeps:
		return WithAlcohol.because("alcohol", b.Alcohol*100, alcoholKeeps*100, "%", "%.0f %% of its liquid is alcohol, which keeps it about two years closed"), true
	case b.WaterActivity > 0 && b.WaterActivity <= SafeActivity:
		return WetStrong.because("water activity", b.WaterActivity, SafeActivity, "", "so much salt or sugar binds its water (activity %.2f) that nothing grows"), true
	}
	return Class{}, false
}

// byPreservative is the class of what a preservative keeps, its own or that of a base that is
// sold preserved.
func (b *Bottle) byPreservative() (Class, bool) {
	for _, p := range b.Preservatives {
		if p.Works {
			c := WetPreserved
			c.Why = fmt.Sprintf("%s keeps it about a year: %s", p.Name, p.Why)
			c.Figure = p.figure()
			return c, true
		}
	}
	if b.PreservedBase >= preservedBase {
		return WetPreserved.because("preserved base", b.PreservedBase*100, preservedBase*100, "%", "%.0f %% of it is sold preserved, enough to keep the rest"), true
	}
	return Class{}, false
}

// unkept is the class of what nothing keeps for long, or of which that is not known.
func (b *Bottle) unkept() Class {
	c := WetMild
	switch {
	case b.Perishable:
		return WetPerishable
	case b.SoapNut:
		return SoapNutLiquid
	case !b.PHKnown:
		c.Why = "its pH is not known, so nothing is counted on: measure it, or keep it cold and use it within two weeks"
		return c
	case b.PH.High-b.PH.Low > 1:
		c.Why = fmt.Sprintf("its pH may be anything from %.1f to %.1f, so nothing is counted on: measure it, or keep it cold and use it within two weeks", b.PH.Low, b.PH.High)
		return c
	case b.PH.Low > mildAlkaline:
		if fresh := b.Fresh.Low; !b.Fresh.IsZero() && fresh <= b.leastPH() {
			c.Why = fmt.Sprintf("closed it stands at pH %.1f, where nothing stops mould: one week warm, two to three weeks cold", fresh)
			c.Figure = &Figure{Name: "pH, closed", Value: fresh, Limit: mildAlkaline}
			return c
		}
		c.Why = fmt.Sprintf("it is at pH %.1f, but too little stands behind that: air takes it to pH %.1f, where nothing stops mould; one week warm, two to three weeks cold", b.PH.Value, b.leastPH())
		c.Figure = &Figure{Name: "pH after a year of air", Value: b.leastPH(), Limit: mildAlkaline}
		return c
	}
	return WetMild.because("pH", b.PH.Value, SourPH, "", "at pH %.1f nothing in it stops mould: one week warm, two to three weeks cold")
}

// slow classes what ferments or holds a ferment. What was measured goes before what is
// usual of one that is ripe.
func (b *Bottle) slow() (Class, bool) {
	switch {
	case b.PHMeasured && b.PH.High >= AcidifiedPH:
		return Class{}, false // it has not turned sour, or is spoilt
	case b.Ferments && b.PHMeasured:
		return Ferment.because("pH", b.PH.Value, AcidifiedPH, "", "measured at pH %.1f, a ferment is ripe and keeps about a year cool"), true
	case b.Ferments:
		return FermentToRipen, true
	case b.Ferment >= fermentShare && b.PHKnown && b.mostPH() < AcidifiedPH:
		return Ferment.because("pH", b.PH.Value, AcidifiedPH, "", "at pH %.1f a ferment keeps about a year cool"), true
	case b.Ferment >= fermentShare && b.SoapNut && b.leastPH() < AcidifiedPH:
		return Ferment.because("ferment", b.Ferment*100, fermentShare*100, "%", "with %.0f %% of sour ferment in it soap-nut water keeps as the ferment does, about a year cool: measure that it is below pH 4.6"), true
	}
	return Class{}, false
}

// byPH classes what is too sour or too alkaline, as long as it stands.
func (b *Bottle) byPH() (Class, bool) {
	if !b.PHKnown {
		return Class{}, false
	}
	sour, alkaline := b.mostPH() < SourPH, b.leastPH() > AlkalinePH
	switch {
	case b.Infused && sour:
		return InfusedSour.because("pH", b.PH.Value, SourPH, "", "strained, at pH %.1f, it keeps about a year"), true
	case sour && !b.Perishable:
		return WetStrong.because("pH", b.PH.Value, SourPH, "", "at pH %.1f it is too sour for most mould"), true
	case sour && b.Cooked && b.Salt >= saltKeeps:
		return SourSalted.because("salt", b.Salt*100, saltKeeps*100, "%", "cooked, sour and with %.0f %% of salt, fruit keeps about three months cold"), true
	case b.Soap >= soapKeeps && b.PH.Low > soapPH:
		return WetSoap.because("soap", b.Soap*100, soapKeeps*100, "%", "%.0f %% of soap keeps itself about a year"), true
	case alkaline:
		return WetStrong.because("pH", b.PH.Value, AlkalinePH, "", "at pH %.1f, with enough alkali behind it that air does not use it up, it is too alkaline for most mould"), true
	case b.leastPH() > mildAlkaline:
		return WetAlkaline.because("pH after a year of air", b.leastPH(), mildAlkaline, "", "with enough alkali behind it that air leaves it at pH %.1f, it keeps about half a year"), true
	}
	return Class{}, false
}

// because is the class with the figure that decided.
func (c Class) because(name string, value, limit float64, unit, why string) Class {
	c.Why = fmt.Sprintf(why, value)
	c.Figure = &Figure{Name: name, Value: value, Limit: limit, Unit: unit}
	return c
}
