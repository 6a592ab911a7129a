package safety

import (
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"

	"keencrock/core/material"
)

//go:embed rules.json
var rulesFile []byte

// Rules returns the shipped rules. It panics when they are not valid, which a
// test rules out.
var Rules = sync.OnceValue(func() []Rule {
	rules, err := load(rulesFile)
	if err != nil {
		panic(fmt.Sprintf("safety: %v", err))
	}
	return rules
})

// ruleEntry is a line of rules.json as it is written.
type ruleEntry struct {
	Code      string
	Witness   Witness
	Together  [][]string
	Condition string
	In        []outcomeEntry
}

// outcomeEntry is what it says in a context.
type outcomeEntry struct {
	Context, Of, Severity, Text, Advice, Measure, Above, Below string
}

func load(data []byte) ([]Rule, error) {
	var entries []ruleEntry
	if err := json.Unmarshal(data, &entries); err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	rules := make([]Rule, 0, len(entries))
	for _, e := range entries {
		if seen[e.Code] {
			return nil, fmt.Errorf("rule %q is double", e.Code)
		}
		seen[e.Code] = true
		r, err := e.rule()
		if err != nil {
			return nil, fmt.Errorf("rule %s: %w", e.Code, err)
		}
		rules = append(rules, r)
	}
	return rules, nil
}

// rule is the entry, ready to be applied; an error says what is wrong with it.
func (e *ruleEntry) rule() (Rule, error) {
	r := Rule{Code: e.Code, Witness: e.Witness}
	if len(e.Together) == 0 || len(e.In) == 0 {
		return r, errors.New("it meets nothing, or says nothing")
	}
	if len(e.Witness.Found) == 0 || len(e.Witness.Not) == 0 || e.Witness.Source == "" {
		return r, errors.New("it has no witness: what it is found in, what not, and by which source")
	}
	for _, group := range e.Together {
		var any material.Tags
		for _, name := range group {
			t, err := material.ParseTag(name)
			if err != nil {
				return r, err
			}
			any |= t
		}
		r.together = append(r.together, any)
	}
	for _, name := range strings.Fields(e.Condition) {
		holds := conditions[name]
		if holds == nil {
			return r, fmt.Errorf("condition %q is not known", name)
		}
		r.condition = append(r.condition, holds)
	}
	for _, in := range e.In {
		o, err := in.outcome()
		if err != nil {
			return r, err
		}
		r.in = append(r.in, o)
	}
	return r, nil
}

// outcome is the entry, ready to be applied. What is said of no place is of the bottle, or of
// its use where one thing is used after another.
func (e *outcomeEntry) outcome() (outcome, error) {
	o := outcome{context: Context(e.Context), of: Of(e.Of), text: e.Text, advice: e.Advice, below: e.Below != ""}
	if e.Measure != "" {
		if o.measure = measures[e.Measure]; o.measure == nil {
			return o, fmt.Errorf("measure %q is not known", e.Measure)
		}
		var known bool
		if o.limit, known = limits[e.Above+e.Below]; !known {
			return o, fmt.Errorf("a measure is above or below a named limit, not above %q and below %q", e.Above, e.Below)
		}
		o.from = limitWords(e.Measure, o.limit)
	}
	for s, name := range severityNames {
		if name != "" && name == e.Severity {
			o.severity = Severity(s)
		}
	}
	if o.of == "" {
		if o.of = OfBottle; o.context == OneAfterOther {
			o.of = OfUse
		}
	}
	if o.of != OfMaking && o.of != OfBottle && o.of != OfUse {
		return o, fmt.Errorf("a caution is of making, bottle or use, not of %q", e.Of)
	}
	known := o.context == SamePotWet || o.context == SameJarDry || o.context == OneAfterOther
	if !known || o.severity == 0 || o.text == "" || o.advice == "" {
		return o, errors.New("each outcome needs a known context and severity, a text and an advice")
	}
	return o, nil
}
