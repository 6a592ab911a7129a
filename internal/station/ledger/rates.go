package ledger

import (
	"encoding/json"
	"fmt"
	"strings"

	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// fine is to how many places small prices are told: hundredths of a cent.
const fine = 4

// ratesIn reads rates.
func ratesIn(in *api.Rates) (*store.Rates, error) {
	row := &store.Rates{StoveW: in.StoveW, Version: in.Version}
	var err error
	if row.Hour, _, err = money(in.Hour, 2, "hour"); err != nil {
		return nil, err
	}
	if row.KWh, _, err = money(in.Kwh, fine, "kwh"); err != nil {
		return nil, err
	}
	for i := range in.Bought {
		b := &in.Bought[i]
		b.Name = strings.TrimSpace(b.Name)
		if _, said, err := money(b.Price, 2, fmt.Sprintf("bought[%d].price", i)); err != nil || !said {
			if err == nil {
				err = problem.Unfit("bad-money", "Say what %s costs.", b.Name).At(fmt.Sprintf("bought[%d].price", i))
			}
			return nil, err
		}
		if _, err := formula.ParseKind(b.Kind); err != nil {
			return nil, problem.Unfit("bad-value", "%v.", err).At(fmt.Sprintf("bought[%d].kind", i))
		}
	}
	row.Bought, err = json.Marshal(append([]api.BoughtGood{}, in.Bought...))
	return row, err
}

func ratesOut(row *store.Rates) (*api.Rates, error) {
	out := &api.Rates{Hour: known(row.Hour), StoveW: row.StoveW, Version: row.Version, Bought: []api.BoughtGood{}}
	if !row.KWh.IsZero() {
		out.Kwh = row.KWh.String()
	}
	if len(row.Bought) == 0 {
		return out, nil
	}
	return out, json.Unmarshal(row.Bought, &out.Bought)
}

// perUse is the price of one use, to hundredths of a cent.
func perUse(price decimal.Decimal, uses float64) api.Money {
	if uses <= 0 {
		return ""
	}
	return price.DivRound(decimal.NewFromFloat(uses), fine).StringFixed(fine)
}
