package tenant

import (
	"encoding/json"
	"fmt"

	"keencrock/api"
	"keencrock/core/keeping"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/internal/store"
)

// Snapshot is how a batch was assessed when it began, was measured or was
// finished. What is past is never worked out anew.
type Snapshot struct {
	Cautions   []api.Caution `json:"cautions"`
	Class      Class         `json:"class"`
	StrainsOut []string      `json:"strains_out,omitempty"` // items
	Poured     bool          `json:"poured,omitempty"`
	Dried      bool          `json:"dried,omitempty"` // what is lost of it is water that dries off
	Density    Figure        `json:"density,omitzero"`
	PH         Figure        `json:"ph,omitzero"`       // as it was measured, where it was
	MadeOf     []Part        `json:"made_of,omitempty"` // of one that is finished
	// PiecesEach is how many pieces are in each jar, as they were counted; 0 where they
	// were not.
	PiecesEach int `json:"pieces_each,omitempty"`
	// SpentInBowl is the share of the soda that an acid liquid spends while it is
	// mixed, as it was planned.
	SpentInBowl float64 `json:"spent_in_bowl,omitempty"`
	DrinksAbove float64 `json:"drinks_above,omitempty"` // the humidity, in per cent, from which it drinks water
}

// Class is the keeping class that was found.
type Class struct {
	Code string `json:"code"`
	Name string `json:"name"`
	Days int    `json:"days"`
	Why  string `json:"why"`
}

// Keeping puts it into the words of the core.
func (c Class) Keeping() keeping.Class {
	return keeping.Class{Code: c.Code, Name: c.Name, Days: c.Days, Why: c.Why}
}

// Figure is a number with its range.
type Figure struct {
	Value float64 `json:"value"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
}

// Part is a bought material in a good, and its share by mass.
type Part struct {
	Of    string  `json:"of"`
	Share float64 `json:"share"`
}

// ReadSnapshot reads what [json.Marshal] wrote of one.
func ReadSnapshot(content []byte) (*Snapshot, error) {
	var s Snapshot
	if len(content) == 0 {
		return &s, nil
	}
	if err := json.Unmarshal(content, &s); err != nil {
		return nil, fmt.Errorf("the snapshot of a batch: %w", err)
	}
	return &s, nil
}

// withGoods adds what the workshop made, each as it was made last, so that it can
// go into something else.
func withGoods(lib *material.Library, tx *store.Tx) (*material.Library, error) {
	goods, err := tx.Goods()
	if err != nil {
		return nil, err
	}
	var materials []material.Material
	for _, g := range goods {
		s, err := ReadSnapshot(g.Assessed)
		if err != nil {
			return nil, err
		}
		made := material.Made{ID: g.Item, Name: g.Name, Poured: s.Poured, Density: quantity.Range(s.Density), PH: quantity.Range(s.PH), Days: s.Class.Days}
		for _, p := range s.MadeOf {
			base, err := lib.Find(p.Of)
			if err != nil {
				base = material.Unknown(p.Of)
			}
			made.Of = append(made.Of, material.Base{Material: base, Share: p.Share})
		}
		m := made.Material()
		if len(made.Of) == 0 {
			m.Tags |= material.Stranger
		}
		materials = append(materials, m)
	}
	if all, err := lib.With(materials...); err == nil {
		return all, nil
	}
	for i := range materials { // a name means something else already, or a figure does not hold
		if lib, err = admit(lib, &materials[i]); err != nil {
			return nil, err
		}
	}
	return lib, nil
}

// IsMade reports whether an item is made here.
func IsMade(item string) bool {
	_, made := stock.FormulaOf(item)
	return made
}
