package almanac

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/planning"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// horizonDays is how far a plan looks: twelve weeks.
const horizonDays = 84

// Plan says what to make when for what is ordered, and what to buy for it.
func (s *Service) Plan(ctx context.Context) (*api.GoodPlan, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	p := &planner{out: &api.GoodPlan{Days: horizonDays, Makings: []api.PlannedMaking{}, Orders: []api.PlannedOrder{}, Lifts: []api.PlanLift{}, Unknown: []string{}, Vessels: []string{}, Shopping: []api.ToBuy{}}, goods: map[uuid.UUID]*good{}}
	err = s.Store.Snapshot(ctx, func(tx *store.Tx) error { return p.read(s, tx) })
	if err != nil {
		return nil, err
	}
	plan := planning.Make(&p.task) // no rows are held meanwhile
	p.show(plan)
	p.shop(plan, a.Role == tenant.Owner)
	return p.out, nil
}

// planner makes a task of what the workshop knows, and words of its plan.
type planner struct {
	out     *api.GoodPlan
	set     *tenant.Settings
	task    planning.Task
	goods   map[uuid.UUID]*good
	asked   []store.Order // beside the orders of the task: standing ones stand several times
	names   map[uuid.UUID]string
	parties map[uuid.UUID]string
	shelf   []stock.Lot
	bought  []store.Bought
	wants   map[uuid.UUID][]tenant.MadeLine // of one making, by formula
}

// good is what is known of making a good.
type good struct {
	name  string
	steps []string // beside the stands
}

func (p *planner) read(s *Service, tx *store.Tx) (err error) {
	if p.set, err = s.Settings(tx); err != nil {
		return err
	}
	p.out.Today, p.out.Currency = date(p.set.Today), p.set.Workshop.Currency
	if p.names, p.parties, err = namesOf(tx); err != nil {
		return err
	}
	orders, err := tx.OpenOrders()
	if err != nil {
		return err
	}
	row, err := tx.PlanLimits()
	if err != nil {
		return err
	}
	limits, err := limitsOut(row)
	if err != nil {
		return err
	}
	p.task = planning.Task{Today: p.set.Today, Days: horizonDays, BenchMinDay: limits.BenchMinADay}
	for _, d := range limits.WorkDays {
		p.task.WorkDays = append(p.task.WorkDays, time.Weekday(d%7))
	}
	var formulas []uuid.UUID
	for _, o := range orders {
		if !slices.Contains(formulas, o.FormulaID) {
			formulas = append(formulas, o.FormulaID)
		}
	}
	if err := p.readGoods(tx, formulas, limits.Vessels); err != nil {
		return err
	}
	for _, o := range orders {
		p.ask(o)
	}
	here, err := tx.JarsHere()
	if err != nil {
		return err
	}
	for _, h := range here {
		if of, ok := stock.FormulaOf(h.Item); ok {
			if id, err := uuid.Parse(of); err == nil && p.goods[id] != nil {
				one := planning.Stock{Good: of, Pieces: h.Jars}
				if h.BestBefore != nil {
					one.BestBefore = *h.BestBefore
				}
				p.task.Stock = append(p.task.Stock, one)
			}
		}
	}
	if p.shelf, err = tx.ShelfStock(); err != nil {
		return err
	}
	p.bought, err = tx.Bought()
	return err
}

// ask makes orders of the task of an order: of a standing one each that lies within the
// plan.
func (p *planner) ask(o store.Order) {
	if p.goods[o.FormulaID] == nil {
		return
	}
	end := p.set.Today.AddDate(0, 0, horizonDays)
	add := func(day time.Time) {
		one := o
		one.Day = day
		p.asked = append(p.asked, one)
		p.task.Orders = append(p.task.Orders, planning.Order{Good: o.FormulaID.String(), Pieces: o.Jars, Day: day})
	}
	if o.EveryWeeks == 0 {
		add(o.Day)
		return
	}
	for day := o.Day; day.Before(end) && (o.Until == nil || !day.After(*o.Until)); day = day.AddDate(0, 0, 7*o.EveryWeeks) {
		if !day.Before(p.set.Today) {
			add(day)
		}
	}
}

// readGoods reads what is known of making each good that is ordered. What is not known is
// said, and the plan is made without it.
func (p *planner) readGoods(tx *store.Tx, formulas []uuid.UUID, vessels []api.VesselCount) error {
	hands, err := tx.UsualHandsOf(formulas...)
	if err != nil {
		return err
	}
	counts := map[string]int{}
	for _, v := range vessels {
		counts[strings.ToLower(v.Name)] = v.Count
		p.task.Vessels = append(p.task.Vessels, planning.Vessel{ID: v.Name, Count: v.Count})
	}
	p.wants = map[uuid.UUID][]tenant.MadeLine{}
	for _, id := range formulas {
		newest, err := tx.NewestOfGoods(id, 1)
		if err != nil {
			return err
		}
		name := p.names[id]
		if len(newest) == 0 || newest[0].Jars == 0 {
			p.say("%s was never packed into jars here: make a first batch, then it is known how many jars one gives. It is not planned.", name)
			continue
		}
		g := planning.Good{ID: id.String(), Pieces: newest[0].Jars}
		minutes, known := hands[id]
		if g.BenchMin = minutes; !known {
			p.say("Nobody counted the minutes of hands of %s: it is planned as if it took none.", name)
		}
		if err := p.readMade(tx, id, stock.ID(newest[0].ID), &g); err != nil {
			return err
		}
		p.goods[id] = &good{name: name}
		if err := p.readStands(tx, id, &g, counts); err != nil {
			return err
		}
		p.task.Goods = append(p.task.Goods, g)
	}
	return nil
}

func (p *planner) say(format string, args ...any) {
	if text := fmt.Sprintf(format, args...); !slices.Contains(p.out.Unknown, text) {
		p.out.Unknown = append(p.out.Unknown, text)
	}
}

// readMade reads what one making took, and how long what it made keeps.
func (p *planner) readMade(tx *store.Tx, id uuid.UUID, making stock.ID, g *planning.Good) error {
	rows, err := tx.MakingsMadeBy(uuid.UUID(making))
	if err != nil || len(rows) == 0 {
		return err
	}
	var by tenant.MadeBy
	if err := json.Unmarshal(rows[0].MadeBy, &by); err != nil {
		return fmt.Errorf("what batch %s is made by: %w", rows[0].Code, err)
	}
	p.wants[id] = by.Lines
	lots, err := tx.LotsOfMakings(making)
	if err != nil {
		return err
	}
	if lot := lots[making]; lot != nil && !lot.BestBefore.IsZero() {
		g.KeepsDays = max(1, int(lot.BestBefore.Sub(lot.Received).Hours()/24))
	}
	return nil
}

// readStands reads where and how long a good stands, by the steps of its formula as it is.
func (p *planner) readStands(tx *store.Tx, id uuid.UUID, g *planning.Good, counts map[string]int) error {
	f, err := tx.Formula(id)
	if err != nil {
		return err
	}
	v, err := tx.FormulaVersion(id, f.Version)
	if err != nil {
		return err
	}
	var file api.FormulaFile
	if err := json.Unmarshal(v.File, &file); err != nil {
		return fmt.Errorf("formula %s: %w", f.Name, err)
	}
	read, _ := exchange.ToFormula(&file)
	mould := ""
	for i := range read.Steps {
		step := &read.Steps[i]
		info := step.Kind.Info()
		if step.Mould != "" {
			mould = step.Mould
		}
		if info.Stage != formula.OnRack {
			continue
		}
		if step.For.IsZero() {
			p.say("How long step %d of %s takes (%s) is not said: it is planned as if it took no time.", i+1, p.names[id], strings.ToLower(info.Name))
			continue
		}
		vessel := cmp.Or(step.Vessel, mould, onTheRack)
		p.vessel(vessel, counts)
		g.Stands = append(g.Stands, planning.Stand{Vessel: p.vesselName(vessel), Hours: step.For.High.Hours()})
		p.goods[id].steps = append(p.goods[id].steps, info.Name)
	}
	return nil
}

// onTheRack is where stands what needs no vessel of its own.
const onTheRack = "the rack"

// unlimited is more of a vessel than any plan uses.
const unlimited = 1000

// vessel adds a vessel that nobody counted: there is room for all then.
func (p *planner) vessel(name string, counts map[string]int) {
	key := strings.ToLower(name)
	if _, known := counts[key]; known {
		return
	}
	counts[key] = unlimited
	p.task.Vessels = append(p.task.Vessels, planning.Vessel{ID: name, Count: unlimited})
	if name != onTheRack {
		p.say("How many of “%s” there are is not said: it is planned as if there were enough.", name)
	}
}

func (p *planner) vesselName(name string) string {
	for _, v := range p.task.Vessels {
		if strings.EqualFold(v.ID, name) {
			return v.ID
		}
	}
	return name
}

// show puts a plan into the words of the contract.
func (p *planner) show(plan *planning.Plan) {
	minutes := map[string]float64{}
	for _, g := range p.task.Goods {
		minutes[g.ID] = g.BenchMin
	}
	for _, m := range plan.Makings {
		id := uuid.MustParse(m.Good)
		one := api.PlannedMaking{Formula: id, Name: p.names[id], Jars: m.Pieces, Bench: date(m.Bench), Ready: date(m.Ready), Minutes: minutes[m.Good], Stands: []api.PlannedStand{}}
		for i, st := range m.Stands {
			one.Stands = append(one.Stands, api.PlannedStand{Vessel: st.Vessel, Step: p.goods[id].steps[i], From: st.From, To: st.To})
			if !slices.Contains(p.out.Vessels, st.Vessel) {
				p.out.Vessels = append(p.out.Vessels, st.Vessel)
			}
		}
		p.out.Makings = append(p.out.Makings, one)
	}
	slices.Sort(p.out.Vessels)
	for i, o := range plan.Orders {
		asked := &p.asked[i]
		one := api.PlannedOrder{Order: asked.ID, Formula: asked.FormulaID, Name: p.names[asked.FormulaID], Jars: asked.Jars, Day: date(o.Day), Given: o.Given, LateDays: o.LateDays}
		if asked.PartyID != nil {
			one.To = p.parties[*asked.PartyID]
		}
		p.out.Orders = append(p.out.Orders, one)
	}
	for _, l := range plan.Lifts {
		p.out.Lifts = append(p.out.Lifts, api.PlanLift{Says: liftSays(l), SavesDays: l.SavesDays})
	}
}

func liftSays(l planning.Lift) string {
	saves := fmt.Sprintf("saves %d days", l.SavesDays)
	if l.SavesDays == 1 {
		saves = "saves a day"
	}
	switch l.Limit {
	case planning.BenchLimit:
		return fmt.Sprintf("%g minutes more at the bench each day: that %s.", l.By, saves)
	case planning.DayLimit:
		return fmt.Sprintf("One more day of work a week: that %s.", saves)
	}
	return fmt.Sprintf("One more of “%s”: that %s.", l.Limit, saves)
}

// shop says what the plan uses beyond what is on the shelf, in packs at the last price of
// each supplier; prices are for owners.
func (p *planner) shop(plan *planning.Plan, prices bool) {
	needs := map[string]float64{}
	for _, m := range plan.Makings {
		for _, l := range p.wants[uuid.MustParse(m.Good)] {
			if !l.Unstocked && !l.Optional {
				needs[l.Item] += l.TargetG
			}
		}
	}
	for i := range p.shelf {
		l := &p.shelf[i]
		if _, wanted := needs[l.Item]; wanted && l.UsableOn(p.set.Today) {
			needs[l.Item] -= l.Available()
		}
	}
	s := planning.Shopping{}
	for item, g := range needs {
		if g > stock.Tolerance {
			s.Needs = append(s.Needs, planning.Need{Material: item, Grams: g})
		}
	}
	slices.SortFunc(s.Needs, func(a, b planning.Need) int { return cmp.Compare(a.Material, b.Material) })
	s.Offers = p.offers()
	cart := s.Buy()
	lacks := map[string]float64{}
	for _, n := range s.Needs {
		lacks[n.Material] = n.Grams
	}
	for _, b := range cart.Buys {
		one := api.ToBuy{Material: b.Material, Name: p.set.NameOf(b.Material), Grams: lacks[b.Material], Supplier: b.Supplier, Packs: b.Packs, PackG: b.PackG}
		if prices {
			one.Price = exchange.Money(b.Price)
		}
		p.out.Shopping = append(p.out.Shopping, one)
	}
	for _, n := range cart.Missing {
		p.out.Shopping = append(p.out.Shopping, api.ToBuy{Material: n.Material, Name: p.set.NameOf(n.Material), Grams: n.Grams})
	}
	if prices && len(cart.Buys) > 0 {
		p.out.ShoppingTotal = exchange.Money(cart.Total)
	}
}

// offers are the packs that suppliers sold, each at its last price.
func (p *planner) offers() (out []planning.Offer) {
	type key struct {
		item, supplier string
		pack           float64
	}
	at := map[key]int{}
	for _, b := range p.bought { // the last stand at the end
		if b.Currency != p.set.Workshop.Currency || b.Original <= 0 {
			continue
		}
		k := key{b.Item, b.Supplier, b.Original}
		o := planning.Offer{Material: b.Item, Supplier: cmp.Or(b.Supplier, "nobody said"), PackG: b.Original, Price: b.Landed}
		if i, seen := at[k]; seen {
			out[i] = o
			continue
		}
		at[k] = len(out)
		out = append(out, o)
	}
	return out
}
