package dosing

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"

	"keencrock/core/formula"
)

// Machine is what a good is used in, and the water it meets there.
type Machine struct {
	ID, Name string
	UsedOn   string // laundry, dishes, surfaces or toilet
	WaterL   float64
	Source   string
}

// AsItIs stands for no machine: the hand, the cloth, the bottle itself.
var AsItIs = Machine{ID: "as-it-is", Name: "As it is", WaterL: 1, Source: "practice"}

// usedAsTheyAre are the kinds that go into no water before they are used; common
// practice.
var usedAsTheyAre = []formula.Kind{"hand-soap", "spray", "scouring-paste", "stain-remover", "drain-cleaner"}

// MachinesFor are those of a list that a kind of good is used in.
func MachinesFor(kind formula.Kind, all []Machine) (out []Machine) {
	if slices.Contains(usedAsTheyAre, kind) {
		return []Machine{AsItIs}
	}
	for _, m := range all {
		if m.UsedOn == kind.Info().UsedOn && (kind != "rinse-aid" && kind != "dish-tab" || m.ID != "sink") {
			out = append(out, m)
		}
	}
	return out
}

// UsualMachines are the usual ones, with what was measured of the water that a washing
// machine and a dishwasher take, in litres; 0 for not measured.
func UsualMachines(laundryL, dishesL float64) []Machine {
	all := slices.Clone(Machines())
	for i := range all {
		for id, measured := range map[string]float64{"front-loader": laundryL, "dishwasher": dishesL} {
			if all[i].ID == id && measured > 0 {
				all[i].WaterL = measured
			}
		}
	}
	return all
}

// MachineID is the id of a machine of one's own.
func MachineID(name string) string { return strings.Join(strings.Fields(strings.ToLower(name)), "-") }

// MostWaterL is more than any machine of a household takes.
const MostWaterL = 500

// Check refuses a machine that cannot be.
func (m Machine) Check() error {
	switch {
	case m.Name == "":
		return fmt.Errorf("give the machine a name")
	case !(m.WaterL > 0 && m.WaterL <= MostWaterL):
		return fmt.Errorf("%s: a machine takes up to %d litres, not %g", m.Name, MostWaterL, m.WaterL)
	}
	return nil
}

//go:embed machines.json
var machinesFile []byte

// Machines are the usual ones. The slice is shared and must not be changed.
var Machines = sync.OnceValue(func() []Machine {
	var all []Machine
	if err := json.Unmarshal(machinesFile, &all); err != nil {
		panic(fmt.Sprintf("dosing: %v", err))
	}
	return all
})
