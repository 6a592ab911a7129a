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
	// Sets are the parts of a step that can be set of this kind, by their names in a
	// formula file.
	Sets []string
	// Takes says that lines go in at it.
	Takes bool
	// Stirred says that it is stirred while it stands, WeighedIn that what stands there is
	// weighed again and again, to see how far it is.
	Stirred, WeighedIn bool
}

// StepKinds lists every kind of step, in the order a maker meets them.
var StepKinds = []StepInfo{
	{Kind: Weigh, Name: "Weigh out", Stage: AtScale},
	{Kind: Dissolve, Name: "Dissolve", Stage: AtBench, Sets: usually, Takes: true},
	{Kind: Mix, Name: "Mix", Stage: AtBench, Sets: usually, Takes: true},
	{Kind: Whip, Name: "Whip", Stage: AtBench, Sets: usually, Takes: true},
	{Kind: Blend, Name: "Blend", Stage: AtBench, Sets: usually, Takes: true},
	{Kind: Rub, Name: "Rub", Stage: AtBench, Sets: usually, Takes: true},
	{Kind: Grate, Name: "Grate", Stage: AtBench, Sets: usually, Takes: true},
	{Kind: Add, Name: "Add slowly", Stage: AtBench, Sets: []string{"by"}, Takes: true},
	{Kind: Heat, Name: "Heat", Stage: AtBench, Sets: []string{"for", "celsius", "vessel"}, Takes: true},
	{Kind: Cool, Name: "Cool", Stage: OnRack, Sets: usually},
	{Kind: Stand, Name: "Let stand", Stage: OnRack, Sets: usually, Takes: true},
	{Kind: Strain, Name: "Strain", Stage: AtBench, Sets: []string{"keep"}},
	{Kind: MakeUp, Name: "Make up", Stage: AtBench, Sets: []string{"to"}, Takes: true},
	{Kind: Check, Name: "Check", Stage: AtBench},
	{Kind: Press, Name: "Press", Stage: AtBench, Sets: []string{"mould", "pieces"}},
	{Kind: Dry, Name: "Dry", Stage: OnRack, Sets: []string{"for", "by_weight"}, WeighedIn: true},
	{Kind: Infuse, Name: "Infuse", Stage: OnRack, Sets: stirred, Takes: true, Stirred: true},
	{Kind: Steep, Name: "Steep", Stage: OnRack, Sets: stirred, Takes: true, Stirred: true},
	{Kind: Ferment, Name: "Ferment", Stage: OnRack, Sets: stirred, Takes: true, Stirred: true},
	{Kind: Fill, Name: "Fill", Stage: AtFilling},
	{Kind: Rest, Name: "Rest", Stage: OnRack, Sets: usually},
}

// usually are what can be set of most kinds, stirred of those that are stirred.
var (
	usually = []string{"for", "vessel"}
	stirred = []string{"for", "stir", "vessel"}
)

// Info returns what is known of a kind of step; an unknown one is done at the bench.
func (k StepKind) Info() StepInfo {
	for _, info := range StepKinds {
		if info.Kind == k {
			return info
		}
	}
	return StepInfo{Kind: k, Name: string(k), Stage: AtBench, Sets: usually, Takes: true}
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

// IsStirred reports whether a step is stirred while it stands.
func (s *Step) IsStirred() bool { return s.Stir != (quantity.Wait{}) || s.Kind.Info().Stirred }

// IsWeighedIn reports whether what stands there is weighed to see how far it is.
func (s *Step) IsWeighedIn() bool { return s.ByWeight || s.Kind.Info().WeighedIn }

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
