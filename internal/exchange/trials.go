package exchange

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"

	"keencrock/core/trial"
	"keencrock/internal/problem"
)

// mostMarks is how many marks a file has at the most.
const mostMarks = 20_000

// ReadMarks reads marks as CSV, a line a mark: pair, good, mark; the first line may name the
// columns, in any order. The error is a problem that names the line.
func ReadMarks(in io.Reader) ([]trial.Mark, error) {
	r := csv.NewReader(in)
	r.FieldsPerRecord, r.TrimLeadingSpace = -1, true
	at := map[string]int{"pair": 0, "good": 1, "mark": 2}
	var marks []trial.Mark
	for first := true; ; first = false {
		row, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		line, _ := r.FieldPos(0)
		if err != nil {
			return nil, badMark(line, "it is no CSV: %v", err)
		}
		for i := range row {
			row[i] = strings.TrimSpace(strings.TrimPrefix(row[i], "\ufeff"))
		}
		if len(row) == 1 && row[0] == "" {
			continue
		}
		if named := columns(row); first && named != nil {
			at = named
			continue
		}
		if len(row) <= max(at["pair"], at["good"], at["mark"]) {
			return nil, badMark(line, "a line is pair,good,mark")
		}
		mark, err := strconv.ParseFloat(row[at["mark"]], 64)
		if err != nil || math.IsNaN(mark) || math.IsInf(mark, 0) {
			return nil, badMark(line, "%q is no mark: a number is wanted", row[at["mark"]])
		}
		if marks = append(marks, trial.Mark{Pair: row[at["pair"]], Good: row[at["good"]], Mark: mark}); len(marks) > mostMarks {
			return nil, badMark(line, "there are more than %d marks", mostMarks)
		}
	}
	return marks, nil
}

// columns says where pair, good and mark stand in a head; nil where a row is none.
func columns(row []string) map[string]int {
	at := map[string]int{}
	for i, name := range row {
		at[strings.ToLower(name)] = i
	}
	for _, name := range []string{"pair", "good", "mark"} {
		if _, there := at[name]; !there {
			return nil
		}
	}
	return at
}

func badMark(line int, format string, args ...any) error {
	return problem.Unfit("bad-row", "Line %d: %s.", line, fmt.Sprintf(format, args...)).At(fmt.Sprintf("line %d", line))
}

// Answer is what a trial says, as it is printed.
func Answer(a *trial.Answer) any {
	type difference struct {
		Value      float64 `json:"value"`
		Low        float64 `json:"low"`
		High       float64 `json:"high"`
		Confidence float64 `json:"confidence"`
	}
	type comparison struct {
		Good       string        `json:"good"`
		Against    string        `json:"against"`
		Pairs      int           `json:"pairs"`
		Difference *difference   `json:"difference"` // none without a pair
		P          float64       `json:"p"`
		PHolm      float64       `json:"p_holm"`
		PSign      float64       `json:"p_sign"`
		Verdict    trial.Verdict `json:"verdict"`
		MorePairs  int           `json:"more_pairs"`
		Says       string        `json:"says"`
	}
	out := struct {
		Pairs       int          `json:"pairs"`
		Goods       []string     `json:"goods"`
		Comparisons []comparison `json:"comparisons"`
		FriedmanP   *float64     `json:"friedman_p"` // none for two goods
		Exact       *bool        `json:"friedman_exact,omitempty"`
	}{Pairs: len(a.Pairs), Goods: a.Goods, Comparisons: []comparison{}}
	for i := range a.Comparisons {
		c := &a.Comparisons[i]
		one := comparison{c.Good, c.Against, c.Pairs, nil, c.P, c.PHolm, c.PSign, c.Verdict, c.MorePairs, c.Says}
		if c.Pairs > 0 {
			d := c.Difference
			one.Difference = &difference{d.Value, d.Low, d.High, d.Confidence}
		}
		out.Comparisons = append(out.Comparisons, one)
	}
	if len(a.Goods) > 2 {
		out.FriedmanP, out.Exact = &a.Friedman, &a.FriedmanExact
	}
	return out
}
