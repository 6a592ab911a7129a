package method

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"

	"keencrock/core/quantity"
)

// Check is something that is looked at on the way.
type Check struct {
	ID       string
	Question string
	Good     string // what it looks like when it is right
	Answers  []Answer
}

// Answer is what may be seen, and what is done about it.
type Answer struct {
	ID     string
	Text   string
	Good   bool
	Advice string
	Remedy Remedy
	Label  string // what has to stand on the label then
}

// Remedy is what is added then; the zero value is nothing.
type Remedy struct {
	Material string // by name
	Binder   bool   // the liquid that binds it
	Most     bool   // the powder there is most of
	Amount   quantity.Amount
}

// IsNothing reports whether nothing is added.
func (r *Remedy) IsNothing() bool { return r.Amount.IsZero() }

//go:embed checks.json
var checksData []byte

// Checks are the checks that ship, in the order a maker meets them.
var Checks = readChecks(checksData)

// FindCheck finds a check by its id.
func FindCheck(id string) (*Check, bool) {
	i := slices.IndexFunc(Checks, func(c Check) bool { return c.ID == id })
	if i < 0 {
		return nil, false
	}
	return &Checks[i], true
}

// Find finds an answer of a check by its id.
func (c *Check) Find(id string) (*Answer, bool) {
	i := slices.IndexFunc(c.Answers, func(a Answer) bool { return a.ID == id })
	if i < 0 {
		return nil, false
	}
	return &c.Answers[i], true
}

func readChecks(data []byte) []Check {
	var rows []map[string]any
	must(json.Unmarshal(data, &rows))
	checks := make([]Check, len(rows))
	for i, row := range rows {
		checks[i] = Check{ID: text(row, "id"), Question: text(row, "question"), Good: text(row, "good")}
		answers, _ := row["answers"].([]any)
		for _, given := range answers {
			a := given.(map[string]any)
			answer := Answer{ID: text(a, "id"), Text: text(a, "text"), Good: a["good"] == true, Advice: text(a, "advice"), Label: text(a, "label")}
			if r, ok := a["remedy"].(map[string]any); ok {
				answer.Remedy = Remedy{Material: text(r, "material"), Binder: r["binder"] == true, Most: r["most"] == true, Amount: quantity.MustParse(text(r, "amount"))}
			}
			checks[i].Answers = append(checks[i].Answers, answer)
		}
	}
	return checks
}

func text(row map[string]any, name string) string {
	s, _ := row[name].(string)
	return s
}

// must stops the program when data that ships cannot be read; a test reads it all.
func must(err error) {
	if err != nil {
		panic(fmt.Sprintf("core/method: %v", err))
	}
}
