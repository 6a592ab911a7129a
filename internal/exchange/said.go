package exchange

import (
	"cmp"
	"errors"
	"strings"
	"unicode/utf8"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Said puts what was read of a talk into the words of the contract.
func Said(t *listener.Talk, lib *material.Library, measures quantity.Measures, w formula.Workshop) *api.Said {
	out := &api.Said{Words: SaidWords(t.Text, t.Words), Not: []api.SaidNot{}, Questions: []api.Question{}}
	for i, g := range t.Goods {
		good := saidGood(g, lib, measures, w)
		if i == 0 {
			out.Formula, out.Questions, out.Not = good.Formula, good.Questions, good.Not
			if strings.TrimSpace(t.Text) != "" {
				out.Formula.Said = t.Text
			}
			continue
		}
		good.Formula.Said = t.Text
		out.More = append(out.More, good)
	}
	return out
}

func saidGood(g *listener.Good, lib *material.Library, measures quantity.Measures, w formula.Workshop) api.SaidGood {
	f := g.Formula(lib, measures, w)
	out := api.SaidGood{Formula: formulaFile(f), Not: []api.SaidNot{}}
	for _, m := range g.Not {
		out.Not = append(out.Not, api.SaidNot{Material: m.ID, Name: m.Name})
	}
	out.Questions = Questions(nil, formula.Resolve(f, lib, w).Questions)
	for _, u := range g.Unsure {
		q := api.Question{Field: "lines", Code: u.Code, Detail: u.Text, Nearest: u.Answers, Answers: []api.QuestionAnswers{api.QuestionAnswersChoose}}
		if u.Line >= 0 && u.Line < len(f.Lines) {
			q.Line, q.Field = &u.Line, lineField(u.Line, string(formula.OfMaterial))
		}
		out.Questions = append(out.Questions, q)
	}
	return out
}

// formulaFile is a formula that was said, as a formula file has it.
func formulaFile(f *formula.Formula) api.FormulaFile {
	file := api.FormulaFile{Format: FormulaFormat, Version: FormulaVersion, Name: cmp.Or(f.Name, f.Kind.Info().Name), Kind: string(f.Kind),
		Lines: []api.FormulaLine{}, Method: f.Method, Notes: f.Notes}
	if f.Measures != quantity.AsWritten {
		file.Measures = api.Measures(f.Measures.String())
	}
	for i := range f.Lines {
		l := LineFile(&f.Lines[i])
		l.Amount = cmp.Or(l.Amount, f.Lines[i].Amount.String())
		l.Material, l.Amount, l.Note, l.Purpose = within(80, l.Material), within(200, l.Amount), within(200, l.Note), within(200, l.Purpose)
		if len(l.Alternatives) > maxAlternatives {
			l.Alternatives = l.Alternatives[:maxAlternatives]
		}
		file.Lines = append(file.Lines, l)
	}
	if !f.Yield.IsZero() {
		file.Yield.Amount = f.Yield.String()
	}
	if !f.Use.IsZero() {
		file.Uses.Amount = f.Use.String()
		file.Uses.Water = f.UseWater.String()
	}
	for _, d := range f.Doses {
		file.Doses = append(file.Doses, api.MachineDose{For: d.For, Amount: d.Amount.String(), Water: d.Water.String()})
	}
	file.Steps = StepFiles(f.Steps)
	if len(file.Steps) > formula.MaxSteps {
		file.Steps = file.Steps[:formula.MaxSteps]
	}
	return file
}

// maxAlternatives is how many may take the place of a line; the formula format's.
const maxAlternatives = 8

// SaidWords are the words of a talk with the places they have in letters.
func SaidWords(text string, words []listener.Word) []api.SaidWord {
	out := make([]api.SaidWord, 0, len(words))
	letters, at := 0, 0 // how many letters stand before byte at
	count := func(to int) int {
		letters += utf8.RuneCountInString(text[at:to])
		at = to
		return letters
	}
	for _, w := range words {
		word := api.SaidWord{Text: text[w.From:w.To], Became: api.SaidWordBecame(w.Became.String()), Good: w.Good}
		word.From = count(w.From)
		word.To = count(w.To)
		if w.Line >= 0 {
			line := w.Line
			word.Line = &line
		}
		out = append(out, word)
	}
	return out
}

// SpokenLines are the lines of a talk one by one, each with what its words became, as
// programs of before [Said] have it.
func SpokenLines(t *listener.Talk, lib *material.Library) []api.SpokenLine {
	lines := []api.SpokenLine{}
	for g, good := range t.Goods {
		for i, l := range good.Lines() {
			out := api.SpokenLine{Words: spokenWords(t, func(w listener.Word) bool { return w.Good == g && w.Line == i })}
			texts := make([]string, len(out.Words))
			for k, w := range out.Words {
				texts[k] = w.Text
			}
			out.Text = strings.Join(texts, " ")
			if l.Err != nil {
				out.Problem = FieldProblem("text", l.Err)
			} else if m, err := lib.Find(l.Material); err == nil {
				out.Name = m.Name
			}
			out.Line = LineFile(&l.Line)
			// as much of it as a line of a formula takes; all of it stands in the words
			out.Line.Material, out.Line.Amount, out.Line.Note = within(80, out.Line.Material), within(200, out.Line.Amount), within(200, out.Line.Note)
			lines = append(lines, out)
		}
		if good.Method != "" {
			lines = append(lines, api.SpokenLine{Text: good.Method, Method: true, Words: spokenWords(t, func(w listener.Word) bool { return w.Good == g && w.Line < 0 && w.Became == listener.AsStep })})
		}
	}
	if rest := spokenWords(t, func(w listener.Word) bool { return w.Line < 0 && w.Became == listener.Unread }); len(rest) > 0 {
		for _, w := range rest {
			lines = append(lines, api.SpokenLine{Text: w.Text, Words: []api.SpokenWord{w}, Problem: FieldProblem("text", errors.New("“"+within(60, w.Text)+"” was not understood"))})
		}
	}
	return lines
}

func spokenWords(t *listener.Talk, which func(listener.Word) bool) []api.SpokenWord {
	out := []api.SpokenWord{}
	for _, w := range t.Words {
		if which(w) {
			out = append(out, api.SpokenWord{Text: t.Text[w.From:w.To], Became: spokenBecame(w.Became)})
		}
	}
	return out
}

func spokenBecame(b listener.Became) api.SpokenWordBecame {
	switch b {
	case listener.AsAmount:
		return "amount"
	case listener.AsMaterial, listener.AsChoice:
		return "material"
	case listener.AsSmallTalk:
		return "glue"
	case listener.Unread:
		return "unread"
	}
	return "note"
}
