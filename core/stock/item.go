package stock

import (
	"fmt"
	"strings"

	"keencrock/core/quantity"
)

// ID names a lot, a piece or a making: a UUID.
type ID [16]byte

// IsZero reports whether it names nothing.
func (id ID) IsZero() bool { return id == ID{} }

// String returns the 32 digits of the id.
func (id ID) String() string { return fmt.Sprintf("%x", id[:]) }

// Kind is what sort of thing an item is.
type Kind string

// What can be counted.
const (
	Raw       Kind = "raw"       // bought, to make something of
	Packaging Kind = "packaging" // jars, lids, labels, pouches
	HalfMade  Kind = "half-made" // made here, to make something of
	Good      Kind = "good"      // made here, to be used or given out
)

// IsMade reports whether things of this kind are made here.
func (k Kind) IsMade() bool { return k == HalfMade || k == Good }

// Unit is what an item is counted in.
type Unit string

// The units of items.
const (
	InGrams       Unit = "g"
	InMillilitres Unit = "ml"
	InPieces      Unit = "piece"
)

// Item is one sort of thing that lots are of.
type Item struct {
	ID   string // of the material, or of [GoodID]
	Kind Kind
	Unit Unit
	Name string
}

// Tap is the item that comes from the tap: no lots are kept of it.
const Tap = "water"

const goodPrefix = "good-"

// GoodID is the item that the makings of a formula are lots of.
func GoodID(formula string) string { return goodPrefix + formula }

// FormulaOf returns the formula an item is made by; ok is false when it is not
// made here.
func FormulaOf(item string) (formula string, ok bool) { return strings.CutPrefix(item, goodPrefix) }

// packagingPrefix begins the item of every container.
const packagingPrefix = "pack-"

// PackagingID is the item of a container.
func PackagingID(id string) string { return packagingPrefix + id }

// IsPackaging reports whether an item is a container.
func IsPackaging(item string) bool { return strings.HasPrefix(item, packagingPrefix) }

// Container is a sort of jar, bottle or pouch that is filled.
type Container struct {
	Item    string
	Name    string
	HoldsML float64 // 0 where that is not known
	TareG   float64 // what it weighs empty; 0 where that is not known
}

// overfull is how much more than it holds a container takes when it is filled to the
// brim. From memory.
const overfull = 1.05

// HoldsG is what it holds of something of a density, in grams; 0 where that is not
// known.
func (c *Container) HoldsG(gPerML float64) float64 { return Round(c.HoldsML * gPerML) }

// MostG is the most of something of a density that goes in, in grams; 0 where that is
// not known.
func (c *Container) MostG(gPerML float64) float64 { return Round(overfull * c.HoldsG(gPerML)) }

// solidGPerML is denser than any powder of these goods can lie: what soda, baking soda
// and salt weigh without the air between them is 2.54, 2.20 and 2.17 g/ml (CRC
// Handbook, from memory).
const solidGPerML = 2.5

// Filling is what is to be held of a container that was filled.
type Filling uint8

// It holds what was to be expected; more than that, which teaches that the good lies
// denser than was reckoned; or more than can be.
const (
	AsReckoned Filling = iota
	Denser
	CannotBe
)

// Filled judges so many grams in a container of something whose density was reckoned in
// g/ml. What was weighed stands before what was reckoned: how a powder lies is a guess,
// and only what no powder weighs cannot be; what is poured weighs no more than the
// highest that its solution may.
func (c *Container) Filled(grams float64, gPerML quantity.Range, poured bool) Filling {
	most := c.MostG(gPerML.Value)
	switch {
	case most == 0 || grams <= most:
		return AsReckoned
	case poured && grams > c.MostG(max(gPerML.Value, gPerML.High)), !poured && grams > c.MostG(solidGPerML):
		return CannotBe
	}
	return Denser
}

// Fill says how many are full of so many grams, and what is left over.
func (c *Container) Fill(grams, gPerML float64) (full int, overG float64) {
	holds := c.HoldsG(gPerML)
	if holds <= 0 {
		return 0, 0
	}
	full = int(grams / holds)
	return full, Round(grams - float64(full)*holds)
}
