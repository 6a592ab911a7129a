package starter_test

import (
	"crypto/sha256"
	"fmt"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/starter"
)

// What a starter is belongs to its version: who took one can be told what has changed.
func TestStartersThatChangeGoUpAVersion(t *testing.T) {
	file, err := os.ReadFile("starters.json")
	require.NoError(t, err)
	assert.Equal(t, sums[starter.Version()], fmt.Sprintf("%x", sha256.Sum256(file))[:16],
		"starters.json has changed: raise its version and write the sum of the new one here")
}

// sums are the first letters of the sum of starters.json, by version.
var sums = map[int]string{1: "c953e77113836944"}

func TestEveryKindHasAStarterOfMoreThanOneSchool(t *testing.T) {
	schools := map[formula.Kind][]string{}
	seen := map[string]bool{}
	for _, s := range starter.All() {
		kind, err := formula.ParseKind(string(s.Kind))
		require.NoError(t, err, s.ID)
		assert.NotContains(t, schools[kind], s.School, s.ID)
		assert.NotEmpty(t, s.Differs, s.ID)
		assert.False(t, seen[s.ID] || seen[s.Name], "%s stands here twice", s.ID)
		schools[kind], seen[s.ID], seen[s.Name] = append(schools[kind], s.School), true, true
	}
	for _, k := range formula.Kinds {
		assert.GreaterOrEqual(t, len(schools[k.Kind]), 2, k.Name)
	}
	assert.GreaterOrEqual(t, len(starter.All()), 40)
}

// Nothing is asked of a starter, its steps take every line in an order nothing is said
// against, and what it is cautioned of is what its file says: by weight and by the scoop, in
// every set of measures.
func TestAStarterIsWholeAndItsCautionsAreSaid(t *testing.T) {
	lib := material.Shipped()
	for _, s := range starter.All() {
		for _, measures := range []quantity.Measures{quantity.US, quantity.Metric, quantity.Imperial, quantity.Australian} {
			for _, by := range []starter.By{starter.Weight, starter.Scoop} {
				what := fmt.Sprintf("%s in %s, by %d", s.ID, measures, by)
				f := s.Formula(measures, by, lib, formula.Workshop{})
				a := assess.Formula(f, lib, assess.Options{})
				assert.Empty(t, a.Resolved.Questions, what)
				assert.Empty(t, a.Order, what)
				assert.NotNil(t, a.Uses, what)
				assert.NotEmpty(t, f.Steps, what)
				var said []string
				for _, c := range a.Cautions {
					if c.Severity > safety.Note {
						said = append(said, c.Code)
					}
				}
				assert.ElementsMatch(t, s.Cautions, said, what)
			}
		}
	}
}

// A scoop says the same good: no line is off by more than what a cup differs from the next
// when it is filled by hand, a tenth to a sixth (common practice).
func TestAScoopedStarterIsTheSameGood(t *testing.T) {
	lib := material.Shipped()
	for _, s := range starter.All() {
		weighed := formula.Resolve(s.Formula(quantity.US, starter.Weight, lib, formula.Workshop{}), lib, formula.Workshop{})
		for _, measures := range []quantity.Measures{quantity.US, quantity.Metric, quantity.Australian} {
			scooped := formula.Resolve(s.Formula(measures, starter.Scoop, lib, formula.Workshop{}), lib, formula.Workshop{})
			for i := range weighed.Lines {
				assert.InEpsilon(t, weighed.Lines[i].MassG.Value, scooped.Lines[i].MassG.Value, 0.15, "%s, line %d", s.ID, i+1)
			}
			uses, _ := weighed.Uses()
			more, _ := scooped.Uses()
			assert.InEpsilon(t, uses.Value, more.Value, 0.3, s.ID)
		}
	}
}

func TestAStarterIsFoundByItsID(t *testing.T) {
	s, ok := starter.Find("bombs-equal")
	require.True(t, ok)
	assert.True(t, slices.Contains(s.Materials(), "cornstarch"))
	_, ok = starter.Find("nothing")
	assert.False(t, ok)
}

func ExampleStarter_Formula() {
	s, _ := starter.Find("wash-powder-borax")
	f := s.Formula(quantity.US, starter.Scoop, material.Shipped(), formula.Workshop{})
	for _, l := range f.Lines {
		fmt.Println(l.Amount, l.Material)
	}
	// Output:
	// 7 cups soap-flakes
	// 2 cups washing-soda
	// 1 1/2 cups borax
}
