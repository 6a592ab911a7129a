package crock

import (
	"context"
	"strings"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// BringFormulas brings in formulas of a sheet, a line of one in each row: a formula is taken
// with all of its lines, or not at all.
func (s *Service) BringFormulas(ctx context.Context, in *api.FormulaRows) (*api.RowsTaken, error) {
	groups := grouped(in.Rows)
	var set *tenant.Settings
	return s.BringIn(ctx, "formulas", in.Take, len(groups), func(tx *store.Tx, a tenant.Actor, i int) (int, error) {
		rows := groups[i]
		if i == 0 {
			var err error
			if set, err = s.Settings(tx); err != nil {
				return rows[0].Row, err
			}
		}
		file, row, err := formulaOfRows(rows)
		if err != nil {
			return row, err
		}
		names, err := tx.FormulaNames()
		if err != nil {
			return rows[0].Row, err
		}
		if known, taken := tenant.FormulaNamed(names, file.Name); taken {
			return rows[0].Row, problem.Clash("taken", "There is a formula called %s already.", names[known]).At("formula")
		}
		f, v, err := s.versionOf(set, a, file)
		if err != nil {
			return rows[0].Row, err
		}
		return rows[0].Row, keepNew(tx, f, v)
	})
}

// grouped are the rows of each formula: those that follow each other under one name. A name
// that comes again later is another formula of that name, and is refused as such.
func grouped(rows []api.FormulaRow) [][]api.FormulaRow {
	var out [][]api.FormulaRow
	for i := range rows {
		name := strings.TrimSpace(rows[i].Formula)
		if n := len(out); n > 0 && (name == "" || strings.EqualFold(name, strings.TrimSpace(out[n-1][0].Formula))) {
			out[n-1] = append(out[n-1], rows[i])
			continue
		}
		out = append(out, []api.FormulaRow{rows[i]})
	}
	return out
}

// formulaOfRows is a formula as a file; row is the line of the sheet that an error is of.
func formulaOfRows(rows []api.FormulaRow) (file *api.FormulaFile, row int, err error) {
	first := &rows[0]
	name := strings.TrimSpace(first.Formula)
	switch {
	case name == "":
		return nil, first.Row, problem.Unfit("bad-value", "Which formula is this line of?").At("formula")
	case len([]rune(name)) > 120:
		return nil, first.Row, problem.Unfit("bad-value", "That name is too long.").At("formula")
	}
	kind, err := kindNamed(first.Kind)
	if err != nil {
		return nil, first.Row, err
	}
	file = &api.FormulaFile{Name: name, Kind: string(kind)}
	for i := range rows {
		r := &rows[i]
		line := api.FormulaLine{Material: strings.TrimSpace(r.Material), Amount: strings.TrimSpace(r.Amount), Note: strings.TrimSpace(r.Note)}
		for _, f := range []struct {
			field, text string
			most        int
		}{{"material", line.Material, 120}, {"amount", line.Amount, 120}, {"note", line.Note, 200}} {
			if len([]rune(f.text)) > f.most {
				return nil, r.Row, problem.Unfit("bad-value", "That is longer than %d letters.", f.most).At(f.field)
			}
		}
		if line.Material == "" {
			return nil, r.Row, problem.Unfit("bad-value", "What goes in on this line?").At("material")
		}
		if line.Amount != "" {
			if _, err := quantity.Parse(line.Amount); err != nil {
				return nil, r.Row, problem.Unfit("bad-amount", "%s", exchange.Sentence(err)).At("amount")
			}
		}
		file.Lines = append(file.Lines, line)
	}
	return file, 0, nil
}

// kindNamed is a kind by its id or its name; another good where none is named.
func kindNamed(text string) (formula.Kind, error) {
	text = strings.TrimSpace(text)
	for _, k := range formula.Kinds {
		if strings.EqualFold(text, k.Name) || strings.EqualFold(text, string(k.Kind)) {
			return k.Kind, nil
		}
	}
	if text == "" {
		return formula.ParseKind("")
	}
	return "", problem.Unfit("bad-value", "“%s” is no kind of good that is known here, such as laundry powder or spray.", text).At("kind")
}
