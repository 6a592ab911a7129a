package hazard_test

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/hazard"
	"keencrock/core/material"
)

// alone is what a material comes out as at a share of what is not classed: poured, and of a
// pH that is not known, as its sheet speaks of it.
func alone(m *material.Material, share float64) []string {
	mix := &hazard.Mixture{Wet: m.Liquid() || m.Is(material.Wet), Ingredients: []hazard.Ingredient{{Material: m, Share: share}, {Material: nothing, Share: 1 - share}}}
	return append([]string{}, screen(mix).Codes()...)
}

// Each shipped material comes out as its witness says: by itself, at each of its limits and
// just under it.
func TestEveryMaterialBearsItsWitness(t *testing.T) {
	lib := material.Shipped()
	for _, m := range lib.All() {
		for _, w := range lib.Witnesses()[m.ID] {
			assert.Equal(t, append([]string{}, w.Codes...), alone(m, w.Share), "%s at %g %%", m.ID, 100*w.Share)
		}
	}
}

// A newcomer's row gets its witness from here, to be read and put right by its sources:
// KEEN_CROCK_WITNESS=core/material/library/witnesses.json writes the file anew.
func TestWitnessesAreWrittenOnlyWhereAskedFor(t *testing.T) {
	path := os.Getenv("KEEN_CROCK_WITNESS")
	if path == "" {
		t.Skip("KEEN_CROCK_WITNESS is not set")
	}
	lib := material.Shipped()
	var b strings.Builder
	b.WriteString("{\n")
	all := lib.All()
	for i, m := range all {
		shares := []float64{1}
		for _, p := range lib.HazardParts(m) {
			for _, limit := range p.Limits {
				at := limit / p.Share
				shares = append(shares, at*1.001, at*0.999)
			}
		}
		for _, general := range []float64{0.001, 0.003, 0.01, 0.03, 0.05, 0.1, 0.25} { // CLP, Annex I, tables 1.1 and of each class
			shares = append(shares, general*1.001, general*0.999)
		}
		slices.Sort(shares)
		var rows []string
		last := "?"
		for _, share := range shares {
			if share > 1 {
				continue
			}
			codes, err := json.Marshal(alone(m, share))
			require.NoError(t, err)
			if now := string(codes); now != last { // where it changes, on both sides
				if n := len(rows); n > 0 && last != "?" {
					rows = append(rows, fmt.Sprintf(`{"share": %.7g, "codes": %s}`, before, last))
				}
				rows = append(rows, fmt.Sprintf(`{"share": %.7g, "codes": %s}`, share, now))
				last = now
			}
			before = share
		}
		end := fmt.Sprintf(`{"share": %.7g, "codes": %s}`, before, last)
		rows = append(slices.DeleteFunc(rows, func(r string) bool { return r == end }), end)
		comma := ","
		if i == len(all)-1 {
			comma = ""
		}
		fmt.Fprintf(&b, "  %q: [%s]%s\n", m.ID, strings.Join(rows, ", "), comma)
	}
	b.WriteString("}\n")
	require.NoError(t, os.WriteFile(path, []byte(b.String()), 0o644))
}

var before float64
