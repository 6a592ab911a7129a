package formula

import (
	"fmt"
	"strings"

	"keencrock/core/quantity"
)

// Step is one thing that is done to make a good.
type Step struct {
	Kind  StepKind
	Text  string        // what is done and why, in the maker's words
	Lines []int         // the lines that go in, from 0
	For   quantity.Wait // zero for as long as it takes
	// Celsius is how warm it is; 0 where that is not said.
	Celsius float64
	Vessel  string
	Stir    quantity.Wait // every so long, while it stands
	Check   string        // id of the check that is asked
	Mould   string
	Pieces  int
	By      By              // how a line is added slowly
	To      quantity.Amount // what is made up to; zero when not said
	Keep    string          // where what is strained out goes: freezer, compost
	// ByWeight dries until the weight no longer changes.
	ByWeight bool
}

// StepKind is what is done in a step.
type StepKind string

// What is done.
const (
	Weigh    StepKind = "weigh"
	Dissolve StepKind = "dissolve"
	Mix      StepKind = "mix"
	Whip     StepKind = "whip"
	Blend    StepKind = "blend"
	Rub      StepKind = "rub"
	Grate    StepKind = "grate"
	Add      StepKind = "add"
	Heat     StepKind = "heat"
	Cool     StepKind = "cool"
	Stand    StepKind = "stand"
	Strain   StepKind = "strain"
	MakeUp   StepKind = "make-up"
	Check    StepKind = "check"
	Press    StepKind = "press"
	Dry      StepKind = "dry"
	Infuse   StepKind = "infuse"
	Steep    StepKind = "steep"
	Ferment  StepKind = "ferment"
	Fill     StepKind = "fill"
	Rest     StepKind = "rest"
)

// Stage is where a step is done.
type Stage int

// On the scale, at the bench, on the rack, or where jars are filled.
const (
	AtScale Stage = iota
	AtBench
	OnRack
	AtFilling
)

// StepInfo is what is known of a kind of step.
type StepInfo struct {
	Kind  StepKind
	Name  string // as a maker says it
	Stage Stage
}

// StepKinds lists every kind of step, in the order a maker meets them.
var StepKinds = []StepInfo{
	{Weigh, "Weigh out", AtScale},
	{Dissolve, "Dissolve", AtBench},
	{Mix, "Mix", AtBench},
	{Whip, "Whip", AtBench},
	{Blend, "Blend", AtBench},
	{Rub, "Rub", AtBench},
	{Grate, "Grate", AtBench},
	{Add, "Add slowly", AtBench},
	{Heat, "Heat", AtBench},
	{Cool, "Cool", OnRack},
	{Stand, "Let stand", OnRack},
	{Strain, "Strain", AtBench},
	{MakeUp, "Make up", AtBench},
	{Check, "Check", AtBench},
	{Press, "Press", AtBench},
	{Dry, "Dry", OnRack},
	{Infuse, "Infuse", OnRack},
	{Steep, "Steep", OnRack},
	{Ferment, "Ferment", OnRack},
	{Fill, "Fill", AtFilling},
	{Rest, "Rest", OnRack},
}

// Info returns what is known of a kind of step; an unknown one is done at the bench.
func (k StepKind) Info() StepInfo {
	for _, info := range StepKinds {
		if info.Kind == k {
			return info
		}
	}
	return StepInfo{Kind: k, Name: string(k), Stage: AtBench}
}

// ParseStepKind reads a kind of step as formula files write it.
func ParseStepKind(s string) (StepKind, error) {
	names := make([]string, len(StepKinds))
	for i, info := range StepKinds {
		if string(info.Kind) == s {
			return info.Kind, nil
		}
		names[i] = string(info.Kind)
	}
	return "", fmt.Errorf("a step is not %q: expected one of %s", s, strings.Join(names, ", "))
}

// By is how a line is added slowly.
type By string

// By drops, by spoons, or as a mist.
const (
	ByDrop  By = "drop"
	BySpoon By = "spoon"
	ByMist  By = "mist"
)

// MaxSteps is the most steps a formula has.
const MaxSteps = 60

// StepOf is the step that a line goes in at, from 0: the last that names it. ok is
// false for one that no step names.
func (f *Formula) StepOf(line int) (step int, ok bool) {
	for i := len(f.Steps) - 1; i >= 0; i-- {
		if f.Steps[i].Kind == Weigh {
			continue
		}
		for _, l := range f.Steps[i].Lines {
			if l == line {
				return i, true
			}
		}
	}
	return 0, false
}
