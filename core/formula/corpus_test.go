package formula_test

import (
	_ "embed"
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

//go:embed testdata/goods.txt
var saidGoods string

// Each line of the goods of the file is worked out to the material and the
// grams that stand under it, or asks what stands there.
func TestGoodsAsMakersSayThem(t *testing.T) {
	_, all, _ := strings.Cut(saidGoods, "== ")
	goods := strings.Split(all, "\n== ")
	assert.GreaterOrEqual(t, len(goods), 80)
	for _, good := range goods {
		name, body, _ := strings.Cut(good, "\n")
		said, wanted, _ := strings.Cut("\n"+body, "\n> ")
		f := &formula.Formula{Name: name, Measures: quantity.US}
		for _, s := range formula.ReadTalk(said, material.Shipped()) {
			if !s.Method {
				f.Lines = append(f.Lines, s.Line)
			}
		}
		r := formula.Resolve(f, material.Shipped(), formula.Workshop{})
		want := strings.Split(wanted, "\n> ")
		if !assert.Len(t, r.Lines, len(want), good) {
			continue
		}
		for i := range r.Lines {
			checkLine(t, name, strings.Fields(want[i]), r, i)
		}
	}
}

func checkLine(t *testing.T, name string, want []string, r *formula.Resolved, i int) {
	t.Helper()
	l := &r.Lines[i]
	where := fmt.Sprintf("%s: %s", name, strings.Join(want, " "))
	if j := len(want) - 2; j > 0 && want[j] == "?" {
		var asked []string
		for _, q := range r.Questions {
			if q.Line == i {
				asked = append(asked, q.Code)
			}
		}
		assert.Contains(t, asked, want[j+1], where)
		return
	}
	require.Len(t, want, 4, where)
	if !assert.NotNil(t, l.Material, where) {
		return
	}
	assert.Equal(t, want[0], l.Material.ID, where)
	for k, got := range []float64{l.MassG.Low, l.MassG.Value, l.MassG.High} {
		g, err := strconv.ParseFloat(want[1+k], 64)
		require.NoError(t, err)
		assert.InEpsilon(t, g, got, 1e-3, where)
	}
}
