package formula

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"sync"

	"keencrock/core/quantity"
)

//go:embed usual_use.json
var usualUseFile []byte

// usualUse is how a kind of good is dosed in a machine, as makers say it; common
// practice.
type usualUse struct {
	Kind       Kind
	Machine    string
	Soft, Hard string
	soft, hard quantity.Amount
}

var usualUses = sync.OnceValue(func() []usualUse {
	var all []usualUse
	if err := json.Unmarshal(usualUseFile, &all); err != nil {
		panic(fmt.Sprintf("formula: %v", err))
	}
	for i := range all {
		all[i].soft, all[i].hard = quantity.MustParse(all[i].Soft), quantity.MustParse(all[i].Hard)
	}
	return all
})

// HardFrom is from which hardness makers speak of hard water: the class "hard" of the
// US Geological Survey, 120 mg/l as CaCO3.
var HardFrom = quantity.HardnessOfMGPerL(120)

// UsualMachine is what a kind of good is used in where nothing else is said: a front
// loader, a dishwasher, a bowl; empty for what is used as it is.
func UsualMachine(kind Kind) string {
	return map[string]string{"laundry": "front-loader", "dishes": "dishwasher", "toilet": "toilet"}[kind.Info().UsedOn]
}

// UsualUse is one use of a kind of good in a machine, as makers say it; ok is false where
// nothing is usual.
func UsualUse(kind Kind, machine string, h quantity.Hardness) (a quantity.Amount, ok bool) {
	for _, u := range usualUses() {
		if u.Kind == kind && u.Machine == machine {
			if h > HardFrom {
				return u.hard, true
			}
			return u.soft, true
		}
	}
	return a, false
}
