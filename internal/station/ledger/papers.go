package ledger

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/internal/exchange/paper"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// NoBooks is what stands where tax would.
const NoBooks = "This is no bookkeeping: tax and accounts are for whoever does yours."

// file is a document as it is handed out.
func file(doc []byte, err error) (io.Reader, int64, error) {
	return bytes.NewReader(doc), int64(len(doc)), err
}

// DeliveryNote is the note of an act, as PDF.
func (s *Service) DeliveryNote(ctx context.Context, id uuid.UUID) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, 0, err
	}
	var doc *paper.Document
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		w, err := tx.Workshop()
		if err != nil {
			return err
		}
		row, err := tx.Act(id)
		if err != nil {
			return tenant.Explain(err, "delivery note")
		}
		lines, err := tx.ActLines(id)
		if err != nil {
			return err
		}
		doc = deliveryNote(w, actOf(row, lines))
		return nil
	})
	if err != nil {
		return nil, 0, err
	}
	return file(doc.A4())
}

var noteTitles = map[api.ActKind]string{"sold": "Delivery note", "given": "Delivery note", "gone": "Delivery note", "returned": "Taken back", "discarded": "Thrown away"}

func deliveryNote(w *store.Workshop, a *api.Act) *paper.Document {
	day := tenant.DayOf(a.At, w).Format(time.DateOnly)
	pairs := [][2]string{{"From", oneLine(w.Name, w.Address, w.Phone)}, {"To", cmp.Or(a.To, "nobody said")}, {"On", day}, {"By", a.By}}
	if a.Note != "" {
		pairs = append(pairs, [2]string{"Note", a.Note})
	}
	table := paper.Table{Heads: []string{"Good", "Batch", "Jars", "Each", "Price each", "Together"}, Wide: []float64{0.3, 0.22, 0.1, 0.12, 0.13, 0.13}, Right: []bool{false, false, true, true, true, true}}
	for _, l := range a.Lines {
		name, jars, each, price := l.Name, fmt.Sprint(l.Jars), l.EachG, l.Price
		if l.Grams > 0 {
			name, jars, each, price = l.Name+", by weight", "", l.Grams, ""
		}
		table.Rows = append(table.Rows, []string{name, l.BatchCode, jars, fmt.Sprintf("%.0f g", each), price, l.Together})
	}
	sums := [][2]string{}
	if a.Brought != "" {
		sums = append(sums, [2]string{"Together", a.Brought + " " + a.Currency})
	}
	if a.Deposits != "" {
		sums = append(sums, [2]string{"Deposit", a.Deposits + " " + a.Currency})
	}
	return &paper.Document{Title: fmt.Sprintf("%s %d", noteTitles[a.Kind], a.Number), Under: w.Name, Foot: w.Name + ". " + NoBooks,
		Parts: []paper.Part{{Pairs: pairs}, {Table: table}, {Pairs: sums, Sign: []string{"Received"}}}}
}

func oneLine(parts ...string) string {
	var said []string
	for _, p := range parts {
		if p = strings.TrimSpace(p); p != "" {
			said = append(said, strings.Join(strings.Fields(p), " "))
		}
	}
	return strings.Join(said, ", ")
}

// PriceList is the price list, of an outlet where it is given: as pdf, csv or xlsx.
func (s *Service) PriceList(ctx context.Context, as string, outlet uuid.UUID) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, 0, err
	}
	var lines []api.JarPrice
	var w *store.Workshop
	whose := ""
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		if w, err = tx.Workshop(); err != nil {
			return err
		}
		if outlet != uuid.Nil {
			p, err := tx.Party(outlet)
			if err != nil {
				return tenant.Explain(err, "outlet")
			}
			whose = p.Name
		}
		all, err := prices(tx)
		lines = listOf(all, outlet)
		return err
	})
	if err != nil {
		return nil, 0, err
	}
	day := s.Day(w)
	if as == "pdf" || as == "" {
		table := paper.Table{Heads: []string{"Good", "Price", "Deposit"}, Wide: []float64{0.6, 0.2, 0.2}, Right: []bool{false, true, true}}
		for _, p := range lines {
			table.Rows = append(table.Rows, []string{p.Name, p.Price + " " + p.Currency, p.Deposit})
		}
		doc := paper.Document{Title: "Prices", Under: oneLine(w.Name, w.Address) + ", " + day.Format(time.DateOnly), Foot: w.Name, Parts: []paper.Part{{Table: table}}}
		if whose != "" {
			doc.Parts[0].Text = []string{"For " + whose + "."}
		}
		return file(doc.A4())
	}
	t := sheet.Table{Name: "Prices", Head: []string{"good", "price", "deposit", "currency", "since"}}
	for _, p := range lines {
		t.Rows = append(t.Rows, []any{p.Name, decimalOf(p.Price), decimalOf(p.Deposit), p.Currency, p.Since.Time})
	}
	return tableFile(as, t)
}

// listOf are the prices of an outlet, where it has none of its own everybody's; those of
// everybody for none.
func listOf(all []api.JarPrice, outlet uuid.UUID) []api.JarPrice {
	own := map[uuid.UUID]bool{}
	for _, p := range all {
		if outlet != uuid.Nil && p.Outlet == outlet {
			own[p.Formula] = true
		}
	}
	var out []api.JarPrice
	for _, p := range all {
		if p.Outlet == uuid.Nil && !own[p.Formula] || outlet != uuid.Nil && p.Outlet == outlet {
			out = append(out, p)
		}
	}
	return out
}

// decimalOf is money as a number; nil for none said.
func decimalOf(m api.Money) any {
	d, err := decimal.NewFromString(m)
	if err != nil {
		return nil
	}
	return d
}

// tableFile is a table as csv or xlsx.
func tableFile(as string, tables ...sheet.Table) (io.Reader, int64, error) {
	var b bytes.Buffer
	var err error
	if as == "csv" {
		err = sheet.CSV(&b, &tables[0])
	} else {
		err = sheet.XLSX(&b, tables...)
	}
	return &b, int64(b.Len()), err
}

// Workbook is a list as it stands on the page, as a workbook; nothing is kept of it.
func (s *Service) Workbook(ctx context.Context, in *api.WorkbookAsked) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, 0, err
	}
	typed := make([]bool, len(in.Head))
	for _, column := range in.Typed {
		if column >= len(typed) {
			return nil, 0, problem.Unfit("bad-value", "There is no column %d.", column).At("typed")
		}
		typed[column] = true
	}
	t := sheet.Table{Name: in.Name, Head: in.Head, Rows: make([][]any, len(in.Rows))}
	for i, cells := range in.Rows {
		if len(cells) > len(in.Head) {
			return nil, 0, problem.Unfit("bad-value", "Row %d has more cells than the head.", i+1).At("rows")
		}
		row := make([]any, len(cells))
		for c, text := range cells {
			if row[c] = any(text); typed[c] {
				row[c] = sheet.Typed(text)
			}
		}
		t.Rows[i] = row
	}
	return tableFile("xlsx", t)
}

// YearFile is a year as csv or xlsx: by month, good and outlet; a workbook sums it up too.
func (s *Service) YearFile(ctx context.Context, year int, as string) (io.Reader, int64, error) {
	y, err := s.Year(ctx, year)
	if err != nil {
		return nil, 0, err
	}
	return tableFile(as, sumTable("By month, good and outlet", y.Rows), sumTable("By month", y.Months), sumTable("By good", y.Goods), sumTable("By outlet", y.Outlets))
}

func sumTable(name string, rows []api.SumRow) sheet.Table {
	t := sheet.Table{Name: name, Head: []string{"month", "good", "outlet", "currency", "made", "made g", "made cost", "sold", "brought", "sold cost", "left", "given", "given cost", "out", "spoiled", "spoiled cost", "sold without a price", "kept as samples", "sold by weight g"}}
	for _, r := range rows {
		t.Rows = append(t.Rows, []any{r.Month.Time, r.Name, r.Outlet, r.Currency, r.Made, r.MadeG, decimalOf(r.MadeCost), r.Sold, decimalOf(r.Brought), decimalOf(r.SoldCost), decimalOf(r.Left),
			r.Given, decimalOf(r.GivenCost), r.Out, r.Spoiled, decimalOf(r.SpoiledCost), r.Unpriced, r.Sampled, r.SoldByWeightG})
	}
	return t
}
