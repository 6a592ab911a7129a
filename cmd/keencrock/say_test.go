package main

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"

	"github.com/spf13/cobra"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// run runs a command with what stands on its standard input.
func run(cmd *cobra.Command, stdin string, args ...string) (out []byte, err error) {
	var stdout bytes.Buffer
	cmd.SilenceUsage, cmd.SilenceErrors = true, true
	cmd.SetArgs(append([]string{"-"}, args...))
	cmd.SetIn(strings.NewReader(stdin))
	cmd.SetOut(&stdout)
	err = cmd.Execute()
	return stdout.Bytes(), err
}

// The words of what was said are the text: each in its place, in letters.
func TestSayPrintsAFormulaAndWhatBecameOfEachWord(t *testing.T) {
	text := "two cups of soap flakes — no, three — and a cup of borax; never bleach"
	out, err := run(sayCommand(), text, "--measures", "metric")
	require.NoError(t, err)
	var said struct {
		Formula struct {
			Format, Measures string
			Lines            []struct{ Material, Amount string }
		}
		Words []struct {
			Text, Became string
			From, To     int
		}
		Not []struct{ Material string }
	}
	require.NoError(t, json.Unmarshal(out, &said))
	assert.Equal(t, "keencrock/formula", said.Formula.Format)
	assert.Equal(t, "metric", said.Formula.Measures)
	require.Len(t, said.Formula.Lines, 2)
	assert.Equal(t, "3 cups", said.Formula.Lines[0].Amount)
	require.Len(t, said.Not, 1)
	assert.Equal(t, "chlorine-bleach", said.Not[0].Material)
	letters := []rune(text)
	for _, w := range said.Words {
		assert.Equal(t, w.Text, string(letters[w.From:w.To]))
	}
	_, err = run(sayCommand(), text, "--measures", "cubits")
	assert.ErrorContains(t, err, "not known")
	_, err = run(sayCommand(), strings.Repeat("x", 20_001))
	assert.ErrorContains(t, err, "say it in parts")
}

func TestDeliveryPrintsLots(t *testing.T) {
	out, err := run(deliveryCommand(), "3 x 1 kg citric acid at £5.20 each from Quayside, best 2027-06, and a bag of borax", "--currency", "EUR", "--today", "2026-06-01")
	require.NoError(t, err)
	var read struct {
		Lots []struct {
			Material, Price, Currency, Supplier string
			MassG                               float64 `json:"mass_g"`
			Packs                               int
			BestBefore                          string `json:"best_before"`
		}
		Questions []struct{ Detail string }
	}
	require.NoError(t, json.Unmarshal(out, &read))
	require.Len(t, read.Lots, 2)
	l := read.Lots[0]
	assert.Equal(t, []any{"citric-acid", "15.60", "GBP", "Quayside", 3000.0, 3, "2027-06-30"}, []any{l.Material, l.Price, l.Currency, l.Supplier, l.MassG, l.Packs, l.BestBefore})
	require.Len(t, read.Questions, 1)
	assert.Equal(t, "How much is in the bag?", read.Questions[0].Detail)
	_, err = run(deliveryCommand(), "1 kg borax", "--today", "someday")
	assert.ErrorContains(t, err, "cannot be read")
}
