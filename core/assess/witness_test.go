package assess_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/safety"
)

// Every rule is found, as grave as its witness says, where that says, and not where it says
// not; and each grade of it in each context has a witness.
func TestEveryRuleBearsItsWitness(t *testing.T) {
	met := map[string][]string{}
	raised := func(kind, said, code string) (severities []string) {
		a := assess.Formula(spoken(t, formula.Kind(kind), said), material.Shipped(), assess.Options{Water: &assess.Water{Hardness: 3}})
		for _, c := range a.Cautions {
			if c.Code == code {
				met[code] = append(met[code], safety.Grade(c.Context, c.Severity))
				severities = append(severities, c.Severity.String())
			}
		}
		return severities
	}
	for _, r := range safety.Rules() {
		for _, found := range r.Witness.Found {
			parts := strings.Split(found, " | ")
			require.Len(t, parts, 3, r.Code)
			assert.Contains(t, raised(parts[1], parts[2], r.Code), parts[0], "%s in %s", r.Code, found)
		}
		assert.Subset(t, met[r.Code], r.Grades(), r.Code)
		held := !r.Conditional() // its condition keeps it out of one of them
		for _, not := range r.Witness.Not {
			kind, said, is := strings.Cut(not, " | ")
			require.True(t, is, r.Code)
			held = held || r.Together(materialsOf(t, formula.Kind(kind), said))
			assert.Empty(t, raised(kind, said, r.Code), "%s in %s", r.Code, not)
		}
		assert.True(t, held, "%s: no good without its condition has what has to meet", r.Code)
	}
}

func materialsOf(t *testing.T, kind formula.Kind, said string) (all []*material.Material) {
	for _, l := range formula.Resolve(spoken(t, kind, said), material.Shipped(), formula.Workshop{}).Lines {
		for m := range l.Material.Bases() {
			all = append(all, m)
		}
	}
	return all
}
