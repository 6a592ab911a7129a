package workshop

import (
	"context"
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

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
	order []lineLot // in the order first weighed
}

type lineLot struct {
	line int
	lot  uuid.UUID
}

func sumWeighings(events []store.BatchEvent) weighed {
	w := weighed{line: map[int]float64{}, ofLot: map[int]map[uuid.UUID]float64{}}
	for _, e := range events {
		if e.Line == nil || e.Kind != "weighed" && e.Kind != "took-out" {
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
	water := set.water()
	water.Hardness = 0 // of the making, not of the use
	assessed := assess.Formula(f, set.lib, assess.Options{Workshop: set.tools(), Water: water})
	out := &api.Batch{Id: b.ID, Code: b.Code, Name: b.Name, Kind: b.Kind, Formula: b.FormulaID, FormulaVersion: b.FormulaVersion,
		State: api.BatchState(b.State), Started: b.StartedAt, Finished: timeOf(b.FinishedAt), By: b.Person,
		PlannedG: b.PlannedG, Loss: b.Loss, Jars: b.Jars, EachG: b.ContainerEachG, Currency: set.workshop.Currency,
		BestBefore: dateOf(b.BestBefore), BestBeforeReason: b.BestBeforeReason, Method: stored.File.Method,
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
		out.Events[i] = api.BatchEvent{Seq: i + 1, At: e.At, By: e.Person, Kind: api.BatchEventKind(e.Kind), Line: e.Line, LotCode: e.LotCode, Grams: e.Grams}
		if e.Kind != "started" {
			out.Events[i].Text = e.Text
		}
	}
	return out, nil
}

func nextLine(lines []api.BatchLine) *int {
	for i := range lines {
		if st := formula.WeighStatus(lines[i].Status); st == formula.Waiting || st == formula.Started {
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
	out := api.BatchLine{Line: l.Line, Material: l.Material, Name: l.Name, Phase: l.Phase, Amount: l.Amount, TargetG: l.TargetG,
		WeighedG: w.line[l.Line], ToleranceG: formula.Tolerance(l.TargetG, stepG), Status: api.BatchLineStatus(status), Advice: advice,
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
	if missing > out.ToleranceG && !out.Unstocked && status != formula.Done && status != formula.Over {
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

// Weigh records one weighing. It is saved when this returns.
func (s *Service) Weigh(ctx context.Context, id uuid.UUID, in api.Weighing) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Batch
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		b, err := tx.LockBatch(id)
		if err != nil {
			return said(err, "batch")
		}
		if in.Key != uuid.Nil {
			seen, err := tx.HasBatchEvent(id, in.Key)
			if err != nil {
				return err
			}
			if seen { // sent twice: the answer to the first may have been lost
				out, err = s.batchOf(tx, id)
				return err
			}
		}
		if b.State != "weighing" {
			return closed(b)
		}
		event, err := s.weighing(tx, b, in)
		if err != nil {
			return err
		}
		event.PersonID, event.At = a.Person, s.now()
		if err := tx.AddBatchEvent(event); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, id); err != nil {
			return err
		}
		return tx.Announce("batches", id)
	})
	return out, err
}

// weighing checks a weighing and makes the event of it.
func (s *Service) weighing(tx *store.Tx, b *store.Batch, in api.Weighing) (*store.BatchEvent, error) {
	refuse := func(code, detail string, args ...any) error {
		return api.NewProblem(http.StatusUnprocessableEntity, code, detail, args...)
	}
	lines, err := tx.BatchLines(b.ID)
	if err != nil {
		return nil, err
	}
	if in.Line < 0 || in.Line >= len(lines) {
		return nil, refuse("no-such-line", "Batch %s has %d lines; there is no line %d.", b.Code, len(lines), in.Line+1)
	}
	line := lines[in.Line]
	grams := math.Round(in.Grams*1000) / 1000
	if grams == 0 || math.Abs(grams) > 1e7 || math.IsNaN(grams) {
		return nil, refuse("bad-value", "A weighing is a mass in grams other than nothing.")
	}
	events, err := tx.BatchEvents(b.ID)
	if err != nil {
		return nil, err
	}
	w := sumWeighings(events)
	event := &store.BatchEvent{BatchID: b.ID, Kind: "weighed", Line: &line.Line, Grams: grams}
	if in.Key != uuid.Nil {
		event.Key = &in.Key
	}
	if grams < 0 {
		event.Kind = "took-out"
	}
	if line.Material == unstocked {
		if w.line[line.Line]+grams < -costing.MassTolerance {
			return nil, refuse("too-much-out", "Only %g g were weighed in: no more can be taken out.", w.line[line.Line])
		}
		return event, nil
	}
	lot, err := s.lotForLine(tx, line, in)
	if err != nil {
		return nil, err
	}
	event.LotID = &lot.ID
	if grams < 0 {
		if have := w.ofLot[line.Line][lot.ID]; have+grams < -costing.MassTolerance {
			return nil, refuse("too-much-out", "Only %g g of lot %s are in the bowl: no more can be taken out.", have, lot.Code)
		}
		return event, nil
	}
	if available := lot.AvailableG(); grams > available+costing.MassTolerance {
		return nil, s.shortLot(tx, line, lot, available)
	}
	if lot.Opened == nil {
		today := s.today()
		lot.Opened = &today
		return event, tx.SaveLotMarks(lot)
	}
	return event, nil
}

// lotForLine finds the lot a weighing is from and refuses a wrong one, saying
// what to do.
func (s *Service) lotForLine(tx *store.Tx, line store.BatchLine, in api.Weighing) (*store.Lot, error) {
	refuse := func(code, detail string, args ...any) error {
		return api.NewProblem(http.StatusUnprocessableEntity, code, detail, args...).At("lot")
	}
	written := strings.TrimSpace(in.Lot)
	if written == "" {
		return nil, refuse("lot-missing", "Which lot of %s is it from? Give the code on the bag.", line.Name)
	}
	var found []store.Lot
	if id, err := uuid.Parse(written); err == nil {
		if err := tx.LockLots([]uuid.UUID{id}); err != nil {
			return nil, err
		}
		l, err := tx.Lot(id)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return nil, err
		}
		if err == nil {
			found = append(found, *l)
		}
	} else if found, err = tx.LotsByCode(written); err != nil {
		return nil, err
	}
	if len(found) == 0 {
		return nil, refuse("unknown-lot", "There is no lot %s. %s", written, s.rightLots(tx, line))
	}
	i := slices.IndexFunc(found, func(l store.Lot) bool { return l.Material == line.Material })
	if i < 0 {
		set, err := s.settings(tx)
		if err != nil {
			return nil, err
		}
		other := lotOf(&found[0], set, s.today())
		return nil, refuse("wrong-lot", "Lot %s is %s, not %s. Put it back. %s", other.Code, strings.ToLower(other.Name), strings.ToLower(line.Name), s.rightLots(tx, line))
	}
	lot := &found[i]
	if err := tx.LockLots([]uuid.UUID{lot.ID}); err != nil {
		return nil, err
	}
	lot, err := tx.Lot(lot.ID) // as it stands now that it is locked
	if err != nil {
		return nil, err
	}
	if lot.SetAside {
		return nil, refuse("lot-set-aside", "Lot %s was set aside. %s", lot.Code, s.rightLots(tx, line))
	}
	if c := costingLot(lot); c.PastOn(s.today()) && !in.AcceptPast && in.Grams > 0 {
		return nil, refuse("lot-past", "Lot %s was good until %s. Use a fresher one, or look and smell, and accept it all the same.", lot.Code, lot.BestBefore.Format("2 January 2006"))
	}
	return lot, nil
}

// rightLots says where a line's material is to be had.
func (s *Service) rightLots(tx *store.Tx, line store.BatchLine) string {
	stock, err := tx.Stock(line.Material)
	if err != nil {
		return ""
	}
	var codes []string
	for i := range stock {
		c := costingLot(&stock[i])
		if !c.Unusable && !c.PastOn(s.today()) && c.RemainingG > costing.MassTolerance {
			codes = append(codes, stock[i].Code)
		}
	}
	name := strings.ToUpper(line.Name[:1]) + line.Name[1:]
	if len(codes) == 0 {
		return fmt.Sprintf("There is no good lot of %s on the shelf.", strings.ToLower(line.Name))
	}
	return fmt.Sprintf("%s is in lot %s.", name, strings.Join(codes, " or "))
}

func (s *Service) shortLot(tx *store.Tx, line store.BatchLine, lot *store.Lot, available float64) error {
	detail := fmt.Sprintf("Lot %s has only %s left. Weigh that from it, then the rest from another bag.", lot.Code, formula.Grams(available, 0.1))
	stock, err := tx.Stock(line.Material)
	if err != nil {
		return err
	}
	for i := range stock {
		if c := costingLot(&stock[i]); stock[i].ID != lot.ID && !c.Unusable && !c.PastOn(s.today()) && c.RemainingG > 0 {
			detail = fmt.Sprintf("Lot %s has only %s left. Weigh that from it, then the rest from lot %s.", lot.Code, formula.Grams(available, 0.1), stock[i].Code)
			break
		}
	}
	return api.NewProblem(http.StatusUnprocessableEntity, "short-lot", "%s", detail).At("grams")
}

// Note logs a correction or remark.
func (s *Service) Note(ctx context.Context, id uuid.UUID, text string) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out *api.Batch
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		if _, err := tx.LockBatch(id); err != nil {
			return said(err, "batch")
		}
		if err := tx.AddBatchEvent(&store.BatchEvent{BatchID: id, Kind: "noted", Text: text, PersonID: a.Person, At: s.now()}); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, id); err != nil {
			return err
		}
		return tx.Announce("batches", id)
	})
	return out, err
}

// Finish draws the lots down and fills the jars.
func (s *Service) Finish(ctx context.Context, id uuid.UUID, in api.Finish) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	if in.Jars < 1 {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "bad-value", "A finished batch fills at least one jar.").At("jars")
	}
	return s.end(ctx, id, func(tx *store.Tx, b *store.Batch) error {
		batch, err := s.batchOf(tx, id)
		if err != nil {
			return err
		}
		if next := batch.NextLine; next != nil {
			return api.NewProblem(http.StatusUnprocessableEntity, "not-weighed", "%s is not weighed out yet: %s of %s.",
				batch.Lines[*next].Name, formula.Grams(batch.Lines[*next].WeighedG, 1), formula.Grams(batch.Lines[*next].TargetG, 1))
		}
		cost, used, err := s.drawDown(tx, a, b, "drawn", "")
		if err != nil {
			return err
		}
		if err := s.fillJars(tx, b, batch, in.Jars, cost); err != nil {
			return err
		}
		if err := s.setBestBefore(tx, b, used); err != nil {
			return err
		}
		b.State = "finished"
		return tx.AddBatchEvent(&store.BatchEvent{BatchID: id, Kind: "finished", Text: in.Note, PersonID: a.Person, At: *b.FinishedAt})
	})
}

// Abandon stops a batch. What was weighed goes back to the bags, or is drawn
// from stock when it was thrown away.
func (s *Service) Abandon(ctx context.Context, id uuid.UUID, in api.Abandon) (*api.Batch, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	return s.end(ctx, id, func(tx *store.Tx, b *store.Batch) error {
		if in.Discarded {
			cost, _, err := s.drawDown(tx, a, b, "discarded", in.Reason)
			if err != nil {
				return err
			}
			b.Cost = cost
		}
		b.State = "abandoned"
		return tx.AddBatchEvent(&store.BatchEvent{BatchID: id, Kind: "abandoned", Text: in.Reason, PersonID: a.Person, At: *b.FinishedAt})
	})
}

// end closes an open batch by what f does to it.
func (s *Service) end(ctx context.Context, id uuid.UUID, f func(*store.Tx, *store.Batch) error) (*api.Batch, error) {
	var out *api.Batch
	err := s.store.Tx(ctx, func(tx *store.Tx) error {
		b, err := tx.LockBatch(id)
		if err != nil {
			return said(err, "batch")
		}
		if b.State != "weighing" {
			return closed(b)
		}
		now := s.now()
		b.FinishedAt = &now
		if err := f(tx, b); err != nil {
			return err
		}
		if err := tx.SaveBatchEnd(b); err != nil {
			return err
		}
		if out, err = s.batchOf(tx, id); err != nil {
			return err
		}
		for _, topic := range []string{"batches", "shelf", "pantry"} {
			if err := tx.Announce(topic, id); err != nil {
				return err
			}
		}
		return nil
	})
	return out, err
}

// drawDown takes what was weighed out of the lots, at what it cost.
func (s *Service) drawDown(tx *store.Tx, a Actor, b *store.Batch, kind, reason string) (decimal.Decimal, []*store.Lot, error) {
	total := decimal.Zero
	events, err := tx.BatchEvents(b.ID)
	if err != nil {
		return total, nil, err
	}
	w := sumWeighings(events)
	var ids []uuid.UUID
	for _, o := range w.order {
		ids = append(ids, o.lot)
	}
	if err := tx.LockLots(ids); err != nil {
		return total, nil, err
	}
	lots, err := tx.LotsByID(ids)
	if err != nil {
		return total, nil, err
	}
	var used []*store.Lot
	for _, o := range w.order {
		grams, lot := w.ofLot[o.line][o.lot], lots[o.lot]
		if grams <= costing.MassTolerance {
			continue
		}
		if grams > lot.RemainingG+costing.MassTolerance {
			return total, nil, api.NewProblem(http.StatusConflict, "short-lot",
				"Lot %s has %g g left on paper, but %g g were weighed from it. Count the lot on the shelf, then finish.", lot.Code, lot.RemainingG, grams)
		}
		c := costingLot(lot)
		c.RemainingG = lot.RemainingG
		cost := c.Cost(grams)
		line := o.line
		if err := tx.Move(&store.Movement{LotID: lot.ID, Kind: kind, Grams: -grams, Cost: cost, BatchID: &b.ID, Line: &line, Reason: reason, PersonID: a.Person, At: *b.FinishedAt}); err != nil {
			return total, nil, err
		}
		lot.RemainingG -= grams
		total = total.Add(cost)
		if !slices.Contains(used, lot) {
			used = append(used, lot)
		}
	}
	return total, used, nil
}

func (s *Service) fillJars(tx *store.Tx, b *store.Batch, batch *api.Batch, count int, cost decimal.Decimal) error {
	netG := batch.WeighedG * (1 - b.Loss)
	b.Jars, b.Cost = count, cost
	b.ContainerEachG = math.Round(1000*netG/float64(count)) / 1000
	weights := make([]float64, count)
	for i := range weights {
		weights[i] = 1
	}
	costs, err := costing.Split(cost, weights)
	if err != nil {
		return err
	}
	jars := make([]store.Jar, count)
	for i := range jars {
		jars[i] = store.Jar{ID: store.NewID(), BatchID: b.ID, Number: i + 1, Grams: b.ContainerEachG, Cost: costs[i]}
	}
	return tx.AddJars(jars)
}

func (s *Service) setBestBefore(tx *store.Tx, b *store.Batch, used []*store.Lot) error {
	set, err := s.settings(tx)
	if err != nil {
		return err
	}
	stored, err := storedFormula(tx, b.FormulaID, b.FormulaVersion)
	if err != nil {
		return err
	}
	f, _ := exchange.ToFormula(&stored.File)
	limit := bestBefore(dayOf(*b.FinishedAt), assess.Formula(f, set.lib, assess.Options{Workshop: set.tools()}), used, set)
	b.BestBefore, b.BestBeforeReason = &limit.Date, limit.Reason
	return nil
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
