package shelf

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"keencrock/api"
	"keencrock/internal/exchange"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// BringMaterials brings in materials of the workshop's own, a row each.
func (s *Service) BringMaterials(ctx context.Context, in *api.MaterialRows) (*api.RowsTaken, error) {
	return s.BringIn(ctx, "shelf", in.Take, len(in.Rows), func(tx *store.Tx, _ tenant.Actor, i int) (int, error) {
		r := &in.Rows[i]
		said, err := materialOfRow(r)
		if err != nil {
			return r.Row, err
		}
		return r.Row, s.putMaterial(tx, said)
	})
}

func materialOfRow(r *api.MaterialRow) (*api.OwnMaterial, error) {
	out := &api.OwnMaterial{Name: strings.TrimSpace(r.Name), Like: strings.TrimSpace(r.Like), Label: strings.TrimSpace(r.Label), Form: r.Form, Function: r.Function, Note: r.Note, Also: listed(r.Also)}
	for _, f := range []struct {
		field, text string
		most        int
	}{{"name", out.Name, 80}, {"like", out.Like, 120}, {"label", out.Label, 120}, {"note", r.Note, 400}} {
		if len([]rune(f.text)) > f.most {
			return nil, problem.Unfit("bad-value", "That is longer than %d letters.", f.most).At(f.field)
		}
	}
	var err error
	if out.Strength, err = share(r.Strength); err != nil {
		return nil, err
	}
	if out.Density, err = figure(r.Density, "density", 5); err != nil {
		return nil, err
	}
	for _, d := range []struct {
		text, field string
		to          *int
	}{{r.SealedDays, "sealed_days", &out.KeepsSealedDays}, {r.OpenDays, "open_days", &out.KeepsOpenDays}} {
		days, err := figure(d.text, d.field, 20_000)
		if err != nil {
			return nil, err
		}
		if *d.to = int(days); float64(*d.to) != days {
			return nil, problem.Unfit("bad-value", "“%s” is no whole number of days.", d.text).At(d.field)
		}
	}
	switch codes := listed(r.Hazards); {
	case len(codes) == 1 && slices.Contains([]string{"none", "no", "-", "–"}, strings.ToLower(codes[0])):
		out.NoHazards = true
	default:
		out.Hazards = codes
	}
	return out, nil
}

// listed are the parts of a cell that holds several.
func listed(text string) []string {
	var out []string
	for _, part := range strings.FieldsFunc(text, func(c rune) bool { return c == ',' || c == ';' || c == '/' }) {
		if part = strings.TrimSpace(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

// share reads how strong something is, “20 %” or “0.2”; 0 where nothing is written. A mere
// number above 1 is a percentage.
func share(text string) (float64, error) {
	bare := strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(text), "%"))
	x, err := figure(bare, "strength", 100)
	if err == nil && (strings.HasSuffix(strings.TrimSpace(text), "%") || x > 1) {
		x /= 100
	}
	return x, err
}

// figure reads a number with a point or a comma, up to a most; 0 where nothing is written.
func figure(text, field string, most float64) (float64, error) {
	text = strings.TrimSpace(text)
	if text == "" {
		return 0, nil
	}
	x, err := strconv.ParseFloat(strings.Replace(text, ",", ".", 1), 64)
	if err != nil || !(x >= 0 && x <= most) { // “NaN” is neither
		return 0, problem.Unfit("bad-value", "“%s” is no number from 0 to %g.", text, most).At(field)
	}
	return x, nil
}

// BringLots brings in lots that were bought, a row each.
func (s *Service) BringLots(ctx context.Context, in *api.LotRows) (*api.RowsTaken, error) {
	var set *tenant.Settings
	return s.BringIn(ctx, "shelf", in.Take, len(in.Rows), func(tx *store.Tx, a tenant.Actor, i int) (int, error) {
		r := &in.Rows[i]
		if i == 0 {
			var err error
			if set, err = s.Settings(tx); err != nil {
				return r.Row, err
			}
		}
		row, err := lotOfRow(r, set)
		if err != nil {
			return r.Row, err
		}
		_, err = s.addLot(tx, a, *row, set)
		return r.Row, err
	})
}

// lotOfRow reads a row as the shelf's own table is read, with days as a sheet has them and packs
// apart.
func lotOfRow(r *api.LotRow, set *tenant.Settings) (*exchange.ShelfRow, error) {
	cells := map[string]string{"lot": r.Lot, "material": r.Material, "supplier": r.Supplier, "amount": r.Amount, "price": r.Price, "currency": r.Currency, "note": r.Note}
	for column, text := range cells {
		cells[column] = strings.TrimSpace(text)
	}
	packs, err := figure(r.Packs, "packs", 10_000)
	if err != nil {
		return nil, err
	}
	if packs != float64(int(packs)) {
		return nil, problem.Unfit("bad-value", "“%s” is no whole number of packs.", r.Packs).At("packs")
	}
	for _, d := range []struct{ column, text string }{{"received", r.Received}, {"best_before", r.BestBefore}} {
		if text := strings.TrimSpace(d.text); text != "" {
			day, err := sheet.Day(text, false)
			if err != nil {
				return nil, problem.Unfit("bad-value", "%v.", err).At(d.column)
			}
			if d.column == "received" && day.After(set.Today) {
				return nil, problem.Unfit("bad-value", "%s is still to come.", day.Format("2006-01-02")).At(d.column)
			}
			cells[d.column] = day.Format("2006-01-02")
		}
	}
	row, p := exchange.ShelfRowOf(r.Row, func(column string) string { return cells[column] }, set.Materials, set.Measures, set.Workshop.Currency)
	if p != nil {
		return nil, p
	}
	if packs > 1 {
		row.OriginalG *= packs
		row.RemainingG *= packs
	}
	return row, nil
}
