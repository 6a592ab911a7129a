package method_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/method"
	"keencrock/core/quantity"
)

func resolved(kind formula.Kind, lines ...string) *formula.Resolved {
	f := &formula.Formula{Name: "X", Kind: kind}
	for i := 0; i+1 < len(lines); i += 2 {
		f.Lines = append(f.Lines, formula.LineOf(lines[i+1], lines[i]))
	}
	return formula.Resolve(f, material.Shipped(), formula.Workshop{})
}

func tabs() *formula.Resolved {
	return resolved("dish-tab", "200 g", "washing soda", "100 g", "citric acid", "50 g", "salt", "10 ml", "water", "20 drops", "lemon oil")
}

func kinds(steps []formula.Step) []string {
	out := make([]string, len(steps))
	for i, s := range steps {
		out[i] = string(s.Kind)
	}
	return out
}

// Every kind of good has usual steps, every check they ask is known, and of a
// formula whose lines are all known each line goes in once. Common practice.
func TestEveryKindHasUsualSteps(t *testing.T) {
	for _, info := range formula.Kinds {
		ways := method.UsualOf(info.Kind)
		require.NotEmpty(t, ways, info.Kind)
		for _, u := range ways {
			r := resolved(info.Kind, "200 g", "washing soda", "1 l", "water", "50 g", "citric acid", "100 g", "grated soap", "100 ml", "liquid soap", "5 g", "xanthan gum", "10 drops", "lavender oil", "20", "soap nuts")
			require.Empty(t, r.Questions)
			steps := u.For(r)
			assert.Equal(t, formula.Weigh, steps[0].Kind)
			assert.Equal(t, formula.Fill, steps[len(steps)-1].Kind, "%s, %s", info.Kind, u.School)
			seen := map[int]int{}
			for _, s := range steps {
				for _, l := range s.Lines {
					seen[l]++
				}
				if s.Check != "" {
					_, known := method.FindCheck(s.Check)
					assert.True(t, known, s.Check)
				}
			}
			for i := range r.Lines {
				assert.Equal(t, 1, seen[i], "%s, %s: %s", info.Kind, u.School, r.Lines[i].Material.Name)
			}
		}
	}
}

// Only a bar has to be grated.
func TestFlakesAreNotGrated(t *testing.T) {
	way := method.UsualOf("laundry-powder")[0]
	assert.NotContains(t, kinds(way.For(resolved("laundry-powder", "200 g", "soap flakes", "200 g", "washing soda"))), "grate")
	assert.Contains(t, kinds(way.For(resolved("laundry-powder", "1 bar", "bar of soap", "200 g", "washing soda"))), "grate")
}

func TestATabIsMixedWettedPressedAndDried(t *testing.T) {
	r := tabs()
	steps := method.UsualOf("dish-tab")[0].For(r)
	assert.Equal(t, []string{"weigh", "mix", "add", "check", "add", "press", "dry", "check", "fill"}, kinds(steps))
	assert.Equal(t, []int{0, 1, 2}, steps[1].Lines)
	assert.Equal(t, []int{3}, steps[2].Lines)
	assert.Equal(t, formula.ByDrop, steps[2].By)
	assert.Equal(t, []int{4}, steps[4].Lines)
	assert.True(t, steps[6].ByWeight)
	assert.Equal(t, 48*time.Hour, steps[6].For.High)
	r.Formula.Steps = steps
	assert.Empty(t, formula.OrderFindings(r), "the usual order breaks no rule")
}

// What is wrong with an order is said in terms of its steps. All are common practice.
func TestTheOrderOfStepsIsChecked(t *testing.T) {
	codes := func(r *formula.Resolved, steps ...formula.Step) map[string]int {
		r.Formula.Steps = steps
		found := map[string]int{}
		for _, f := range formula.OrderFindings(r) {
			found[f.Code] = f.Step
		}
		return found
	}
	mix := func(lines ...int) formula.Step { return formula.Step{Kind: formula.Mix, Lines: lines} }
	assert.Equal(t, map[string]int{"binder-last": 0, "binder-slowly": 0, "no-step": -1}, codes(tabs(), mix(3), mix(0, 1, 2)))
	assert.Equal(t, map[string]int{"binder-slowly": 1, "no-step": -1}, codes(tabs(), mix(0, 1, 2), mix(3)))
	assert.Equal(t, map[string]int{"scent-last": 0}, codes(tabs(), mix(4), mix(0, 1, 2), formula.Step{Kind: formula.Add, Lines: []int{3}}))
	gel := func() *formula.Resolved {
		return resolved("dish-gel", "1 l", "water", "10 g", "xanthan gum", "50 g", "citric acid", "100 ml", "alkyl ether sulfate", "20 g", "salt", "10 drops", "lemon oil")
	}
	ten := formula.Step{Kind: formula.Mix, Lines: []int{0, 1}, For: quantity.Wait{Low: 10 * time.Minute, High: 10 * time.Minute}}
	assert.Empty(t, codes(gel(), ten, mix(2), mix(3), mix(4), mix(5)))
	assert.Equal(t, map[string]int{"thickener-hydrated": 1}, codes(gel(), mix(0, 1), mix(2), mix(3), mix(4), mix(5)))
	assert.Equal(t, map[string]int{"thickener-before-acid": 1}, codes(gel(), mix(0), mix(2), ten, mix(3), mix(4), mix(5)))
	assert.Equal(t, map[string]int{"soap-after-water": 0, "powder-before-soap": 0}, codes(gel(), mix(3), ten, mix(2), mix(4), mix(5)))
	assert.Equal(t, map[string]int{"salt-after-surfactant": 1}, codes(gel(), ten, mix(4), mix(2), mix(3), mix(5)))
	assert.Equal(t, map[string]int{"scent-heated": 3}, codes(gel(), ten, mix(2, 3, 4), mix(5), formula.Step{Kind: formula.Heat}))
}

func TestProseIsReadIntoSteps(t *testing.T) {
	r := tabs()
	steps := method.Read("Mix the washing soda, citric acid and salt for 5–10 min. Don't breathe the dust.\nAdd the water drop by drop, then press into the tray. Dry for two days.", r)
	assert.Equal(t, []string{"weigh", "mix", "add", "press", "dry", "fill"}, kinds(steps))
	assert.Equal(t, []int{0, 1, 2}, steps[1].Lines)
	assert.Equal(t, "5–10 min", steps[1].For.String())
	assert.Contains(t, steps[1].Text, "Don't breathe the dust.", "a remark stays with its step")
	assert.Equal(t, []int{3}, steps[2].Lines)
	assert.Equal(t, formula.ByDrop, steps[2].By)
	assert.Equal(t, "2 days", steps[4].For.String())

	nuts := resolved("soap-nut-extract", "15", "soap nuts", "1 l", "water")
	steps = method.Read("Soak the nuts in the water overnight; simmer in a large pot for 30 to 40 minutes, cool, strain through a cloth and freeze the nuts", nuts)
	assert.Equal(t, []string{"weigh", "steep", "heat", "cool", "strain", "fill"}, kinds(steps))
	assert.Equal(t, 8*time.Hour, steps[1].For.Low)
	assert.Equal(t, 95.0, steps[2].Celsius)
	assert.Equal(t, "pot", steps[2].Vessel)
	assert.Equal(t, "freezer", steps[4].Keep)

	peel := resolved("infused-vinegar", "1 l", "vinegar", "200 g", "citrus peel")
	steps = method.Read("Infuse the peel in the vinegar for 2 weeks. Stir every three days. Strain. Bottle.", peel)
	assert.Equal(t, []string{"weigh", "infuse", "strain", "fill"}, kinds(steps))
	assert.Equal(t, "3 days", steps[1].Stir.String())
	assert.Equal(t, []int{0, 1}, steps[1].Lines)

	assert.Empty(t, method.Read("Lovely stuff, my aunt's.", peel))
	assert.Empty(t, method.Read("", peel))
}

// How long a good keeps is no time of a step, and to keep something dry dries nothing.
func TestWhatKeepsIsNoStep(t *testing.T) {
	steps := method.Read("Leave for 10 minutes. Strain, and keep in the fridge up to two weeks. Keep dry.", resolved("spray", "1 l", "water"))
	assert.Equal(t, []string{"weigh", "stand", "strain", "fill"}, kinds(steps))
	assert.Equal(t, "10 min", steps[1].For.String())
	assert.True(t, steps[2].For.IsZero(), steps[2].For)
}

func TestChecksAreWhole(t *testing.T) {
	for _, c := range method.Checks {
		assert.NotEmpty(t, c.Question)
		assert.NotEmpty(t, c.Good)
		good := 0
		for _, a := range c.Answers {
			if a.Good {
				good++
			} else {
				assert.NotEmpty(t, a.Advice, "%s %s", c.ID, a.ID)
			}
			if a.Remedy.Material != "" {
				_, err := material.Shipped().Find(a.Remedy.Material)
				assert.NoError(t, err)
			}
		}
		assert.Equal(t, 1, good, c.ID)
	}
	c, _ := method.FindCheck("handful")
	a, _ := c.Find("crumbles")
	assert.True(t, a.Remedy.Binder)
	_, known := method.FindCheck("aura")
	assert.False(t, known)
}

// A drop is a twentieth of a millilitre, a teaspoon five (common practice), unless the
// workshop has its own drop.
func TestDosesWeighWhatTheirVolumeDoes(t *testing.T) {
	vinegar, err := material.Shipped().Find("vinegar")
	require.NoError(t, err)
	name, g := method.Dose(formula.ByDrop, vinegar, 0)
	assert.Equal(t, "drop", name)
	assert.InDelta(t, 0.05*vinegar.Density.Value, g, 1e-9)
	_, own := method.Dose(formula.ByDrop, vinegar, 0.04)
	assert.InDelta(t, 0.8*g, own, 1e-9)
	_, spoon := method.Dose(formula.BySpoon, nil, 0)
	assert.Equal(t, 5.0, spoon)
}

func TestARemedyIsOfWhatIsInTheBowl(t *testing.T) {
	r := tabs()
	in, massG := []*material.Material{nil}, []float64{900}
	for i := range r.Lines {
		in, massG = append(in, r.Lines[i].Material), append(massG, r.Lines[i].MassG.Value)
	}
	handful, _ := method.FindCheck("handful")
	crumbles, _ := handful.Find("crumbles")
	runny, _ := handful.Find("runny")
	assert.Equal(t, "Water", in[crumbles.Remedy.Of(in, massG)].Name, "the binder")
	assert.Equal(t, "Washing soda", in[runny.Remedy.Of(in, massG)].Name, "the powder there is most of")
	paste, _ := method.FindCheck("paste")
	lumpy, _ := paste.Find("lumpy")
	assert.Equal(t, -1, lumpy.Remedy.Of(in, massG), "water, whatever is in it")
}

// What stands at the end of a list is waited for by itself, and what is done with it again and
// again gives its rhythm. Common practice.
func TestWaitsAndRhythms(t *testing.T) {
	ferment := resolved("ferment", "300 g", "jaggery", "900 g", "fruit scraps", "3 l", "water")
	for prose, every := range map[string]time.Duration{
		"3 months. Open the lid daily.":            24 * time.Hour,
		"Three months. Burp it twice a day.":       12 * time.Hour,
		"3 months, burp it every other day.":       48 * time.Hour,
		"Leave 3 months. Let the gas out weekly.":  7 * 24 * time.Hour,
		"Ferment 3 months and stir it once a day.": 24 * time.Hour,
	} {
		steps := method.Read(prose, ferment)
		require.GreaterOrEqual(t, len(steps), 2, prose)
		assert.Equal(t, every, steps[1].Stir.Low, prose)
		assert.Equal(t, 90*24*time.Hour, steps[1].For.Low, prose)
	}
	assert.Equal(t, []string{"weigh", "ferment", "fill"}, kinds(method.Read("3 months.", ferment)))

	tended := method.Read("Burp daily for a month, after that once a week. Leave until 3 months are up.", ferment)
	require.Len(t, tended, 4)
	assert.Equal(t, 24*time.Hour, tended[1].Stir.Low, "the closer rhythm is what is told of")
	assert.Equal(t, 30*24*time.Hour, tended[1].For.Low)
	assert.Equal(t, 90*24*time.Hour, tended[2].For.Low)

	peel := resolved("other", "1 l", "white vinegar", "200 g", "orange peel", "1", "cinnamon stick")
	shaken := method.Read("Shake every day for two weeks. Strain.", peel)
	assert.Equal(t, []string{"weigh", "stand", "strain", "fill"}, kinds(shaken), "day by day is a wait")
	assert.Equal(t, 14*24*time.Hour, shaken[1].For.Low)
	assert.Equal(t, 24*time.Hour, shaken[1].Stir.Low)
	assert.Equal(t, []string{"weigh", "heat", "mix", "fill"}, kinds(method.Read("Simmer. Stir every 10 minutes for an hour.", peel)), "and what is stirred by the hour is none")
	steps := method.Read("1 bottle vinegar, peel of four oranges, a cinnamon stick, 2 weeks", peel)
	assert.Equal(t, []string{"weigh", "stand", "fill"}, kinds(steps))
	assert.Equal(t, "2 weeks.", steps[1].Text)

	balm := resolved("other", "50 g", "beeswax", "250 ml", "olive oil")
	steps = method.Read("50 g beeswax, 250 ml olive oil — melt in a water bath", balm)
	assert.Equal(t, []string{"weigh", "heat", "fill"}, kinds(steps))
	assert.Equal(t, "Melt in a water bath.", steps[1].Text)
}

// What something was made into before it was measured is no step; stirring till it melts is one. Common practice.
func TestWhatWasMadeBeforeIsNoStep(t *testing.T) {
	r := resolved("other", "200 g", "grated soap", "1 l", "water", "20 g", "dried lavender")
	assert.Equal(t, []string{"weigh", "mix", "fill"}, kinds(method.Read("200 g grated soap, 1 l boiled water, 20 g dried lavender, stir well", r)))
	assert.Equal(t, []string{"weigh", "mix", "stand", "fill"}, kinds(method.Read("Add 1 l of boiled and cooled water, leave overnight.", r)))
	assert.Equal(t, []string{"weigh", "grate", "mix", "fill"}, kinds(method.Read("Grate the soap, stir till it melts.", r)))
	assert.Equal(t, []string{"weigh", "mix", "press", "fill"}, kinds(method.Read("Mix, pack in moulds.", r)))
	assert.Equal(t, []string{"weigh", "heat", "fill"}, kinds(method.Read("200 g soap, bring to the boil.", r)))
}

// What must not boil is warmed and no more. Common practice.
func TestWhatMustNotBoilIsNotBoiled(t *testing.T) {
	r := resolved("other", "1 cup", "white vinegar", "1 cup", "water")
	for _, prose := range []string{"Warm it, don't boil.", "Heat gently without letting it boil.", "Warm it but never boil it."} {
		steps := method.Read(prose, r)
		assert.Equal(t, []string{"weigh", "heat", "fill"}, kinds(steps), prose)
		assert.Zero(t, steps[1].Celsius, prose)
	}
	assert.Equal(t, 100.0, method.Read("Boil it for ten minutes.", r)[1].Celsius)
	assert.Equal(t, []string{"weigh", "mix", "fill"}, kinds(method.Read("Stir, do not boil.", r)))
}
