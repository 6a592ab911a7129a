package tenant

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/listener"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
)

// JarTalk is what talk of jars is read by: the goods and the people a workshop knows.
type JarTalk struct {
	listener.JarOptions
	IDs []uuid.UUID // of the goods
	set *Settings
}

// JarTalk reads what talk of jars is read by.
func (s *Settings) JarTalk(tx *store.Tx) (*JarTalk, error) {
	names, err := tx.FormulaNames()
	if err != nil {
		return nil, err
	}
	outlets, err := tx.Outlets()
	if err != nil {
		return nil, err
	}
	t := &JarTalk{set: s, JarOptions: listener.JarOptions{Today: s.Today, Currency: s.Workshop.Currency, Measures: s.Measures}}
	for id := range names {
		t.IDs = append(t.IDs, id)
	}
	slices.SortFunc(t.IDs, func(a, b uuid.UUID) int {
		return cmp.Or(cmp.Compare(strings.ToLower(names[a]), strings.ToLower(names[b])), cmp.Compare(a.String(), b.String()))
	})
	for _, id := range t.IDs {
		t.Goods = append(t.Goods, names[id])
	}
	for i := range outlets {
		t.Parties = append(t.Parties, outlets[i].Name)
	}
	return t, nil
}

// Read reads what is said of jars.
func (t *JarTalk) Read(text string) (*listener.Jars, error) {
	heard, err := listener.ReadJars(text, t.set.Materials, t.JarOptions)
	if err != nil {
		return nil, problem.TooLarge("too-long", "%s", exchange.Sentence(err))
	}
	return heard, nil
}

// Orders puts what is wanted into the words of the contract, each with a sentence of what was
// heard. Of what nobody named it is what they had or ordered before, where that is one good.
func (t *JarTalk) Orders(tx *store.Tx, wanted []listener.Ordered) (orders []api.NewOrder, says []string, problems []api.Problem, err error) {
	for _, o := range wanted {
		for _, l := range o.Lines {
			if l.Count == 0 {
				problems = append(problems, *problem.Unfit("by-weight", "What is ordered is counted in jars: how many is that?").At("text"))
				continue
			}
			one := api.NewOrder{Jars: l.Count, To: o.To, EveryWeeks: o.EveryWeeks, Day: exchange.Date(o.Day)}
			if !o.Until.IsZero() {
				one.Until = exchange.Date(o.Until)
			}
			good := l.Good
			if good < 0 {
				var open *api.Problem
				if good, open, err = t.usual(tx, o.To, l.Count); err != nil {
					return nil, nil, nil, err
				} else if open != nil {
					problems = append(problems, *open)
					continue
				}
			}
			one.Formula = t.IDs[good]
			orders = append(orders, one)
			says = append(says, t.orderSays(&one, t.Goods[good], l.Good < 0))
		}
	}
	return orders, says, problems, nil
}

// usual is the good that somebody usually has; a problem where that is none, or several.
func (t *JarTalk) usual(tx *store.Tx, to string, count int) (good int, open *api.Problem, err error) {
	var ids []uuid.UUID
	if to != "" {
		if ids, err = tx.UsualOf(to); err != nil {
			return 0, nil, err
		}
	}
	var names []string
	for _, id := range ids {
		if i := slices.Index(t.IDs, id); i >= 0 {
			good = i
			names = append(names, t.Goods[i])
		}
	}
	if len(names) == 1 {
		return good, nil, nil
	}
	p := problem.Unfit("which-good", "%d of what? Say which good.", count).At("text")
	if len(names) > 1 {
		p = problem.Unfit("which-good", "%d of what? %s had %s.", count, to, strings.Join(names, ", ")).At("text")
		p.Nearest = names
	}
	return 0, p, nil
}

func (t *JarTalk) orderSays(o *api.NewOrder, good string, guessed bool) string {
	says := fmt.Sprintf("Ordered: %d %s", o.Jars, good)
	if guessed {
		says += " (what they had before)"
	}
	if o.To != "" {
		says += " for " + o.To
	}
	switch {
	case o.Day.IsZero():
		return says + "."
	case o.EveryWeeks == 1:
		says += ", every week from " + o.Day.Format("Monday 2 January") + " on"
	case o.EveryWeeks > 1:
		says += fmt.Sprintf(", every %d weeks from ", o.EveryWeeks) + o.Day.Format("Monday 2 January") + " on"
	default:
		says += ", for " + o.Day.Format("Monday 2 January")
	}
	if !o.Until.IsZero() {
		says += " until " + o.Until.Format("2 January")
	}
	return says + "."
}

// Doubts are what is not sure of what was heard, as problems.
func Doubts(unsure []listener.Unsure) (out []api.Problem) {
	for _, u := range unsure {
		p := problem.Unfit(u.Code, "%s", u.Text).At("text")
		p.Nearest = u.Answers
		out = append(out, *p)
	}
	return out
}
