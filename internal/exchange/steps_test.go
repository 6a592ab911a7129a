package exchange_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/method"
	"keencrock/internal/exchange"
)

// Steps written to a file and read again are the same steps.
func TestStepsComeBackAsTheyWere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pick := func(name string, of ...string) string { return rapid.SampledFrom(append(of, "")).Draw(t, name) }
		file := &api.FormulaFile{Name: "X", Lines: make([]api.FormulaLine, 4)}
		for range rapid.IntRange(1, 12).Draw(t, "steps") {
			file.Steps = append(file.Steps, api.FormulaStep{
				Kind: string(rapid.SampledFrom(formula.StepKinds).Draw(t, "kind").Kind), Text: pick("text", "Mix well.", "Don't breathe the dust."),
				Lines: rapid.SliceOfNDistinct(rapid.IntRange(0, 3), 0, 4, rapid.ID).Draw(t, "lines"), For: pick("for", "5–10 min", "2 days", "8–12 h"),
				Celsius: float64(rapid.IntRange(0, 200).Draw(t, "celsius")), Vessel: pick("vessel", "pot"), Stir: pick("stir", "3 days"),
				Check: pick("check", "handful", "smooth"), Mould: pick("mould", "tray"), Pieces: rapid.IntRange(0, 40).Draw(t, "pieces"),
				By: api.FormulaStepBy(pick("by", "drop", "spoon", "mist")), To: pick("to", "10 l"), Keep: pick("keep", "freezer"), ByWeight: rapid.Bool().Draw(t, "weight"),
			})
		}
		f, problems := exchange.ToFormula(file)
		for _, p := range problems {
			require.False(t, strings.HasPrefix(p.Field, "steps"), "%+v", p)
		}
		again := exchange.StepFiles(f.Steps)
		require.Len(t, again, len(file.Steps))
		for i := range again {
			if len(again[i].Lines) == 0 {
				again[i].Lines, file.Steps[i].Lines = nil, nil
			}
			require.Equal(t, file.Steps[i], again[i])
		}
	})
}

func TestWhatIsWrongWithAStepIsNamed(t *testing.T) {
	for field, step := range map[string]api.FormulaStep{
		"steps[0].kind":  {Kind: "bless"},
		"steps[0].for":   {Kind: "mix", For: "a while"},
		"steps[0].stir":  {Kind: "steep", Stir: "often"},
		"steps[0].to":    {Kind: "make-up", To: "to the brim"},
		"steps[0].check": {Kind: "check", Check: "aura"},
		"steps[0].lines": {Kind: "mix", Lines: []int{1}},
	} {
		_, problems := exchange.ToFormula(&api.FormulaFile{Name: "X", Lines: make([]api.FormulaLine, 1), Steps: []api.FormulaStep{step}})
		fields := make([]string, len(problems))
		for i, p := range problems {
			fields[i] = p.Field
		}
		assert.Contains(t, fields, field)
	}
}

func TestEveryCheckIsSaidInTheContract(t *testing.T) {
	for _, c := range method.Checks {
		out := exchange.Check(c.ID)
		assert.Equal(t, c.Question, out.Question)
		assert.Len(t, out.Answers, len(c.Answers))
	}
	assert.Empty(t, exchange.Check("aura").Id)
	for _, k := range formula.StepKinds {
		assert.True(t, exchange.Stage(k.Stage).Valid(), k.Kind)
	}
}
