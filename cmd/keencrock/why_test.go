package main

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

const tab = `{"format": "keencrock/formula", "version": 3, "name": "Tab", "kind": "dish-tab", "lines": [{"material": "washing soda", "amount": "60 g"}, {"material": "citric acid", "amount": "20 g"}, {"material": "sodium percarbonate", "amount": "20 g"}], "uses": {"amount": "20 g"}}`

func askedWhy(t *testing.T, text string) api.WhyFound {
	t.Helper()
	out, err := run(whyCommand(), text)
	require.NoError(t, err)
	var f api.WhyFound
	require.NoError(t, json.Unmarshal(out, &f))
	return f
}

// A tab in hard water that leaves much of its hardness, and a film: lime, with the figure; in soft
// water it is the glass; and what was answered changes it at once.
func TestWhyPrintsCausesAndWhatToAsk(t *testing.T) {
	f := askedWhy(t, `{"good": `+tab+`, "seen": "film on the glasses", "water": {"hardness": "320 mg/l"}, "dose": "8 g"}`)
	assert.Equal(t, "lime", f.Causes[0].Cause)
	assert.Contains(t, strings.Join(f.Causes[0].Because, " "), "mmol/l fall out as chalk")
	require.NotEmpty(t, f.Ask.Test)
	assert.NotEmpty(t, f.Ask.Trouble)
	sum := 0.0
	for _, c := range f.Causes {
		sum += c.Odds
	}
	assert.InDelta(t, 1, sum, 1e-4)
	f = askedWhy(t, `{"good": `+tab+`, "seen": "film on the glasses", "water": {"hardness": "10 mg/l"}, "dose": "40 g", "answers": [{"test": "vinegar", "shown": "it stays"}, {"test": "new-glass", "shown": "no"}]}`)
	assert.Equal(t, "glass-worn", f.Causes[0].Cause)
	f = askedWhy(t, `{"seen": "bottle swells"}`)
	assert.Contains(t, f.Caution, "Glass can burst")
}

func TestWhatIsNoQuestionIsAProblem(t *testing.T) {
	var p *api.Problem
	for field, text := range map[string]string{
		"seen":             `{"seen": "the moon is blue"}`,
		"answers[0].test":  `{"seen": "film", "answers": [{"test": "moon", "shown": "yes"}]}`,
		"answers[0].shown": `{"seen": "film", "answers": [{"test": "vinegar", "shown": "perhaps"}]}`,
		"answers[1]":       `{"seen": "film", "answers": [{"test": "vinegar", "shown": "yes"}, {"test": "vinegar", "shown": "no"}]}`,
		"water.hardness":   `{"seen": "film", "water": {"hardness": "very"}}`,
		"dose":             `{"seen": "film", "dose": "blue"}`,
		"room_humidity":    `{"seen": "film", "room_humidity": 300}`,
		"":                 `[`,
	} {
		_, err := run(whyCommand(), text)
		require.ErrorAs(t, err, &p, text)
		assert.Equal(t, field, p.Field, text)
	}
}
