package keeping

import (
	"fmt"
	"time"

	"keencrock/core/material"
)

// Ingredient is one lot that went, or would go, into a good.
type Ingredient struct {
	Name       string // of the material
	MadeHere   bool   // then its name is its own, and stands as it is
	Lot        string // empty when no lot is chosen yet
	BestBefore time.Time
	Opened     time.Time // zero while sealed
	OpenDays   int       // life once opened
	SealedDays int       // life sealed; used when no lot is chosen
	// Share is how much of the whole it is by mass, 0 where that is not known; OnlySmells
	// says that its age costs nothing but its smell or colour.
	Share      float64
	OnlySmells bool
}

// traceShare is under which share of the whole what only smells dates nothing. Common
// practice.
const traceShare = 0.005

// IsTrace reports whether there is so little of it that its age costs the good its smell
// and nothing else.
func (in *Ingredient) IsTrace() bool {
	return in.OnlySmells && in.Share > 0 && in.Share < traceShare
}

// called is what it is called in a sentence.
func (in *Ingredient) called() string {
	if in.MadeHere {
		return in.Name
	}
	return "the " + material.InSentence(in.Name)
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
	all = append(all, Limit{By: "class", What: class.Name, Date: made.AddDate(0, 0, class.ReadyDays+class.Days), Reason: class.Why})
	for _, in := range ingredients {
		if in.IsTrace() {
			continue
		}
		if !in.BestBefore.IsZero() {
			all = append(all, Limit{By: "lot", What: in.Name, Date: in.BestBefore,
				Reason: fmt.Sprintf("%s of lot %s is good until then", in.called(), in.Lot)})
		}
		if !in.Opened.IsZero() && in.OpenDays > 0 {
			all = append(all, Limit{By: "opened", What: in.Name, Date: in.Opened.AddDate(0, 0, in.OpenDays),
				Reason: fmt.Sprintf("%s of lot %s was opened on %s and keeps %d days open", in.called(), in.Lot, in.Opened.Format("2 Jan 2006"), in.OpenDays)})
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
	Days      int    // from when it is ready
	ReadyDays int    // until it is, from being set up
	LimitedBy string // code of the class, or the material's name
	Reason    string
	// FadesFirst are traces of what smells or colours, which go stale and date nothing.
	FadesFirst []string
}

// FromNew returns the life of a class made from fresh, sealed materials.
func FromNew(class Class, ingredients []Ingredient) Life {
	life := Life{Days: class.Days, ReadyDays: class.ReadyDays, LimitedBy: class.Code, Reason: class.Why}
	for _, in := range ingredients {
		if in.IsTrace() {
			life.FadesFirst = append(life.FadesFirst, in.Name)
			continue
		}
		if in.SealedDays > 0 && in.SealedDays < life.Days {
			life = Life{Days: in.SealedDays, ReadyDays: life.ReadyDays, FadesFirst: life.FadesFirst, LimitedBy: in.Name,
				Reason: fmt.Sprintf("%s itself keeps only about %d days", in.Name, in.SealedDays)}
		}
	}
	return life
}
