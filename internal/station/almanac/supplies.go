package almanac

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/planning"
	"keencrock/core/stock"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// supplies says what each good is made of: of bought materials those that more comes of on a
// day that is known, of what is made here the goods that are half-made. Of suppliers whose
// days nobody said it is planned as if they came at once, which the list says.
func (p *planner) supplies() {
	have := p.have()
	comes := map[string]time.Time{}
	for _, o := range p.offers() {
		if from, known := p.supplier(o.Supplier); known {
			day := from.Comes(p.set.Today)
			if was, seen := comes[o.Material]; !seen || day.Before(was) {
				comes[o.Material] = day
			}
		}
	}
	var waited []string
	for i := range p.task.Goods {
		g := &p.task.Goods[i]
		lines := p.wants[uuid.MustParse(g.ID)]
		for _, l := range lines {
			if l.Unstocked || l.Optional || l.TargetG <= 0 {
				continue
			}
			if id, ok := p.madeOf(l.Item); ok {
				if of := p.goods[id]; of != nil && of.isHalfMade {
					g.Uses = append(g.Uses, planning.Use{Of: id.String(), Amount: l.TargetG})
				}
				continue
			}
			if comes[l.Item].After(p.set.Today) {
				g.Uses = append(g.Uses, planning.Use{Of: l.Item, Amount: l.TargetG})
				if !slices.Contains(waited, l.Item) {
					waited = append(waited, l.Item)
				}
			}
		}
		g.Shares = opened(lines)
	}
	for _, item := range waited {
		p.task.Materials = append(p.task.Materials, planning.Material{ID: item, Here: max(0, have[item]), From: comes[item]})
	}
	for _, ring := range planning.Rings(&p.task) {
		p.say("%s is made of itself, or of what is: it cannot be planned.", p.names[uuid.MustParse(ring)])
	}
}

// have is what can be used of each material today, in grams.
func (p *planner) have() map[string]float64 {
	have := map[string]float64{}
	for i := range p.shelf {
		if l := &p.shelf[i]; l.UsableOn(p.set.Today) {
			have[l.Item] += l.Available()
		}
	}
	return have
}

// madeOf is the formula by which an item is made here.
func (p *planner) madeOf(item string) (uuid.UUID, bool) {
	of, ok := stock.FormulaOf(item)
	if !ok {
		return uuid.Nil, false
	}
	id, err := uuid.Parse(of)
	return id, err == nil
}

// openedShare is how much of a good a material has to be for its bag to be worth opening
// once for several. From memory.
const openedShare = 0.2

// opened are the bags that are opened for a making.
func opened(lines []tenant.MadeLine) (items []string) {
	sum := 0.0
	for _, l := range lines {
		if !l.Unstocked && !l.Optional {
			sum += l.TargetG
		}
	}
	for _, l := range lines {
		if _, made := stock.FormulaOf(l.Item); !made && !l.Unstocked && !l.Optional && l.TargetG >= openedShare*sum && l.TargetG > 0 {
			items = append(items, l.Item)
		}
	}
	return items
}

// togetherSays says which bags a making of a plan opens together with others.
func (p *planner) togetherSays(plan *planning.Plan, m *planning.Making) string {
	var bags, with []string
	mine := p.goodOf(uuid.MustParse(m.Good)).Shares
	for _, k := range m.With {
		id := uuid.MustParse(plan.Makings[k].Good)
		for _, item := range p.goodOf(id).Shares {
			if name := p.set.NameOf(item); slices.Contains(mine, item) && !slices.Contains(bags, name) {
				bags = append(bags, name)
			}
		}
		if name := p.names[id]; plan.Makings[k].Good != m.Good && !slices.Contains(with, name) {
			with = append(with, name)
		}
	}
	if len(bags) == 0 || len(with) == 0 {
		return ""
	}
	return fmt.Sprintf("%s opened once, for %s too", strings.Join(bags, ", "), strings.Join(with, ", "))
}

// into says for each making of a plan what it goes into.
func (p *planner) into(plan *planning.Plan) map[int][]string {
	out := map[int][]string{}
	for _, m := range plan.Makings {
		name := p.names[uuid.MustParse(m.Good)]
		for _, d := range m.Draws {
			if d.Making >= 0 && !slices.Contains(out[d.Making], name) {
				out[d.Making] = append(out[d.Making], name)
			}
		}
	}
	return out
}

// readHalfMade reads what is there of goods that are half-made.
func (p *planner) readHalfMade(tx *store.Tx) error {
	var items []string
	for id, g := range p.goods {
		if g.isHalfMade {
			items = append(items, stock.GoodID(id.String()))
		}
	}
	if len(items) == 0 {
		return nil
	}
	lots, err := tx.Stock(items...)
	for i := range lots {
		l := &lots[i]
		if id, ok := p.madeOf(l.Item); ok && l.UsableOn(p.set.Today) {
			p.task.Stock = append(p.task.Stock, planning.Stock{Good: id.String(), Pieces: int(l.Available()), BestBefore: l.BestBefore})
		}
	}
	return err
}

// howMuch says what a making of a plan gives.
func howMuch(m *api.PlannedMaking) string {
	if m.Grams > 0 {
		return fmt.Sprintf("%.0f g for %s", m.Grams, strings.Join(m.Into, ", "))
	}
	return fmt.Sprintf("%d jars", m.Jars)
}

// supplier is how something comes from somebody, with what they would be late; known is false
// where nobody said how many days they take.
func (p *planner) supplier(name string) (from planning.Supplier, known bool) {
	for _, s := range p.limits.Suppliers {
		if strings.EqualFold(s.Name, name) && s.Known {
			from, known = planning.Supplier{Days: s.Days, Orders: s.OrderDays}, true
		}
	}
	for _, s := range p.would.Late {
		if strings.EqualFold(s.Name, name) {
			from.Days, known = from.Days+s.Days, true
		}
	}
	return from, known
}
