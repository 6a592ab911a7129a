package exchange_test

import (
	"bytes"
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/internal/exchange"
)

const towpath = `{"format": "keencrock/formula", "version": 1, "name": "Towpath", "kind": "laundry-powder", "measures": "us",
	"lines": [
		{"material": "soap flakes", "amount": "2 cups"},
		{"material": "washing-soda", "amount": "1 cup"},
		{"material": "borax", "amount": "1 cup"},
		{"material": "bicarb", "amount": "1 cup"}],
	"uses": {"amount": "1 tbsp"}}`

func schema(t *testing.T, name string) *jsonschema.Schema {
	t.Helper()
	f, err := os.Open("../../docs/formats/" + name + ".schema.json")
	require.NoError(t, err)
	defer f.Close()
	doc, err := jsonschema.UnmarshalJSON(f)
	require.NoError(t, err)
	c := jsonschema.NewCompiler()
	require.NoError(t, c.AddResource(name, doc))
	s, err := c.Compile(name)
	require.NoError(t, err)
	return s
}

func valid(t *testing.T, s *jsonschema.Schema, text []byte) error {
	t.Helper()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	return s.Validate(doc)
}

func TestFormulaAndAssessmentFitThePublishedSchemas(t *testing.T) {
	require.NoError(t, valid(t, schema(t, "formula"), []byte(towpath)))
	assert.Error(t, valid(t, schema(t, "formula"), []byte(`{"format": "keencrock/formula", "version": 1, "name": "x"}`)), "lines are missing")
	file, err := exchange.ReadFormula(strings.NewReader(towpath))
	require.NoError(t, err)
	prices, err := exchange.ReadPrices(strings.NewReader("material,amount,price,currency\nborax,1 kg,3.00,EUR\n"), material.Shipped())
	require.NoError(t, err)
	a := exchange.Assess(file, material.Shipped(), assess.Options{Prices: prices})
	text, err := json.Marshal(a)
	require.NoError(t, err)
	require.NoError(t, valid(t, schema(t, "assessment"), text))
	again, err := json.Marshal(file)
	require.NoError(t, err)
	require.NoError(t, valid(t, schema(t, "formula"), again))
}

func TestTheMainJobsFigures(t *testing.T) {
	file, err := exchange.ReadFormula(strings.NewReader("\xef\xbb\xbf" + towpath))
	require.NoError(t, err)
	a := exchange.Assess(file, material.Shipped(), assess.Options{})
	require.Empty(t, a.Problems)
	assert.Equal(t, []string{"soap-flakes", "washing-soda", "borax", "sodium-bicarbonate"},
		[]string{a.Lines[0].Material, a.Lines[1].Material, a.Lines[2].Material, a.Lines[3].Material})
	sum := 0.0
	for _, l := range a.Lines {
		sum += l.Share
		assert.LessOrEqual(t, l.MassG.Low, l.MassG.Value)
	}
	assert.InDelta(t, 1, sum, 1e-9)
	// Common practice: five cups at a tablespoon are eighty loads.
	assert.InDelta(t, 80, a.Uses.Value, 0.01)
	assert.Empty(t, a.Cost.Batch, "no price is known")
}

func TestBadFormulaFilesAreExplained(t *testing.T) {
	for what, c := range map[string]struct{ text, code, detail string }{
		"no JSON":       {`{"format": `, "bad-json", "no formula file"},
		"unknown field": {`{"format": "keencrock/formula", "version": 1, "flavour": 1}`, "bad-json", "flavour"},
		"wrong type":    {"{\"format\": \"keencrock/formula\",\n\"version\": \"one\"}", "bad-json", "version"},
		"other format":  {`{"format": "keencrock/label", "version": 1}`, "wrong-format", "keencrock/formula"},
		"later version": {`{"format": "keencrock/formula", "version": 9}`, "wrong-format", "version 9"},
		"two documents": {towpath + towpath, "bad-json", "after the end"},
		"too long":      {strings.Repeat(" ", 1<<20+1), "too-large", "1 MB"},
	} {
		_, err := exchange.ReadFormula(strings.NewReader(c.text))
		var p *api.Problem
		require.ErrorAs(t, err, &p, what)
		assert.Equal(t, c.code, p.Code, what)
		assert.Contains(t, p.Detail, c.detail, what)
	}
	_, err := exchange.ReadFormula(strings.NewReader("{\n\"format\": \"keencrock/formula\",\n\"version\": \"one\"}"))
	var p *api.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, 3, p.Row, "the line of the mistake")
}

func TestQuestionsNameTheFieldAndTheNearest(t *testing.T) {
	file := &api.FormulaFile{Name: "", Kind: "soup", Measures: "cubits", Loss: 0.9, Lines: []api.FormulaLine{
		{Material: "boraks", Amount: "1 cup"}, {Material: "borax", Amount: "1 cusp"}, {Material: "water", Amount: "to 10 g"}, {Material: "salt", Amount: "20 g"}},
		Uses: api.OneUse{Amount: "some"}}
	a := exchange.Assess(file, material.Shipped(), assess.Options{})
	fields := map[string]string{}
	for _, q := range a.Questions {
		fields[q.Field] = q.Code
		assert.NotEmpty(t, q.Detail)
	}
	assert.Empty(t, a.Problems, "all of it can be answered")
	assert.Equal(t, map[string]string{"name": "bad-value", "kind": "bad-value", "measures": "bad-value", "uses": "bad-amount",
		"loss": "bad-loss", "lines[0].material": "unknown-material", "lines[1].amount": "bad-amount", "lines[2].amount": "nothing-left"}, fields)
}

// Whatever is a formula file is assessed as far as it goes, its answer is JSON
// (no figure in it is infinite), and what is written of it is read again.
func FuzzReadFormula(f *testing.F) {
	f.Add([]byte(towpath))
	f.Add([]byte(`{"format": "keencrock/formula", "version": 2, "name": "x", "lines": [{"material": "vinegar", "amount": "1 cup or 250 ml"}, {"material": "black soap", "amount": "a bit"}]}`))
	f.Add([]byte(`{"format": "keencrock/formula", "version": 1, "name": "x", "loss": 0.99, "measured_ph": {"ph": 9, "with": "strip"}, "lines": [{"material": "water", "amount": "to 10 l"}], "uses": {"amount": "1 tbsp"}}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		file, err := exchange.ReadFormula(bytes.NewReader(text))
		if err != nil {
			assert.ErrorAs(t, err, new(*api.Problem))
			return
		}
		_, err = json.Marshal(exchange.Assess(file, material.Shipped(), assess.Options{}))
		require.NoError(t, err)
		again, err := json.Marshal(file)
		require.NoError(t, err)
		_, err = exchange.ReadFormula(bytes.NewReader(again))
		require.NoError(t, err)
	})
}

// What is said at greater length than a line takes is cut, so that the line can be kept.
func TestASpokenLineIsNoLongerThanALineMayBe(t *testing.T) {
	lib := material.Shipped()
	talk, err := listener.Read("1 cup of "+strings.Repeat("clay ", 60), lib)
	require.NoError(t, err)
	lines := exchange.SpokenLines(talk, lib)
	require.NotEmpty(t, lines)
	for _, l := range lines {
		assert.LessOrEqual(t, len([]rune(l.Line.Material)), 80)
	}
}
