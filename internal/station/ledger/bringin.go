package ledger

import (
	"context"
	"errors"
	"io"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/safety"
	"keencrock/core/stock"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// ReadSheet reads a table that is to be matched and brought in; nothing is kept.
func (s *Service) ReadSheet(ctx context.Context, r io.Reader) (*api.SheetRead, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	data, err := io.ReadAll(r)
	if err != nil {
		return nil, err
	}
	g, err := sheet.Read(data)
	var u *sheet.Unreadable
	if errors.As(err, &u) {
		return nil, problem.Unfit("sheet-"+u.Code, "%s", u.Detail).At("file")
	}
	if err != nil {
		return nil, err
	}
	return &api.SheetRead{Sheet: g.Sheet, Head: g.Head, Rows: g.Rows, First: g.First}, nil
}

// BringOutlets brings in those whom jars go to.
func (s *Service) BringOutlets(ctx context.Context, in *api.OutletRows) (*api.RowsTaken, error) {
	return s.BringIn(ctx, "ledger", in.Take, len(in.Rows), func(tx *store.Tx, _ tenant.Actor, i int) (int, error) {
		r := &in.Rows[i]
		plan, err := outletOf(r)
		if err != nil {
			return r.Row, err
		}
		p, err := partyIn(plan)
		if err != nil {
			return r.Row, err
		}
		known, err := tx.PartyNamed(p.Name)
		switch {
		case err != nil:
			return r.Row, err
		case known != nil && known.Kind != "" && !known.Removed:
			return r.Row, problem.Clash("taken", "%s is there already.", p.Name).At("name")
		case known != nil:
			p.Name = known.Name
		}
		p.ID = store.NewID()
		return r.Row, tenant.Explain(tx.AddParty(p), "outlet")
	})
}

// outletKinds are the words for what somebody is.
var outletKinds = map[string]api.OutletKind{"": "customer", "customer": "customer", "person": "customer", "outlet": "outlet", "shop": "outlet", "café": "outlet", "cafe": "outlet", "stall": "stall", "market": "stall"}

func outletOf(r *api.OutletRow) (*api.OutletPlan, error) {
	kind, known := outletKinds[strings.ToLower(strings.TrimSpace(r.Kind))]
	if !known {
		return nil, problem.Unfit("bad-value", "“%s” is nothing that takes jars: outlet, stall or customer is wanted.", r.Kind).At("kind")
	}
	plan := &api.OutletPlan{Name: strings.TrimSpace(r.Name), Kind: kind, Reach: r.Reach, Note: r.Note}
	for _, f := range []struct {
		field, text string
		most        int
	}{{"name", plan.Name, 120}, {"reach", r.Reach, 400}, {"note", r.Note, 400}} {
		if len([]rune(f.text)) > f.most {
			return nil, problem.Unfit("bad-value", "That is longer than %d letters.", f.most).At(f.field)
		}
	}
	for _, k := range strings.FieldsFunc(r.KeepFrom, func(c rune) bool { return c == ',' || c == ';' }) {
		need, err := needNamed(strings.ToLower(strings.TrimSpace(k)))
		if err != nil {
			return nil, problem.Unfit("bad-value", "%v.", err).At("keep_from")
		}
		plan.KeepFrom = append(plan.KeepFrom, string(need))
	}
	return plan, nil
}

// needNamed is a need by its id or as it is called; what is neither is an allergen's name.
func needNamed(text string) (safety.Need, error) {
	all, names := safety.Needs()
	for _, n := range all {
		if text == string(n) || text == names[n] || strings.ReplaceAll(text, " ", "-") == string(n) {
			return n, nil
		}
	}
	if text == "" {
		return safety.ParseNeed(text)
	}
	return safety.ParseNeed("allergen:" + strings.TrimPrefix(text, "allergen:"))
}

// actKinds are the words for how jars moved.
var actKinds = map[string]api.ActKind{"": "sold", "sold": "sold", "sale": "sold", "given": "given", "gift": "given", "out": "gone", "gone": "gone", "sent out": "gone", "back": "returned", "returned": "returned", "came back": "returned", "thrown away": "discarded", "spoiled": "discarded"}

// BringActs brings in sales, gifts and returns, a row each.
func (s *Service) BringActs(ctx context.Context, in *api.ActRows) (*api.RowsTaken, error) {
	var set *tenant.Settings
	var names map[uuid.UUID]string
	return s.BringIn(ctx, "ledger", in.Take, len(in.Rows), func(tx *store.Tx, a tenant.Actor, i int) (int, error) {
		r := &in.Rows[i]
		if i == 0 {
			var err error
			if set, err = s.Settings(tx); err != nil {
				return r.Row, err
			}
			if names, err = tx.FormulaNames(); err != nil {
				return r.Row, err
			}
		}
		act, err := s.actOfRow(tx, r, set, names)
		if err != nil {
			return r.Row, err
		}
		p, err := s.plan(tx, act)
		if err != nil {
			return r.Row, err
		}
		_, err = s.do(tx, a, p, uuid.Nil)
		return r.Row, err
	})
}

func (s *Service) actOfRow(tx *store.Tx, r *api.ActRow, set *tenant.Settings, names map[uuid.UUID]string) (*api.NewAct, error) {
	kind, known := actKinds[strings.ToLower(strings.TrimSpace(r.Kind))]
	if !known {
		return nil, problem.Unfit("bad-value", "“%s” is no way for jars to go: sold, given, out or back is wanted.", r.Kind).At("kind")
	}
	if len([]rune(r.To)) > 120 {
		return nil, problem.Unfit("bad-value", "That name is too long.").At("to")
	}
	act := &api.NewAct{Kind: kind, To: strings.TrimSpace(r.To)}
	wish := api.ActWish{Price: strings.TrimSpace(r.Price)}
	var err error
	if wish.Count, err = tenant.WholeNumber(r.Jars, "jars", 1, 1000); err != nil {
		return nil, err
	}
	if _, _, err := money(wish.Price, 2, "price"); err != nil {
		return nil, err
	}
	if text := strings.TrimSpace(r.Day); text != "" {
		day, err := sheet.Day(text, false)
		if err != nil {
			return nil, problem.Unfit("bad-value", "%v.", err).At("day")
		}
		if day.After(set.Today) {
			return nil, problem.Unfit("bad-value", "%s is still to come.", day.Format(time.DateOnly)).At("day")
		}
		if day.Before(set.Today) {
			act.At = tenant.EndOfDay(day, set.Workshop).Add(-time.Second)
		}
	}
	if err := goodNamed(tx, r.Good, names, &wish); err != nil {
		return nil, err
	}
	act.Lines = []api.ActWish{wish}
	return act, nil
}

// goodNamed finds a good by its name, or a batch by its code.
func goodNamed(tx *store.Tx, written string, names map[uuid.UUID]string, wish *api.ActWish) error {
	written = strings.TrimSpace(written)
	if id, known := tenant.FormulaNamed(names, written); known {
		wish.Formula = id
		return nil
	}
	lots, err := tx.LotsByCode(written)
	if err != nil {
		return err
	}
	for _, l := range lots {
		if l.Making != (stock.ID{}) {
			wish.Batch = uuid.UUID(l.Making)
			return nil
		}
	}
	return problem.Unfit("unknown-good", "There is no good and no batch called “%s”.", written).At("good")
}
