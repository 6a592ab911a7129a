package shelf

import (
	"cmp"
	"context"
	"fmt"
	"strings"
	"unicode/utf8"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/stock"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// addLot takes in one lot.
func (s *Service) addLot(tx *store.Tx, a tenant.Actor, row exchange.ShelfRow, set *tenant.Settings) (*stock.Lot, error) {
	l, err := newLot(row, set, func(item, code string) (bool, error) {
		return known(tx, item, code)
	})
	if err != nil {
		return nil, err
	}
	return l, s.addLots(tx, a, []stock.Lot{*l})
}

// addLots takes in lots.
func (s *Service) addLots(tx *store.Tx, a tenant.Actor, lots []stock.Lot) error {
	seen := map[string]bool{}
	var items []stock.Item
	var came []string
	for i := range lots {
		if item := lots[i].Item; !seen[item] {
			seen[item] = true
			came = append(came, item)
			items = append(items, stock.Item{ID: item, Kind: stock.Raw, Unit: stock.InGrams})
		}
	}
	if err := tx.PutItems(items...); err != nil {
		return err
	}
	if err := tx.Unwant(came...); err != nil { // what came is bought
		return err
	}
	for done := 0; done < len(lots); done += lotsAtOnce {
		if done > 0 { // how far it is; who hears nothing of it misses nothing
			_ = s.Store.Tell(tx.Context(), progressTopic, fmt.Sprintf("shelf %d/%d", done, len(lots)))
		}
		if err := tx.AddLots(lots[done:min(done+lotsAtOnce, len(lots))], a.Person, s.Now()); err != nil {
			return tenant.Explain(err, "lot")
		}
	}
	return nil
}

// lotsAtOnce is after how many lots it is told how far an import is.
const lotsAtOnce = 1000

// progressTopic is under which it is told how far something is that takes long: what it is
// about, how much is done, of how much.
const progressTopic = "progress"

// The longest that a lot's words may be, in letters.
const (
	maxLotCode = 60
	maxLotText = 500
)

// mostOfADay is up to which number the lots of a day are counted.
const mostOfADay = 50

// newLot is a lot as a row has it. One without a code gets one of its day, which no
// other has. taken says whether a material, or any where none is named, has a lot of a
// code already: it would break the transaction.
func newLot(row exchange.ShelfRow, set *tenant.Settings, taken func(item, code string) (bool, error)) (*stock.Lot, error) {
	for field, text := range map[string]string{"supplier": row.Supplier, "note": row.Note} {
		if utf8.RuneCountInString(text) > maxLotText {
			return nil, problem.Unfit("too-long", "At most %d letters fit here.", maxLotText).At(field)
		}
	}
	if utf8.RuneCountInString(row.LotCode) > maxLotCode {
		return nil, problem.Unfit("too-long", "A code has at most %d letters.", maxLotCode).At("lot")
	}
	if tenant.IsMade(row.Material.ID) {
		return nil, problem.Unfit("made-here", "%s is made here: log a batch of it, and it stands in the pantry.", row.Material.Name).At("material")
	}
	if row.Received.IsZero() {
		row.Received = set.Today
	}
	l := &stock.Lot{ID: stock.ID(store.NewID()), Code: row.LotCode, Item: row.Material.ID, Supplier: row.Supplier, Original: stock.Round(row.OriginalG), Remaining: stock.Round(row.RemainingG),
		Landed: row.Price.Round(2), Free: row.Free, Currency: cmp.Or(row.Currency, set.Workshop.Currency), Received: row.Received, BestBefore: row.BestBefore, Note: row.Note}
	if l.Original-l.Remaining <= stock.Tolerance {
		l.Remaining = l.Original
	}
	if l.Code == "" {
		day := "D" + row.Received.Format("060102")
		l.Code = day
		for n := 2; ; n++ {
			again, err := taken("", l.Code) // of any material: a code on a bag is of one lot
			if err != nil {
				return nil, err
			}
			if !again {
				break
			}
			if l.Code = fmt.Sprintf("%s-%d", day, n); n > mostOfADay {
				id := l.ID.String()
				l.Code = day + "-" + strings.ToUpper(id[len(id)-6:])
				break
			}
		}
	}
	again, err := taken(l.Item, l.Code)
	if err != nil {
		return nil, err
	}
	if again {
		return nil, problem.Clash("taken", "%s has a lot %s already: give this one another code.", row.Material.Name, l.Code).At("lot")
	}
	return l, nil
}

// LotQuery says which lots are wanted.
type LotQuery struct {
	Material  string
	Code      string
	WithEmpty bool
	After     string
	Limit     int
}

// Lots lists one page of lots, newest delivery first.
func (s *Service) Lots(ctx context.Context, q LotQuery) (*api.LotPage, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	tx := s.Store.Read(ctx)
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	query := store.LotQuery{Item: q.Material, Code: q.Code, WithEmpty: q.WithEmpty, Limit: exchange.PageLimit(q.Limit)}
	if query.AfterReceived, query.AfterID, err = exchange.ParsePage(q.After); err != nil {
		return nil, err
	}
	rows, err := tx.Lots(query)
	page := &api.LotPage{Lots: make([]api.Lot, len(rows))}
	for i := range rows {
		page.Lots[i] = exchange.Lot(&rows[i], set.NameOf(rows[i].Item), set.Today)
	}
	if len(rows) == query.Limit {
		last := rows[len(rows)-1]
		page.Next = exchange.PageAfter(last.Received, uuid.UUID(last.ID))
	}
	return page, err
}

// Lot returns one lot with all that came and went of it.
func (s *Service) Lot(ctx context.Context, id uuid.UUID) (*api.LotDetail, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out api.LotDetail
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		l, err := tx.Lot(stock.ID(id))
		if err != nil {
			return tenant.Explain(err, "lot")
		}
		moves, err := tenant.MovementsSeen(ctx, tx, l.ID)
		out.Lot, out.Movements = exchange.Lot(l, set.NameOf(l.Item), set.Today), make([]api.Movement, len(moves))
		for i := range moves {
			out.Movements[i] = exchange.Movement(&moves[i])
		}
		return err
	})
	return &out, err
}
