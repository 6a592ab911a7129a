// Package vessel follows what stands in a vessel that is fed and drawn and never
// emptied: how much there is, how old it is, and how old what is drawn is.
//
// A vessel that is stirred before it is drawn is a stirred tank: whatever is drawn
// is of all ages in it, in the same shares (Danckwerts, Chem. Eng. Sci. 2, 1953).
// So its ages are followed parcel by parcel, without any approach. Sugar, peel and
// water carried through come out the same way.
package vessel

import (
	"fmt"
	"slices"
	"time"
)

// Kind is what is done to a vessel.
type Kind int

// A vessel is fed (so is a top-up with water), drawn through a sieve after it was
// stirred, or stirred.
const (
	Fed Kind = iota
	Drawn
	Stirred
)

var kindNames = []string{"fed", "drawn", "stirred"}

// String returns fed, drawn or stirred.
func (k Kind) String() string { return kindNames[k] }

// ParseKind reads what [Kind.String] gives.
func ParseKind(name string) (Kind, error) {
	if i := slices.Index(kindNames, name); i >= 0 {
		return Kind(i), nil
	}
	return 0, fmt.Errorf("a vessel is fed, drawn or stirred, not %q", name)
}

// Event is something that was done to a vessel.
type Event struct {
	Kind   Kind
	At     time.Time
	ML     float64 // of liquid, fed or drawn
	SugarG float64 // fed
	PeelG  float64 // fed: fruit, peel, nuts
}

// Parcel is what was fed at one time, as far as it is still there.
type Parcel struct {
	Since time.Time
	ML    float64
}

// Content is what is in a vessel, or was drawn from it: parcels, the oldest first.
type Content []Parcel

// ML is how much there is.
func (c Content) ML() float64 {
	sum := 0.0
	for _, p := range c {
		sum += p.ML
	}
	return sum
}

// MeanAge is the mean age at a time, by volume; 0 for nothing.
func (c Content) MeanAge(now time.Time) time.Duration {
	sum, whole := 0.0, c.ML()
	if whole == 0 {
		return 0
	}
	for _, p := range c {
		sum += p.ML / whole * now.Sub(p.Since).Seconds()
	}
	return time.Duration(sum * float64(time.Second))
}

// ShareYounger is the share, 0 to 1, that has been in for less than an age at a
// time.
func (c Content) ShareYounger(age time.Duration, now time.Time) float64 {
	young, whole := 0.0, c.ML()
	if whole == 0 {
		return 0
	}
	for _, p := range c {
		if now.Sub(p.Since) < age {
			young += p.ML
		}
	}
	return young / whole
}

// Youngest is the age below which the youngest share of it is, such as a tenth.
func (c Content) Youngest(share float64, now time.Time) time.Duration {
	left := share * c.ML()
	for _, p := range slices.Backward(c) {
		if left -= p.ML; left <= 0 {
			return now.Sub(p.Since)
		}
	}
	return 0
}

// Short says that more was drawn than there was.
type Short struct {
	Event    Event
	ThereML  float64
	WantedML float64
}

func (s *Short) Error() string {
	return fmt.Sprintf("only %.0f ml were in it on %s: %.0f ml cannot be drawn", s.ThereML, s.Event.At.Format("2 Jan 2006"), s.WantedML)
}

// tolerance is the volume below which a difference is nothing.
const tolerance = 1e-6

// Follow says what is in a vessel after its events, and what each draw took, in the
// order of the draws. Events that arrive late are put where they belong; those of
// one moment stay in the order given. The error is a [*Short].
func Follow(events []Event) (left Content, draws []Content, err error) {
	inOrder := slices.Clone(events)
	slices.SortStableFunc(inOrder, func(a, b Event) int { return a.At.Compare(b.At) })
	for _, e := range inOrder {
		switch e.Kind {
		case Fed:
			if e.ML > 0 {
				left = append(left, Parcel{e.At, e.ML})
			}
		case Drawn:
			there := left.ML()
			if e.ML > there+tolerance {
				return nil, nil, &Short{e, there, e.ML}
			}
			share := 0.0
			if there > 0 {
				share = min(1, e.ML/there)
			}
			draw := make(Content, 0, len(left))
			for i := range left {
				if took := left[i].ML * share; took > 0 {
					draw = append(draw, Parcel{left[i].Since, took})
				}
				left[i].ML *= 1 - share
			}
			left = slices.DeleteFunc(left, func(p Parcel) bool { return p.ML <= 0 })
			draws = append(draws, draw)
		}
	}
	return left, draws, nil
}
