package formula_test

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"

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
		for _, s := range formula.ReadText(said, material.Shipped()) {
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

// letters are what of a text can be lost: its letters and digits, in order.
func letters(text string) []rune {
	var out []rune
	for _, r := range text {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			out = append(out, r)
		}
	}
	slices.Sort(out)
	return out
}

// checkPieces holds that nothing of a text is dropped: what became of each part
// of it is shown.
func checkPieces(t *testing.T, text string) {
	t.Helper()
	var shown strings.Builder
	for _, s := range formula.ReadText(text, material.Shipped()) {
		for _, p := range s.Pieces {
			shown.WriteString(p.Text)
		}
	}
	if want, got := letters(text), letters(shown.String()); !slices.Equal(want, got) {
		t.Errorf("%q is shown as %q", text, shown.String())
	}
}

func TestNothingSaidIsDropped(t *testing.T) {
	_, all, _ := strings.Cut(saidGoods, "== ")
	for _, good := range strings.Split(all, "\n== ") {
		_, body, _ := strings.Cut(good, "\n")
		said, _, _ := strings.Cut("\n"+body, "\n> ")
		checkPieces(t, said)
	}
}

func FuzzReadText(f *testing.F) {
	for _, said := range []string{"a 15", "1:4", "0:0", "a cup each of", "a cup eaCh of borax", "1. ..", ":8: : 000:0"} {
		f.Add(said)
	}
	_, all, _ := strings.Cut(saidGoods, "== ")
	for _, good := range strings.Split(all, "\n== ") {
		_, body, _ := strings.Cut(good, "\n")
		said, _, _ := strings.Cut("\n"+body, "\n> ")
		f.Add(said)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if len(text) > 400 || !utf8.ValidString(text) {
			return
		}
		checkPieces(t, text)
		r := &formula.Formula{Measures: quantity.US}
		for _, s := range formula.ReadText(text, material.Shipped()) {
			r.Lines = append(r.Lines, s.Line)
		}
		formula.Resolve(r, material.Shipped(), formula.Workshop{})
	})
}

// A sentence of ten lines, said with joiners.
const tenLines = "two cups of soap flakes and a cup each of washing soda, borax and baking soda, plus half a cup of citric acid, 1/4 cup salt, 2 tbsp oxygen bleach, a cup of epsom salts, 1 tbsp cornstarch and 20 to 30 drops of lavender"

func BenchmarkReadTenLines(b *testing.B) {
	if n := len(formula.ReadText(tenLines, material.Shipped())); n != 10 {
		b.Fatalf("%d lines", n)
	}
	b.ReportAllocs()
	for b.Loop() {
		formula.ReadText(tenLines, material.Shipped())
	}
}
