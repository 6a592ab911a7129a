package listener_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// told is what was heard of a talk, a line for each thing: what the corpus is held
// against.
func told(t testing.TB, text string) []string {
	t.Helper()
	talk, err := listener.Read(text, material.Shipped())
	require.NoError(t, err)
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	for i, g := range talk.Goods {
		if i > 0 {
			say("and")
		}
		if g.Kind != "other" || g.Name != "" {
			say("good %s %s", g.Kind, g.Name)
		}
		f := g.Formula(material.Shipped(), quantity.US, formula.Workshop{})
		for _, l := range f.Lines {
			line := fmt.Sprintf("%s | %s", l.Material, l.Amount)
			if l.Optional {
				line += " | optional"
			}
			for _, a := range l.Alternatives {
				line += fmt.Sprintf(" | or %s %s", a.Amount, a.Material)
			}
			say("%s", line)
		}
		if !g.Yield.IsZero() {
			say("yield %s", g.Yield)
		}
		for _, d := range g.Doses {
			say("dose %s", strings.Join(strings.Fields(fmt.Sprintf("%s %s in %s", d.For, d.Amount, d.Water)), " "))
		}
		for _, n := range g.Notes {
			say("note %s", n)
		}
		for _, m := range g.Not {
			say("not %s", m.ID)
		}
		for _, s := range f.Steps {
			if s.Kind != formula.Weigh {
				say("%s", strings.TrimRight(fmt.Sprintf("step %s %s", s.Kind, s.For), " "))
			}
		}
		for _, q := range formula.Resolve(f, material.Shipped(), formula.Workshop{}).Questions {
			say("? %d %s", q.Line, q.Code)
		}
		for _, u := range g.Unsure {
			say("? %d %s", u.Line, u.Code)
		}
	}
	return out
}

// received is what was heard of a note on what came.
func received(t testing.TB, note string) []string {
	t.Helper()
	d := delivered(t, note)
	var out []string
	for _, l := range d.Lots {
		name, price, best := l.Name, "-", "-"
		if l.Material != nil {
			name = l.Material.ID
		}
		if l.HasPrice {
			price = l.Price.StringFixed(2) + " " + l.Currency
		}
		if !l.BestBefore.IsZero() {
			best = l.BestBefore.Format("2006-01-02")
		}
		out = append(out, fmt.Sprintf("%s | %.6g g | %d | %s | %s | %s | %s", name, l.MassG, l.Packs, price, or(l.Supplier), or(l.LotCode), best))
	}
	for _, u := range d.Unsure {
		out = append(out, fmt.Sprintf("? %d %s", u.Line, u.Code))
	}
	return out
}

func or(s string) string {
	if s == "" {
		return "-"
	}
	return s
}

// corpus runs each entry of a file: what is said, and under it, after “> ”, what it was.
// With KEEN_CROCK_CORPUS set it writes what is heard now: read all of it before it stays.
func corpus(t *testing.T, path string, least int, heard func(testing.TB, string) []string) {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	head, all, _ := strings.Cut(string(data), "\n== \n")
	entries := strings.Split(strings.TrimSuffix(all, "\n"), "\n== \n")
	assert.GreaterOrEqual(t, len(entries), least)
	var anew strings.Builder
	anew.WriteString(head)
	for _, e := range entries {
		said, want, _ := strings.Cut("\n"+e, "\n> ")
		said = strings.TrimPrefix(said, "\n")
		got := heard(t, said)
		anew.WriteString("\n== \n" + said)
		for _, g := range got {
			anew.WriteString("\n> " + g)
		}
		if os.Getenv("KEEN_CROCK_CORPUS") == "" {
			assert.Equal(t, strings.Split(want, "\n> "), got, said)
		}
	}
	if os.Getenv("KEEN_CROCK_CORPUS") != "" {
		require.NoError(t, os.WriteFile(path, []byte(anew.String()+"\n"), 0o644))
	}
}

// Whole talks as makers say them: which lines, how much, what may take their place, what
// it is not, how it is made and used, and what is asked.
func TestTalksAsMakersSayThem(t *testing.T) { corpus(t, "testdata/talks.txt", 150, told) }

// Notes on what came, each lot with its mass, packs, price, supplier, code and date.
func TestDeliveriesAsMakersNoteThem(t *testing.T) { corpus(t, "testdata/deliveries.txt", 80, received) }

func TestEveryWordOfTheCorpusIsKept(t *testing.T) {
	data, err := os.ReadFile("testdata/talks.txt")
	require.NoError(t, err)
	for _, e := range strings.Split(string(data), "\n== \n")[1:] {
		said, _, _ := strings.Cut("\n"+e, "\n> ")
		checkWords(t, said)
	}
}
