package almanac

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/formula"
	"keencrock/core/making"
	"keencrock/core/planning"
	"keencrock/core/quantity"
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
	return s.plan(ctx, nil, a.Role == tenant.Owner, planning.Make)
}

// plan works a plan out, as things are or as they would be.
func (s *Service) plan(ctx context.Context, would *api.PlanIf, prices bool, by func(*planning.Task) *planning.Plan) (*api.GoodPlan, error) {
	p := newPlanner(would)
	if err := s.Store.Snapshot(ctx, func(tx *store.Tx) error { return p.read(s, tx) }); err != nil {
		return nil, err
	}
	return p.work(prices, by), nil
}

func newPlanner(would *api.PlanIf) *planner {
	if would == nil {
		would = &api.PlanIf{}
	}
	return &planner{would: would, goods: map[uuid.UUID]*good{},
		out: &api.GoodPlan{Days: horizonDays, Makings: []api.PlannedMaking{}, Orders: []api.PlannedOrder{}, Lifts: []api.PlanLift{}, Unknown: []string{}, Vessels: []string{}, Shopping: []api.ToBuy{}}}
}

// work plans what was read; no rows are held meanwhile.
func (p *planner) work(prices bool, by func(*planning.Task) *planning.Plan) *api.GoodPlan {
	plan := by(&p.task)
	p.show(plan)
	p.shop(plan, prices)
	return p.out
}

// planner makes a task of what the workshop knows, and words of its plan.
type planner struct {
	out     *api.GoodPlan
	would   *api.PlanIf
	set     *tenant.Settings
	limits  *api.PlanLimits
	task    planning.Task
	goods   map[uuid.UUID]*good
	asked   []asked         // beside the orders of the task: standing ones stand several times
	pins    []store.PlanPin // beside those of the task
	names   map[uuid.UUID]string
	parties map[uuid.UUID]string
	shelf   []stock.Lot
	bought  []store.Bought
	wants   map[uuid.UUID][]tenant.MadeLine // of one making, by formula
	drying  map[uuid.UUID]tenant.LearnedFigure
}

// asked is an order of the task, or what usually goes.
type asked struct {
	store.Order
	usual bool
}

// good is what is known of making a good.
type good struct {
	name       string
	steps      []string // beside the stands
	isHalfMade bool     // its pieces are grams, and go into others
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
	if p.limits, err = limitsOut(row); err != nil {
		return err
	}
	p.task = planning.Task{Today: p.set.Today, Days: horizonDays, BenchMinDay: p.limits.BenchMinADay}
	for _, d := range p.limits.WorkDays {
		p.task.WorkDays = append(p.task.WorkDays, time.Weekday(d%7))
	}
	for _, o := range append(slices.Clone(p.limits.DaysOff), p.would.Off...) {
		p.task.Off = append(p.task.Off, planning.Span{From: o.From.Time, To: o.To.Time})
	}
	needs, err := s.needs(tx, p.set, orders)
	if err != nil {
		return err
	}
	pins, err := tx.PlanPins(p.set.Today)
	if err != nil {
		return err
	}
	pins = p.wouldPin(pins)
	var formulas []uuid.UUID
	wanted := func(id uuid.UUID) {
		if !slices.Contains(formulas, id) && p.names[id] != "" {
			formulas = append(formulas, id)
		}
	}
	for _, o := range orders {
		wanted(o.FormulaID)
	}
	for _, n := range needs {
		if n.follow {
			wanted(n.formula)
		}
	}
	for _, pin := range pins {
		wanted(pin.FormulaID)
	}
	if err := p.readGoods(tx, formulas, p.countVessels()); err != nil {
		return err
	}
	for _, o := range orders {
		p.ask(o)
	}
	for _, n := range needs {
		p.askUsual(n)
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
	if p.bought, err = tx.Bought(); err != nil {
		return err
	}
	if err := p.readHalfMade(tx); err != nil {
		return err
	}
	p.supplies()
	if err := p.readUnderWay(s, tx); err != nil {
		return err
	}
	return p.pin(tx, pins)
}

// countVessels are the vessels of the limits, or as many as there would be.
func (p *planner) countVessels() []api.VesselCount {
	out := slices.Clone(p.limits.Vessels)
	for _, v := range p.would.Vessels {
		i := slices.IndexFunc(out, func(o api.VesselCount) bool { return strings.EqualFold(o.Name, v.Name) })
		if i < 0 {
			out = append(out, v)
			continue
		}
		out[i].Count = v.Count
	}
	return out
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
		if times := p.would.OrdersTimes; times > 0 && (p.would.Order == uuid.Nil || p.would.Order == o.ID) {
			one.Jars = max(1, int(math.Round(float64(one.Jars)*times)))
		}
		p.asked = append(p.asked, asked{Order: one})
		p.task.Orders = append(p.task.Orders, planning.Order{Good: o.FormulaID.String(), Pieces: one.Jars, Day: day})
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
	goods, err := p.readMakings(tx, formulas)
	if err != nil {
		return err
	}
	for id := range p.goods {
		if !slices.Contains(formulas, id) {
			formulas = append(formulas, id)
		}
	}
	hands, err := tx.UsualHandsOf(formulas...)
	if err != nil {
		return err
	}
	if p.drying, err = p.set.Drying(tx, formulas...); err != nil {
		return err
	}
	counted, err := p.set.StepTimes(tx)
	if err != nil {
		return err
	}
	atStep := tenant.MinutesAt(counted)
	counts := map[string]int{}
	for _, v := range vessels {
		counts[strings.ToLower(v.Name)] = v.Count
		p.task.Vessels = append(p.task.Vessels, planning.Vessel{ID: v.Name, Count: v.Count})
	}
	for _, g := range goods {
		id := uuid.MustParse(g.ID)
		minutes, known := hands[id]
		if g.BenchMin = minutes; !known {
			bySteps, err := p.handsBySteps(tx, id, atStep)
			if err != nil {
				return err
			}
			g.BenchMin = math.Round(bySteps.Value)
			p.say("Nobody counted the minutes of hands of %s: by its steps a making takes about %.0f, between %.0f and %.0f.", p.names[id], bySteps.Value, bySteps.Low, bySteps.High)
		}
		if err := p.readStands(tx, id, &g, counts); err != nil {
			return err
		}
		p.task.Goods = append(p.task.Goods, g)
	}
	return nil
}

// handsBySteps are the minutes of hands that the steps of a good come to.
func (p *planner) handsBySteps(tx *store.Tx, id uuid.UUID, atStep func(formula.StepKind) quantity.Range) (quantity.Range, error) {
	stored, err := tenant.StoredFormula(tx, id, 0)
	if err != nil {
		return quantity.Range{}, err
	}
	f, _ := exchange.ToFormula(&stored.File)
	return making.HandsBySteps(f.Steps, atStep), nil
}

// readMakings reads what the last making of each good gave and took, and of each that is
// half-made for it.
func (p *planner) readMakings(tx *store.Tx, formulas []uuid.UUID) (goods []planning.Good, err error) {
	p.wants = map[uuid.UUID][]tenant.MadeLine{}
	todo, asked := slices.Clone(formulas), len(formulas)
	for i := 0; i < len(todo); i++ {
		id, isHalfMade := todo[i], i >= asked
		newest, err := tx.NewestOfGoods(id, 1)
		if err != nil {
			return nil, err
		}
		g := planning.Good{ID: id.String()}
		switch {
		case len(newest) > 0 && newest[0].Jars > 0 && !isHalfMade:
			g.Pieces = newest[0].Jars
		case len(newest) > 0 && newest[0].Jars == 0 && newest[0].MadeG >= 1 && isHalfMade:
			g.Pieces = int(newest[0].MadeG)
		case isHalfMade:
			p.say("How much of %s one making gives, to go into others, is not known here: it is planned as if there were enough.", p.names[id])
			continue
		default:
			p.say("%s was never packed into jars here: make a first batch, then it is known how many jars one gives. It is not planned.", p.names[id])
			continue
		}
		if err := p.readMade(tx, id, stock.ID(newest[0].ID), &g); err != nil {
			return nil, err
		}
		p.goods[id] = &good{name: p.names[id], isHalfMade: isHalfMade}
		goods = append(goods, g)
		for _, l := range p.wants[id] {
			if of, ok := p.madeOf(l.Item); ok && p.names[of] != "" && !l.Optional && !slices.Contains(todo, of) {
				todo = append(todo, of)
			}
		}
	}
	return goods, nil
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
		if _, seen := p.drying[id]; step.For.IsZero() && !(seen && step.Kind == formula.Dry) {
			p.say("How long step %d of %s takes (%s) is not said: it is planned as if it took no time.", i+1, p.names[id], strings.ToLower(info.Name))
			continue
		}
		vessel := cmp.Or(step.Vessel, mould, onTheRack)
		p.vessel(vessel, counts)
		hours := step.For.High.Hours()
		if f, ok := p.drying[id]; ok && f.Counts() && step.Kind == formula.Dry { // as it dries here
			hours = f.High
		}
		g.Stands = append(g.Stands, planning.Stand{Vessel: p.vesselName(vessel), Hours: hours})
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
	into := p.into(plan)
	for i := range plan.Makings {
		m := &plan.Makings[i]
		id := uuid.MustParse(m.Good)
		one := api.PlannedMaking{Formula: id, Name: p.names[id], Bench: date(m.Bench), Ready: date(m.Ready), Minutes: minutes[m.Good], Stands: []api.PlannedStand{}, Into: into[i], Together: p.togetherSays(plan, m)}
		if one.Jars = m.Pieces; p.goods[id].isHalfMade {
			one.Jars, one.Grams = 0, float64(m.Pieces)
		}
		if m.Pin > 0 {
			one.Pin = p.pins[m.Pin-1].ID
		}
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
		one := api.PlannedOrder{Order: asked.ID, Usual: asked.usual, Formula: asked.FormulaID, Name: p.names[asked.FormulaID], Jars: asked.Jars, Day: date(o.Day), Given: o.Given, LateDays: o.LateDays}
		if asked.PartyID != nil {
			one.To = p.parties[*asked.PartyID]
		}
		p.out.Orders = append(p.out.Orders, one)
	}
	for _, u := range plan.Unkept {
		pin := p.pins[u.Pin]
		p.out.Unkept = append(p.out.Unkept, api.UnkeptPin{Id: pin.ID, Name: p.names[pin.FormulaID], Bench: date(pin.Bench), Says: p.unkeptSays(u.Limit, pin.Bench)})
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
