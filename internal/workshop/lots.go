package workshop

import (
	"context"
	"net/http"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/delivery"
	"keencrock/internal/exchange"
	"keencrock/internal/store"
)

// ReadDelivery says what a delivery line means; nothing is stored.
func (s *Service) ReadDelivery(ctx context.Context, line string) (*api.Delivery, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	set, err := s.settings(s.store.Read(ctx))
	if err != nil {
		return nil, err
	}
	d, err := s.readDelivery(line, set)
	if err != nil {
		return nil, err
	}
	out := &api.Delivery{Material: d.Material.ID, Name: d.Material.Name, Amount: d.Written, Packs: d.Packs, MassG: d.MassG,
		Supplier: d.Supplier, LotCode: d.LotCode, BestBefore: types.Date{Time: d.BestBefore}}
	if d.HasPrice {
		out.Price = exchange.Money(d.Price)
		out.PricePerKg = exchange.Money(costing.PerGram(d.Price, d.MassG).Mul(decimal.NewFromInt(1000)))
	}
	return out, nil
}

func (s *Service) readDelivery(line string, set *settings) (*delivery.Delivery, error) {
	d, err := delivery.Parse(line, set.lib, set.measures, s.today())
	if err == nil {
		return d, nil
	}
	p := exchange.FieldProblem("line", err)
	return nil, &p
}

// TakeDelivery takes in a delivery noted in one line.
func (s *Service) TakeDelivery(ctx context.Context, in api.DeliveryLine) (*api.Lot, error) {
	a, err := may(ctx, Maker)
	if err != nil {
		return nil, err
	}
	var out api.Lot
	err = s.store.Tx(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		d, err := s.readDelivery(in.Line, set)
		if err != nil {
			return err
		}
		received := s.today()
		if !in.Received.IsZero() {
			received = in.Received.Time
		}
		row := exchange.ShelfRow{LotCode: d.LotCode, Material: d.Material, Supplier: d.Supplier, OriginalG: d.MassG, RemainingG: d.MassG,
			Price: d.Price, Received: received, BestBefore: d.BestBefore}
		l, err := s.addLot(tx, a, row)
		if err != nil {
			return err
		}
		out = lotOf(l, set, s.today())
		return tx.Announce("shelf", l.ID)
	})
	return &out, err
}

// addLot takes in one lot.
func (s *Service) addLot(tx *store.Tx, a Actor, row exchange.ShelfRow) (*store.Lot, error) {
	l, err := s.newLot(row, func(material, code string) (bool, error) {
		same, err := tx.LotsByCode(code)
		return slices.ContainsFunc(same, func(o store.Lot) bool { return o.Material == material }), err
	})
	if err != nil {
		return nil, err
	}
	return l, said(tx.AddLots([]store.Lot{*l}, a.Person, s.now()), "lot")
}

// The longest that a lot's words may be, in letters.
const (
	maxLotCode = 60
	maxLotText = 500
)

// newLot is a lot as a row has it. One without a code gets one of its day. taken
// says whether a material has a lot of a code already: it would break the
// transaction.
func (s *Service) newLot(row exchange.ShelfRow, taken func(material, code string) (bool, error)) (*store.Lot, error) {
	for field, text := range map[string]string{"supplier": row.Supplier, "note": row.Note} {
		if utf8.RuneCountInString(text) > maxLotText {
			return nil, api.NewProblem(http.StatusUnprocessableEntity, "too-long", "At most %d letters fit here.", maxLotText).At(field)
		}
	}
	if utf8.RuneCountInString(row.LotCode) > maxLotCode {
		return nil, api.NewProblem(http.StatusUnprocessableEntity, "too-long", "A code has at most %d letters.", maxLotCode).At("lot")
	}
	if row.Received.IsZero() {
		row.Received = s.today()
	}
	l := &store.Lot{ID: store.NewID(), Code: row.LotCode, Material: row.Material.ID, Supplier: row.Supplier,
		OriginalG: row.OriginalG, RemainingG: row.RemainingG, Landed: row.Price.Round(2), Received: row.Received, Note: row.Note}
	if row.OriginalG-row.RemainingG <= costing.MassTolerance {
		l.RemainingG = l.OriginalG
	}
	if !row.BestBefore.IsZero() {
		l.BestBefore = &row.BestBefore
	}
	if l.Code == "" {
		l.Code = "D" + row.Received.Format("060102")
		again, err := taken(l.Material, l.Code)
		if err != nil {
			return nil, err
		}
		if id := l.ID.String(); again {
			l.Code += "-" + strings.ToUpper(id[len(id)-6:])
		}
	}
	again, err := taken(l.Material, l.Code)
	if err != nil {
		return nil, err
	}
	if again {
		return nil, api.NewProblem(http.StatusConflict, "taken", "%s has a lot %s already: give this one another code.", row.Material.Name, l.Code).At("lot")
	}
	return l, nil
}

func lotOf(l *store.Lot, set *settings, today time.Time) api.Lot {
	name := l.Material
	if m, err := set.lib.Find(l.Material); err == nil {
		name = m.Name
	}
	c := costingLot(l)
	out := api.Lot{Id: l.ID, Code: l.Code, Material: l.Material, Name: name, Supplier: l.Supplier,
		OriginalG: l.OriginalG, RemainingG: l.RemainingG, AvailableG: l.AvailableG(), Landed: exchange.Money(l.Landed), Currency: set.workshop.Currency,
		Received: types.Date{Time: l.Received}, BestBefore: dateOf(l.BestBefore), Opened: dateOf(l.Opened),
		SetAside: l.SetAside, Clumped: l.Clumped, Past: c.PastOn(today), Note: l.Note, MeasuredPh: measuredPH(l.PH, l.PHWith)}
	if l.Landed.IsPositive() {
		out.PricePerKg = exchange.Money(costing.PerGram(l.Landed, l.OriginalG).Mul(decimal.NewFromInt(1000)))
	}
	return out
}

// LotQuery says which lots are wanted.
type LotQuery struct {
	Material  string
	WithEmpty bool
	After     string
	Limit     int
}

// Lots lists one page of lots, newest delivery first.
func (s *Service) Lots(ctx context.Context, q LotQuery) (*api.LotPage, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	tx := s.store.Read(ctx)
	set, err := s.settings(tx)
	if err != nil {
		return nil, err
	}
	query := store.LotQuery{Material: q.Material, WithEmpty: q.WithEmpty, Limit: pageLimit(q.Limit)}
	if query.AfterReceived, query.AfterID, err = parsePage(q.After); err != nil {
		return nil, err
	}
	rows, err := tx.Lots(query)
	page := &api.LotPage{Lots: make([]api.Lot, len(rows))}
	for i := range rows {
		page.Lots[i] = lotOf(&rows[i], set, s.today())
	}
	if len(rows) == query.Limit {
		last := rows[len(rows)-1]
		page.Next = pageAfter(last.Received, last.ID)
	}
	return page, err
}

const defaultPage = 50

func pageLimit(n int) int {
	if n <= 0 {
		return defaultPage
	}
	return min(n, 200)
}

// A page marker is the time and id of its last row.
func pageAfter(t time.Time, id uuid.UUID) string {
	return t.UTC().Format(time.RFC3339Nano) + "," + id.String()
}

func parsePage(after string) (t time.Time, id uuid.UUID, err error) {
	if after == "" {
		return t, id, nil
	}
	at, idText, _ := strings.Cut(after, ",")
	if t, err = time.Parse(time.RFC3339Nano, at); err == nil {
		id, err = uuid.Parse(idText)
	}
	if err != nil {
		return t, id, api.NewProblem(http.StatusBadRequest, "bad-page", "That page is not known: begin at the first.").At("after")
	}
	return t, id, nil
}

// Lot returns one lot with all that came and went of it.
func (s *Service) Lot(ctx context.Context, id uuid.UUID) (*api.LotDetail, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	var out api.LotDetail
	err := s.store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		l, err := tx.Lot(id)
		if err != nil {
			return said(err, "lot")
		}
		moves, err := tx.Movements(id)
		out.Lot, out.Movements = lotOf(l, set, s.today()), make([]api.Movement, len(moves))
		for i, m := range moves {
			out.Movements[i] = api.Movement{At: m.At, Kind: api.MovementKind(m.Kind), Grams: m.Grams, Cost: exchange.Money(m.Cost), Batch: m.BatchCode, By: m.Person, Reason: m.Reason}
		}
		return err
	})
	return &out, err
}

// TraceLot follows a bag to every jar.
func (s *Service) TraceLot(ctx context.Context, id uuid.UUID) (*api.LotTrace, error) {
	if _, err := may(ctx, Viewer); err != nil {
		return nil, err
	}
	out := &api.LotTrace{Batches: []api.TraceBatch{}}
	err := s.store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.settings(tx)
		if err != nil {
			return err
		}
		l, err := tx.Lot(id)
		if err != nil {
			return said(err, "lot")
		}
		out.Lot = lotOf(l, set, s.today())
		drawn, err := tx.DrawnFromLot(id)
		if err != nil {
			return err
		}
		for _, d := range drawn {
			b, err := tx.Batch(d.BatchID)
			if err != nil {
				return err
			}
			jars, err := tx.Jars(b.ID)
			if err != nil {
				return err
			}
			out.Batches = append(out.Batches, api.TraceBatch{Batch: b.ID, Code: b.Code, Name: b.Name, State: api.BatchState(b.State),
				Grams: d.Grams, Jars: jarsOf(b, jars[b.ID])})
		}
		return nil
	})
	return out, err
}
