package listener_test

import (
	_ "embed"
	"fmt"
	"os"
	"strconv"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/listener"
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
		f := heard(t, said)
		f.Steps = nil // what it comes to is looked at here
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

// heard is the one good that is said, in US measures.
func heard(t *testing.T, said string) *formula.Formula {
	t.Helper()
	talk, err := listener.Read(said, material.Shipped())
	require.NoError(t, err, said)
	require.Len(t, talk.Goods, 1, said)
	return talk.Goods[0].Formula(material.Shipped(), quantity.US, formula.Workshop{})
}

// checkWords holds that nothing of a text is dropped: each letter of it stands in one
// word, in its place.
func checkWords(t *testing.T, text string) {
	t.Helper()
	talk, err := listener.Read(text, material.Shipped())
	if err != nil {
		t.Fatal(err)
	}
	end := 0
	for _, w := range talk.Words {
		if w.From < end || w.To <= w.From || w.To > len(talk.Text) {
			t.Fatalf("%q: %d to %d after %d", text, w.From, w.To, end)
		}
		if lost := strings.TrimSpace(talk.Text[end:w.From]); lost != "" {
			t.Errorf("%q: %q is dropped", text, lost)
		}
		end = w.To
	}
	if lost := strings.TrimSpace(talk.Text[end:]); lost != "" {
		t.Errorf("%q: %q is dropped", text, lost)
	}
}

func TestNothingSaidIsDropped(t *testing.T) {
	_, all, _ := strings.Cut(saidGoods, "== ")
	for _, good := range strings.Split(all, "\n== ") {
		_, body, _ := strings.Cut(good, "\n")
		said, _, _ := strings.Cut("\n"+body, "\n> ")
		checkWords(t, said)
	}
}

func FuzzRead(f *testing.F) {
	for _, said := range []string{"a 15", "1:4", "0:0", "a cup each of", "a cup eaCh of borax", "1. ..", ":8: : 000:0"} {
		f.Add(said)
	}
	_, all, _ := strings.Cut(saidGoods, "== ")
	for _, good := range strings.Split(all, "\n== ") {
		_, body, _ := strings.Cut(good, "\n")
		said, _, _ := strings.Cut("\n"+body, "\n> ")
		f.Add(said)
	}
	talks, err := os.ReadFile("testdata/talks.txt")
	require.NoError(f, err)
	for _, e := range strings.Split(string(talks), "\n== \n")[1:] {
		said, _, _ := strings.Cut("\n"+e, "\n> ")
		f.Add(said)
	}
	f.Fuzz(func(t *testing.T, text string) {
		if len(text) > 400 || !utf8.ValidString(text) {
			return
		}
		checkWords(t, text)
		talk, _ := listener.Read(text, material.Shipped())
		for _, g := range talk.Goods {
			formula.Resolve(g.Formula(material.Shipped(), quantity.US, formula.Workshop{}), material.Shipped(), formula.Workshop{})
		}
	})
}

// A sentence of ten lines, said with joiners.
const tenLines = "two cups of soap flakes and a cup each of washing soda, borax and baking soda, plus half a cup of citric acid, 1/4 cup salt, 2 tbsp oxygen bleach, a cup of epsom salts, 1 tbsp cornstarch and 20 to 30 drops of lavender"

func BenchmarkReadTenLines(b *testing.B) {
	talk, err := listener.Read(tenLines, material.Shipped())
	if err != nil || len(talk.Goods[0].Lines()) != 10 {
		b.Fatalf("%v", talk)
	}
	b.ReportAllocs()
	for b.Loop() {
		listener.Read(tenLines, material.Shipped()) //nolint:errcheck
	}
}

// The longest text that is read at once, of the densest kind.
func BenchmarkReadLongest(b *testing.B) {
	text := strings.Repeat(tenLines+". ", listener.MaxText/(len(tenLines)+2))
	for b.Loop() {
		if _, err := listener.Read(text, material.Shipped()); err != nil {
			b.Fatal(err)
		}
	}
}

// What is mixed by itself stands as a phase of one good, and is no good of its own.
func TestWhatIsMixedByItselfIsAPhase(t *testing.T) {
	talk, err := listener.Read("Bombs. First bowl: a cup of bicarb, half a cup citric acid. Second bowl: 2 tsp water, 10 drops peppermint.", material.Shipped())
	require.NoError(t, err)
	require.Len(t, talk.Goods, 1)
	f := talk.Goods[0].Formula(material.Shipped(), quantity.US, formula.Workshop{})
	var phases []string
	for _, l := range f.Lines {
		phases = append(phases, l.Phase)
	}
	assert.Equal(t, []string{"First bowl", "First bowl", "Second bowl", "Second bowl"}, phases)
}
