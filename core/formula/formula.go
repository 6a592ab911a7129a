package formula

import (
	"fmt"

	"keencrock/core/quantity"
)

// Formula is a good as its maker writes it.
type Formula struct {
	Name      string
	Kind      Kind
	Measures  quantity.Measures
	Parts     PartsBy
	Lines     []Line
	Yield     quantity.Amount // what the batch gives: "24 tabs", "10 l"; zero when not said
	Use       quantity.Amount // one use: "1 tbsp", "1 tab"; zero when not said
	UseWater  quantity.Amount // what one use goes into: "20 l"; zero when not said
	Doses     []Dose          // one use by machine, where that was said; the first is Use
	LossShare float64         // share that sticks, dries off or is strained out, 0 to 0.5
	Steps     []Step          // how it is made, in order; none for one that says it in prose
	Method    string          // how it is made, in prose
	Notes     string
	// MeasuredPH is what a strip or a meter read, of the good as it stands when
	// it is wet, else as it is used; nil when it was not measured.
	MeasuredPH *MeasuredPH
}

// Dose is how much of a good is used at once, and in what.
type Dose struct {
	For    string // id of a machine, such as front-loader; empty for any
	Amount quantity.Amount
	Water  quantity.Amount // what it goes into; zero when not said
}

// Meter is what a pH was measured with.
type Meter string

// A strip is good to half a unit, a meter to a twentieth.
const (
	WithStrip Meter = "strip"
	WithMeter Meter = "meter"
)

// MeasuredPH is a reading that was measured.
type MeasuredPH struct {
	PH   float64
	With Meter
}

// Range is what the pH may be. Common practice: a strip is read to half a unit,
// a meter that was calibrated to 0.05.
func (m *MeasuredPH) Range() quantity.Range {
	off := 0.5
	if m.With == WithMeter {
		off = 0.05
	}
	return quantity.Range{Value: m.PH, Low: max(0, m.PH-off), High: min(14, m.PH+off)}
}

// Line is one material of a formula and how much of it.
type Line struct {
	Material string // id or any name in use
	Amount   quantity.Amount
	Also     quantity.Amount // the same amount said another way; zero when it is said once
	Written  string          // the amount as the maker typed it
	Unread   error           // why the written amount could not be read; a *quantity.ParseError
	Phase    string          // lines of one phase are mixed together; empty for the only one
	Purpose  string
	Note     string  // what was said of its state: grated, fresh
	Celsius  float64 // as it is poured in; 0 when it is not said
	Optional bool
	// Alternatives may take its place, in one act.
	Alternatives []Line
}

// PartsBy says what "3 parts" counts.
type PartsBy uint8

// Parts by mass, the zero value, or by volume.
const (
	ByMass PartsBy = iota
	ByVolume
)

// String returns mass or volume.
func (p PartsBy) String() string {
	if p == ByVolume {
		return "volume"
	}
	return "mass"
}

// ParsePartsBy reads mass or volume; the empty string means mass.
func ParsePartsBy(s string) (PartsBy, error) {
	switch s {
	case "", "mass":
		return ByMass, nil
	case "volume":
		return ByVolume, nil
	}
	return 0, fmt.Errorf("parts by %q is not known: expected mass or volume", s)
}

// MaxLines is the longest formula taken.
const MaxLines = 60

// MaxLossShare is the largest loss that still leaves a batch worth making.
const MaxLossShare = 0.5
