// Package demo is the demo workshop, Lockside Works on the Marrow Canal: an
// invented place with eight months of deliveries, formulas, batches and
// mishaps. It is data, in lockside.json; dates in it count back from the day
// it is loaded.
package demo

import (
	"cmp"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/internal/station/almanac"
	"keencrock/internal/station/bench"
	"keencrock/internal/station/crock"
	"keencrock/internal/station/ledger"
	"keencrock/internal/station/pantry"
	"keencrock/internal/station/people"
	"keencrock/internal/station/rack"
	"keencrock/internal/station/settings"
	"keencrock/internal/station/shelf"
	"keencrock/internal/station/trials"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Login and Password sign in to the demo as its owner. They are no secret, and work
// only on the machine Keen Crock runs on.
const (
	Login    = "keeper"
	Password = people.DemoPassword
)

//go:embed lockside.json
var content []byte

// The shape of lockside.json.
type scenario struct {
	Workshop api.Workshop       `json:"workshop"`
	People   []person           `json:"people"`
	ReorderG map[string]float64 `json:"reorder_g"`
	Weighed  []struct {
		Material string `json:"material"`
		api.WeighedMeasure
	} `json:"weighed"`
	Measured   []string        `json:"measured"`
	Deliveries []deliveryEntry `json:"deliveries"`
	Packaging  []struct {
		DaysAgo int `json:"days_ago"`
		api.PackagingDelivery
	} `json:"packaging"`
	Marks    []markEntry       `json:"marks"`
	Formulas []api.FormulaFile `json:"formulas"`
	Schools  map[string]string `json:"schools"` // by which a formula is made; the first of its kind for others
	Batches  []batchEntry      `json:"batches"`
	Vats     []vatEntry        `json:"vats"`
	GoodsOut goodsOut          `json:"goods_out"`
	Ledger   books             `json:"ledger"`
	Almanac  asked             `json:"almanac"`
	Trials   []tried           `json:"trials"`
	Samples  []watched         `json:"samples"`
	Causes   []causeFound      `json:"causes"`
}

type person struct {
	Login string   `json:"login"`
	Name  string   `json:"name"`
	Role  api.Role `json:"role"`
}

type deliveryEntry struct {
	DaysAgo    int    `json:"days_ago"`
	Amount     string `json:"amount"`
	Material   string `json:"material"`
	Price      string `json:"price"`
	Supplier   string `json:"supplier"`
	Lot        string `json:"lot"`
	BestInDays int    `json:"best_in_days"`
}

type markEntry struct {
	DaysAgo  int    `json:"days_ago"`
	Material string `json:"material"`
	Lot      string `json:"lot"`
	Clumped  bool   `json:"clumped"`
	SetAside bool   `json:"set_aside"`
}

type vatEntry struct {
	api.VesselPlan
	Makes  string   `json:"makes"` // the name of a formula
	Events []vatAct `json:"events"`
	// Daily is what it is fed every so many days, from a day on: peel of the cafés.
	Daily struct {
		FromDaysAgo int     `json:"from_days_ago"`
		EveryDays   int     `json:"every_days"`
		PeelG       float64 `json:"peel_g"`
		Text        string  `json:"text"`
	} `json:"daily"`
}

type vatAct struct {
	DaysAgo int `json:"days_ago"`
	api.VesselAct
}

// all are the events of a vat with its daily feeds, the first in front.
func (e *vatEntry) all() []vatAct {
	all := slices.Clone(e.Events)
	for day := e.Daily.FromDaysAgo; e.Daily.EveryDays > 0 && day > 1; day -= e.Daily.EveryDays {
		peelG := math.Round(e.Daily.PeelG * (1 + 0.3*math.Sin(float64(day))))
		all = append(all, vatAct{day, api.VesselAct{Kind: "fed", PeelG: peelG, Text: e.Daily.Text, Given: true}})
	}
	slices.SortStableFunc(all, func(a, b vatAct) int { return cmp.Compare(b.DaysAgo, a.DaysAgo) })
	return all
}

type batchEntry struct {
	DaysAgo        int            `json:"days_ago"`
	Formula        string         `json:"formula"`
	Containers     api.Containers `json:"containers"`
	Jars           int            `json:"jars"`
	Notes          []string       `json:"notes"`
	Gone           []goneEntry    `json:"gone"`
	State          string         `json:"state"`
	Reason         string         `json:"reason"`
	Discarded      bool           `json:"discarded"`
	StopAfterLines int            `json:"stop_after_lines"`
	InTime         inTime         `json:"in_time"`
}

// goneEntry is jars of a batch that went to somebody.
type goneEntry struct {
	DaysAgo int    `json:"days_ago"`
	Count   int    `json:"count"`
	To      string `json:"to"`
}

// State is how far the demo is there.
type State int

// The demo is absent, broken off while it was loaded, or there.
const (
	Absent State = iota
	BrokenOff
	Loaded
)

// Look tells how far the demo is there.
func Look(ctx context.Context, s *store.Store) (State, error) {
	w, err := s.Demo(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return Absent, nil
	}
	if err != nil {
		return Absent, err
	}
	if w.Loading {
		return BrokenOff, nil
	}
	return Loaded, nil
}

// Remove takes the demo workshop out, if it is there. Other workshops stay.
func Remove(ctx context.Context, s *store.Store) error {
	w, err := s.Demo(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return s.RemoveDemo(ctx, w.ID)
}

// Load plays the eight months up to today through the use cases, as people
// would have.
func Load(ctx context.Context, s *store.Store, today time.Time) error {
	var sc scenario
	if err := json.Unmarshal(content, &sc); err != nil {
		return fmt.Errorf("read the demo: %w", err)
	}
	p := &player{sc: &sc, today: today, formulas: map[string]uuid.UUID{}, made: map[int]uuid.UUID{}, clock: today.AddDate(0, 0, -275)}
	p.enter(tenant.New(s, func() time.Time { return p.clock }))
	if err := p.play(ctx); err != nil {
		return errors.Join(fmt.Errorf("load the demo: %w", err), Remove(ctx, s))
	}
	return nil
}

// player plays a scenario at a clock of its own.
type player struct {
	store    *store.Store
	sc       *scenario
	today    time.Time
	clock    time.Time
	people   *people.Service
	settings *settings.Service
	shelf    *shelf.Service
	crock    *crock.Service
	bench    *bench.Service
	pantry   *pantry.Service
	rack     *rack.Service
	ledger   *ledger.Service
	almanac  *almanac.Service
	trials   *trials.Service
	formulas map[string]uuid.UUID
	made     map[int]uuid.UUID // batches, by their place in the scenario
	weighing int               // counts weighings, for their small misses
}

// enter goes into a house, to every station of it.
func (p *player) enter(h *tenant.House) {
	p.store = h.Store
	p.people, p.settings, p.shelf = people.New(h), settings.New(h), shelf.New(h)
	p.crock, p.bench, p.pantry, p.rack, p.ledger = crock.New(h), bench.New(h), pantry.New(h), rack.New(h), ledger.New(h)
	p.almanac, p.trials = almanac.New(h), trials.New(h)
}

// at sets the clock to an hour of a day so many days ago. Work of today began
// an hour before now, or at midnight.
func (p *player) at(daysAgo, hour, minute int) {
	day := p.today.AddDate(0, 0, -daysAgo)
	midnight := time.Date(day.Year(), day.Month(), day.Day(), 0, 0, 0, 0, day.Location())
	p.clock = midnight.Add(time.Duration(hour)*time.Hour + time.Duration(minute)*time.Minute)
	if begun := p.today.Add(-time.Hour); p.clock.After(begun) {
		p.clock = midnight
		if begun.After(midnight) {
			p.clock = begun
		}
	}
}

// pass lets time pass, never beyond now.
func (p *player) pass(d time.Duration) {
	p.clock = p.clock.Add(d)
	if p.clock.After(p.today) {
		p.clock = p.today
	}
}

// step is something that happened on a day.
type step struct {
	daysAgo int
	do      func(context.Context) error
}

func (p *player) play(ctx context.Context) error {
	ctx, err := p.open(ctx)
	if err != nil {
		return err
	}
	var steps []step
	for _, d := range p.sc.Deliveries {
		steps = append(steps, step{d.DaysAgo, func(ctx context.Context) error { return p.deliver(ctx, d) }})
	}
	for _, d := range p.sc.Packaging {
		steps = append(steps, step{d.DaysAgo, func(ctx context.Context) error {
			_, err := p.shelf.TakePackaging(ctx, d.PackagingDelivery)
			return err
		}})
	}
	for i, b := range p.sc.Batches {
		steps = append(steps, step{b.DaysAgo, func(ctx context.Context) (err error) { p.made[i], err = p.make(ctx, b); return err }})
		for _, g := range b.Gone {
			steps = append(steps, step{g.DaysAgo, func(ctx context.Context) error { return p.sell(ctx, p.made[i], g) }})
		}
	}
	for _, d := range p.sc.Ledger.StallDays {
		steps = append(steps, step{d.DaysAgo, func(ctx context.Context) error { return p.stallDay(ctx, d) }})
	}
	for _, m := range p.sc.Marks {
		steps = append(steps, step{m.DaysAgo, func(ctx context.Context) error { return p.mark(ctx, m) }})
	}
	for _, v := range p.sc.Vats {
		steps = append(steps, step{v.Events[0].DaysAgo, func(ctx context.Context) error { return p.vat(ctx, v) }})
	}
	slices.SortStableFunc(steps, func(a, b step) int { return cmp.Compare(b.daysAgo, a.daysAgo) })
	for _, s := range steps {
		p.at(s.daysAgo, 8, 30)
		if err := s.do(ctx); err != nil {
			return err
		}
	}
	if err := p.rates(ctx); err != nil {
		return err
	}
	if err := p.order(ctx); err != nil {
		return err
	}
	for i := range p.sc.Samples {
		if err := p.watch(ctx, &p.sc.Samples[i]); err != nil {
			return err
		}
	}
	for i := range p.sc.Causes {
		if err := p.finds(ctx, &p.sc.Causes[i]); err != nil {
			return err
		}
	}
	for i := range p.sc.Trials {
		if err := p.try(ctx, &p.sc.Trials[i]); err != nil {
			return err
		}
	}
	if err := p.sendOut(ctx); err != nil {
		return err
	}
	return p.store.Tx(ctx, func(tx *store.Tx) error { return tx.DemoIsLoaded() })
}

// settle gives the workshop its settings.
func (p *player) settle(ctx context.Context) error {
	now, err := p.settings.Workshop(ctx)
	if err != nil {
		return err
	}
	of := p.sc.Workshop
	of.Version = now.Version
	_, err = p.settings.SaveWorkshop(ctx, of)
	return err
}

// open makes the workshop, its people, settings and formulas.
func (p *player) open(ctx context.Context) (context.Context, error) {
	owner := p.sc.People[0]
	actor, err := p.people.CreateDemo(ctx, api.NewWorkshop{Workshop: p.sc.Workshop.Name, Login: owner.Login, Name: owner.Name,
		Password: Password, Currency: p.sc.Workshop.Currency})
	if err != nil {
		return nil, err
	}
	ctx = tenant.WithActor(ctx, actor)
	if err := p.settle(ctx); err != nil {
		return nil, err
	}
	for _, other := range p.sc.People[1:] {
		if _, err := p.people.AddPerson(ctx, api.NewPerson{Login: other.Login, Name: other.Name, Password: Password, Role: other.Role}); err != nil {
			return nil, err
		}
	}
	for id, g := range p.sc.ReorderG {
		if _, err := p.shelf.SetFigures(ctx, id, api.OwnFigures{ReorderG: &g}); err != nil {
			return nil, err
		}
	}
	for _, w := range p.sc.Weighed {
		if _, err := p.shelf.SetFigures(ctx, w.Material, api.OwnFigures{Weighed: w.WeighedMeasure}); err != nil {
			return nil, err
		}
	}
	for _, said := range p.sc.Measured {
		if _, err := p.trials.Measure(ctx, said); err != nil {
			return nil, fmt.Errorf("%s: %w", said, err)
		}
	}
	for i := range p.sc.Formulas {
		if err := p.steps(ctx, &p.sc.Formulas[i]); err != nil {
			return nil, err
		}
		f, err := p.crock.AddFormula(ctx, &p.sc.Formulas[i])
		if err != nil {
			return nil, fmt.Errorf("formula %s: %w", p.sc.Formulas[i].Name, err)
		}
		p.formulas[f.File.Name] = f.Id
	}
	return ctx, p.askPrices(ctx)
}

func (p *player) deliver(ctx context.Context, d deliveryEntry) error {
	best := p.today.AddDate(0, 0, d.BestInDays)
	line := fmt.Sprintf("%s %s %s from %s, lot %s, best %s", d.Amount, d.Material, d.Price, d.Supplier, d.Lot, best.Format(time.DateOnly))
	if _, err := p.shelf.TakeDelivery(ctx, api.DeliveryLine{Line: line}); err != nil {
		return fmt.Errorf("delivery %q: %w", line, err)
	}
	return nil
}

func (p *player) mark(ctx context.Context, m markEntry) error {
	page, err := p.shelf.Lots(ctx, shelf.LotQuery{Material: m.Material, WithEmpty: true, Limit: 200})
	if err != nil {
		return err
	}
	for _, l := range page.Lots {
		if l.Code == m.Lot {
			_, err := p.shelf.MarkLot(ctx, l.Id, api.LotMark{Clumped: &m.Clumped, SetAside: &m.SetAside})
			return err
		}
	}
	return fmt.Errorf("there is no lot %s of %s to mark", m.Lot, m.Material)
}

// vat sets a vat up and does to it what was done, each on its day.
func (p *player) vat(ctx context.Context, e vatEntry) error {
	if e.Makes != "" {
		e.Formula = p.formulas[e.Makes]
	}
	v, err := p.rack.Add(ctx, e.VesselPlan)
	if err != nil {
		return fmt.Errorf("vat %s: %w", e.Name, err)
	}
	for i, act := range e.all() {
		p.at(act.DaysAgo, 16, i%60)
		if _, err := p.rack.Do(ctx, v.Id, act.VesselAct); err != nil {
			return fmt.Errorf("vat %s, %d days ago: %w", e.Name, act.DaysAgo, err)
		}
	}
	return nil
}

// weighLine weighs a line from the lots suggested, missing by a little as
// hands do.
func (p *player) weighLine(ctx context.Context, b *api.Batch, i int) (*api.Batch, error) {
	line := b.Lines[i]
	if line.Unstocked {
		return p.bench.Weigh(ctx, b.Id, api.Weighing{Line: i, Grams: line.TargetG})
	}
	for _, lot := range line.Lots {
		if lot.SuggestedG <= 0 {
			continue
		}
		p.weighing++
		miss := 1 + 0.004*math.Sin(float64(p.weighing))
		grams := min(math.Max(1, math.Round(lot.SuggestedG*miss)), lot.AvailableG)
		after, err := p.bench.Weigh(ctx, b.Id, api.Weighing{Line: i, Lot: lot.Lot.String(), Grams: grams})
		if err != nil {
			return b, fmt.Errorf("batch %s, %s: %w", b.Code, line.Name, err)
		}
		b = after
	}
	if b.Lines[i].WeighedG == line.WeighedG {
		return b, fmt.Errorf("batch %s: nothing of %s is on the shelf", b.Code, line.Name)
	}
	return b, nil
}
