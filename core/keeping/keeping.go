package keeping

import (
	"fmt"
	"time"

	"keencrock/core/material"
)

// Class is a sort of good by how it spoils.
type Class struct {
	Code string
	Name string
	Days int
	Why  string
}

// The classes of good. Common practice, lives from memory.
var (
	Dry           = Class{"dry", "dry powder", 730, "a dry powder keeps about two years airtight"}
	DryBleach     = Class{"dry-bleach", "dry powder with oxygen bleach", 180, "oxygen bleach fades in about half a year"}
	Effervescent  = Class{"effervescent", "dry acid and soda together", 270, "acid and soda slowly spend each other with the damp of the air"}
	WetMild       = Class{"wet-mild", "wet, mild and unpreserved", 14, "nothing in it stops mould: one week warm, two to three weeks cold"}
	WetStrong     = Class{"wet-strong", "wet, strongly acid, alkaline or salted", 365, "too sour, alkaline or salty for most mould"}
	WetPreserved  = Class{"wet-preserved", "wet and preserved", 365, "a preserved liquid keeps about a year"}
	WithAlcohol   = Class{"with-alcohol", "with a fifth of alcohol or more", 730, "alcohol keeps it; about two years closed"}
	WithPeroxide  = Class{"with-peroxide", "wet with peroxide", 30, "peroxide fades once it is out of its bottle"}
	WetSoap       = Class{"wet-soap", "strong liquid soap", 365, "undiluted soap is alkaline enough to keep about a year"}
	Ferment       = Class{"ferment", "ferment", 365, "a sour ferment keeps about a year cool"}
	InfusedSour   = Class{"infused-vinegar", "infused vinegar", 365, "strained vinegar keeps about a year"}
	SoapNutLiquid = Class{"soap-nut", "soap-nut water", 10, "soap-nut water sours within about ten days even when cold"}
)

// Makeup is what of a good decides its class. Shares are of the whole by
// mass, 0 to 1.
type Makeup struct {
	Wet            bool
	Kind           string // of the formula, for slow goods
	Water          float64
	Alcohol        float64
	Soap           float64 // dry soap
	StrongAcid     float64 // of an acid as such: acetic, citric
	StrongAlkali   float64
	Salt           float64
	Preserved      bool
	Peroxide       bool
	AcidAndSoda    bool
	PerishableLeft bool // fresh fruit or juice that is not strained out
}

// Limits from which a wet good keeps by itself. Common practice, from memory.
const (
	alcoholKeeps = 0.20
	acidKeeps    = 0.02
	alkaliKeeps  = 0.03
	saltKeeps    = 0.15
	soapKeeps    = 0.15
)

// Classify finds the class of a good.
func Classify(m Makeup) Class {
	switch {
	case !m.Wet && m.Peroxide:
		return DryBleach
	case !m.Wet && m.AcidAndSoda:
		return Effervescent
	case !m.Wet:
		return Dry
	case m.Kind == "ferment":
		return Ferment
	case m.Kind == "soap-nut-extract" && !m.Preserved && m.Alcohol < alcoholKeeps:
		return SoapNutLiquid
	case m.Peroxide:
		return WithPeroxide
	case m.Alcohol >= alcoholKeeps:
		return WithAlcohol
	case m.Kind == "infused-vinegar" && m.StrongAcid >= acidKeeps:
		return InfusedSour
	case m.PerishableLeft && !m.Preserved:
		return WetMild
	case m.StrongAcid >= acidKeeps && m.Soap == 0, m.StrongAlkali >= alkaliKeeps, m.Salt >= saltKeeps:
		return WetStrong
	case m.Preserved:
		return WetPreserved
	case m.Soap >= soapKeeps:
		return WetSoap
	}
	return WetMild
}

// Ingredient is one lot that went, or would go, into a good.
type Ingredient struct {
	Name       string // of the material
	Lot        string // empty when no lot is chosen yet
	BestBefore time.Time
	Opened     time.Time // zero while sealed
	OpenDays   int       // life once opened
	SealedDays int       // life sealed; used when no lot is chosen
}

// Limit is the day up to which something lets a good keep.
type Limit struct {
	By     string // "class", "lot" or "opened"
	What   string // the class or material it is about
	Date   time.Time
	Reason string
}

// BestBefore returns the earliest limit for a good made on a day, and all
// limits in the order class first, then ingredients as given.
func BestBefore(made time.Time, class Class, ingredients []Ingredient) (first Limit, all []Limit) {
	all = append(all, Limit{By: "class", What: class.Name, Date: made.AddDate(0, 0, class.Days), Reason: class.Why})
	for _, in := range ingredients {
		if !in.BestBefore.IsZero() {
			all = append(all, Limit{By: "lot", What: in.Name, Date: in.BestBefore,
				Reason: fmt.Sprintf("the %s of lot %s is good until then", material.InSentence(in.Name), in.Lot)})
		}
		if !in.Opened.IsZero() && in.OpenDays > 0 {
			all = append(all, Limit{By: "opened", What: in.Name, Date: in.Opened.AddDate(0, 0, in.OpenDays),
				Reason: fmt.Sprintf("the %s of lot %s was opened on %s and keeps %d days open", material.InSentence(in.Name), in.Lot, in.Opened.Format("2 Jan 2006"), in.OpenDays)})
		}
	}
	first = all[0]
	for _, l := range all[1:] {
		if l.Date.Before(first.Date) {
			first = l
		}
	}
	return first, all
}

// Life is how long a good keeps from new, before any lot is chosen.
type Life struct {
	Days      int
	LimitedBy string // code of the class, or the material's name
	Reason    string
}

// FromNew returns the life of a class made from fresh, sealed materials.
func FromNew(class Class, ingredients []Ingredient) Life {
	life := Life{Days: class.Days, LimitedBy: class.Code, Reason: class.Why}
	for _, in := range ingredients {
		if in.SealedDays > 0 && in.SealedDays < life.Days {
			life = Life{Days: in.SealedDays, LimitedBy: in.Name,
				Reason: fmt.Sprintf("%s itself keeps only about %d days", in.Name, in.SealedDays)}
		}
	}
	return life
}
