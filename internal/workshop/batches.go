package workshop

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/costing"
	"keencrock/core/formula"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// BatchQuery says which batches are wanted.
type BatchQuery struct {
	State string
	After string
	Limit int
}

// Batches lists one page of batches, newest first.
func (s *Service) Batches(ctx context.Context, q BatchQuery) (*api.BatchPage, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	query := store.BatchQuery{State: q.State, Limit: pageLimit(q.Limit)}
	var err error
	if query.AfterStarted, query.AfterID, err = parsePage(q.After); err != nil {
		return nil, err
	}
	rows, err := s.store.Read(ctx).Batches(query)
	page := &api.BatchPage{Batches: make([]api.BatchSummary, len(rows))}
	for i, b := range rows {
		page.Batches[i] = api.BatchSummary{Id: b.ID, Code: b.Code, Name: b.Name, Kind: b.Kind, State: api.BatchState(b.State),
			Started: b.StartedAt, Finished: timeOf(b.FinishedAt), Jars: b.Jars, Cost: exchange.Money(b.Cost)}
	}
	if len(rows) == query.Limit {
		last := rows[len(rows)-1]
		page.Next = pageAfter(last.StartedAt, last.ID)
	}
	return page, err
}

// Batch returns a batch as it stands on the bench.
func (s *Service) Batch(ctx context.Context, id uuid.UUID) (*api.Batch, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	var out *api.Batch
	err := s.store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		out, err = s.batchOf(tx, id)
		return err
	})
	return out, err
}

// weighed sums weighings by line and lot.
type weighed struct {
	line  map[int]float64
	ofLot map[int]map[uuid.UUID]float64
	order []lineLot    // in the order first weighed
	out   map[int]bool // lines that are left out
}

type lineLot struct {
	line int
	lot  uuid.UUID
}

func sumWeighings(events []store.BatchEvent) weighed {
	w := weighed{line: map[int]float64{}, ofLot: map[int]map[uuid.UUID]float64{}, out: map[int]bool{}}
	for _, e := range events {
		if e.Line == nil {
			continue
		}
		switch e.Kind {
		case "left-out", "taken-in":
			w.out[*e.Line] = e.Kind == "left-out"
			continue
		case "weighed", "took-out":
		default:
			continue
		}
		w.line[*e.Line] += e.Grams
		if e.LotID == nil {
			continue
		}
		if w.ofLot[*e.Line] == nil {
			w.ofLot[*e.Line] = map[uuid.UUID]float64{}
		}
		if _, seen := w.ofLot[*e.Line][*e.LotID]; !seen {
			w.order = append(w.order, lineLot{*e.Line, *e.LotID})
		}
		w.ofLot[*e.Line][*e.LotID] += e.Grams
	}
	return w
}

func (s *Service) batchOf(tx *store.Tx, id uuid.UUID) (*api.Batch, error) {
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	b, err := tx.Batch(id)
	if err != nil {
		return nil, said(err, "batch")
	}
	lines, err := tx.BatchLines(id)
	if err != nil {
		return nil, err
	}
	events, err := tx.BatchEvents(id)
	if err != nil {
		return nil, err
	}
	stored, err := storedFormula(tx, b.FormulaID, b.FormulaVersion)
	if err != nil {
		return nil, err
	}
	f, _ := exchange.ToFormula(&stored.File)
	f.MeasuredPH = measuredOf(events) // of this batch, and of no other
	water := set.water()
	water.Hardness = 0 // of the making, not of the use
	assessed := assess.Formula(f, set.lib, assess.Options{Workshop: set.tools(), Water: water})
	out := &api.Batch{Id: b.ID, Code: b.Code, Name: b.Name, Kind: b.Kind, Formula: b.FormulaID, FormulaVersion: b.FormulaVersion,
		State: api.BatchState(b.State), Started: b.StartedAt, Finished: timeOf(b.FinishedAt), By: b.Person,
		PlannedG: b.PlannedG, Loss: b.Loss, Jars: b.Jars, EachG: b.ContainerEachG, Currency: set.workshop.Currency,
		MeasuredPh: exchange.MeasuredPH(f.MeasuredPH), BestBefore: dateOf(b.BestBefore), BestBeforeReason: b.BestBeforeReason, Method: stored.File.Method,
		Cautions: exchange.Cautions(assessed.Cautions), Lines: make([]api.BatchLine, len(lines)), Events: make([]api.BatchEvent, len(events))}
	if b.ContainerCount > 0 {
		out.Containers = api.Containers{Count: b.ContainerCount, Each: b.ContainerEach, Fill: b.ContainerFill}
	}
	if b.State == "finished" {
		out.Cost = exchange.Money(b.Cost)
	}
	w := sumWeighings(events)
	stock, err := s.benchLots(tx, b, lines, w)
	if err != nil {
		return nil, err
	}
	for i, l := range lines {
		out.Lines[i] = s.benchLine(l, w, stock[l.Material], set.workshop.ScaleStepG)
		out.WeighedG += w.line[l.Line]
	}
	out.NextLine = nextLine(out.Lines)
	for i, e := range events {
		out.Events[i] = api.BatchEvent{Seq: i + 1, At: e.At, By: e.Person, Kind: api.BatchEventKind(e.Kind), Line: e.Line, LotCode: e.LotCode, Grams: e.Grams, MeasuredPh: measuredPH(e.PH, e.PHWith)}
		if e.Kind != "started" {
			out.Events[i].Text = e.Text
		}
	}
	return out, nil
}

func nextLine(lines []api.BatchLine) *int {
	for i := range lines {
		if formula.WeighStatus(lines[i].Status).IsOpen() {
			return &i
		}
	}
	return nil
}

// benchLots are the lots a batch may take from or took from, by material, the
// one to open first in front.
func (s *Service) benchLots(tx *store.Tx, b *store.Batch, lines []store.BatchLine, w weighed) (map[string][]*store.Lot, error) {
	by := map[string][]*store.Lot{}
	seen := map[uuid.UUID]bool{}
	if b.State == "weighing" {
		var materials []string
		for _, l := range lines {
			materials = append(materials, l.Material)
		}
		stock, err := tx.Stock(materials...)
		if err != nil {
			return nil, err
		}
		for i := range stock {
			by[stock[i].Material] = append(by[stock[i].Material], &stock[i])
			seen[stock[i].ID] = true
		}
	}
	var used []uuid.UUID
	for _, o := range w.order {
		if !seen[o.lot] {
			used = append(used, o.lot)
			seen[o.lot] = true
		}
	}
	more, err := tx.LotsByID(used)
	if err != nil {
		return nil, err
	}
	for _, id := range used {
		l := more[id]
		by[l.Material] = append(by[l.Material], l)
	}
	today := s.today()
	for _, lots := range by {
		slices.SortStableFunc(lots, func(a, b *store.Lot) int {
			ca, cb := costingLot(a), costingLot(b)
			if pa, pb := ca.PastOn(today), cb.PastOn(today); pa != pb { // past their date go last
				if pa {
					return 1
				}
				return -1
			}
			return costing.FirstExpiredFirst(&ca, &cb)
		})
	}
	return by, nil
}

func (s *Service) benchLine(l store.BatchLine, w weighed, lots []*store.Lot, stepG float64) api.BatchLine {
	status, advice := formula.Judge(l.Name, l.TargetG, w.line[l.Line], stepG)
	if status == formula.Waiting && w.out[l.Line] {
		status = formula.LeftOut
	}
	out := api.BatchLine{Line: l.Line, Material: l.Material, Name: l.Name, Phase: l.Phase, Amount: l.Amount, Hand: l.Hand, TargetG: l.TargetG,
		WeighedG: w.line[l.Line], ToleranceG: formula.Tolerance(l.TargetG, stepG), Status: api.BatchLineStatus(status), Advice: advice, Optional: l.Optional,
		Unstocked: l.Material == unstocked, Lots: []api.BatchLot{}}
	out.LeftG = max(0, l.TargetG-out.WeighedG)
	today := s.today()
	suggested, missing := suggest(l, out.LeftG, lots, today)
	for _, lot := range lots {
		taken := w.ofLot[l.Line][lot.ID]
		c := costingLot(lot)
		past := c.PastOn(today)
		if lot.SetAside && taken == 0 || lot.AvailableG() <= costing.MassTolerance && taken == 0 {
			continue
		}
		out.Lots = append(out.Lots, api.BatchLot{Lot: lot.ID, Code: lot.Code, Supplier: lot.Supplier, AvailableG: lot.AvailableG(),
			WeighedG: taken, SuggestedG: suggested[lot.ID.String()], BestBefore: dateOf(lot.BestBefore), Past: past, Clumped: lot.Clumped})
	}
	if missing > out.ToleranceG && !out.Unstocked && status.IsOpen() {
		out.Advice = strings.TrimSpace(fmt.Sprintf("%s The lots here hold %s too little. Take in a delivery, use another formula, or abandon and make a smaller batch.",
			advice, formula.Grams(missing, stepG)))
	}
	return out
}

// suggest says how much of what is left to weigh should come from each lot, by
// its id, and what the lots cannot give.
func suggest(l store.BatchLine, leftG float64, lots []*store.Lot, today time.Time) (from map[string]float64, missingG float64) {
	stock := make([]costing.Lot, len(lots))
	for i, lot := range lots {
		stock[i] = costingLot(lot)
	}
	draws, shorts := costing.Allocate([]costing.Need{{Material: l.Material, Grams: leftG}}, stock, today)
	from = map[string]float64{}
	for _, d := range draws {
		from[d.Lot] = d.Grams
	}
	for _, short := range shorts {
		missingG = short.MissingG
	}
	return from, missingG
}

func jarsOf(b *store.Batch, rows []store.Jar) []api.Jar {
	out := make([]api.Jar, len(rows))
	for i := range rows {
		out[i] = jarOf(b.Code, &rows[i])
	}
	return out
}

func jarOf(batchCode string, j *store.Jar) api.Jar {
	return api.Jar{Id: j.ID, Code: fmt.Sprintf("%s/%d", batchCode, j.Number), Number: j.Number, Grams: j.Grams, Cost: exchange.Money(j.Cost),
		Gone: j.GoneOn != nil, GoneOn: dateOf(j.GoneOn), GoneTo: j.GoneTo}
}

// durationDays is whole days from one day to another.
func durationDays(from, to time.Time) int { return int(math.Round(to.Sub(from).Hours() / 24)) }
