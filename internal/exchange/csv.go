package exchange

import (
	"bytes"
	"cmp"
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/shopspring/decimal"
	"golang.org/x/text/encoding/charmap"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/internal/exchange/sheet"
	"keencrock/internal/problem"
)

// ShelfRow is one lot as a line of CSV has it.
type ShelfRow struct {
	Row        int // line of the file, from 1
	LotCode    string
	Material   *material.Material
	Supplier   string
	OriginalG  float64
	RemainingG float64
	Price      decimal.Decimal
	Free       bool      // known to have cost nothing
	Currency   string    // empty for the workshop's
	Received   time.Time // zero when not given
	BestBefore time.Time // zero when not given
	Note       string
}

// shelfColumns are the columns of the shelf as CSV (RFC 4180), in the order
// they are written. Material and amount have to be there when it is read.
var shelfColumns = []string{"lot", "material", "supplier", "received", "best_before", "amount", "remaining", "price", "currency", "note"}

// AGift is the note of what is known to have cost nothing. A price of 0.00 alone may be one
// that nobody knew, as files of before version 0.3.0 say it.
const AGift = "a gift"

// keptBack is how the note of what was taken back out of a batch begins, which bore its cost.
const keptBack = "from batch "

// maxRows is the longest file read.
const maxRows = 20_000

// WriteShelf writes lots as CSV.
func WriteShelf(w io.Writer, lots []api.Lot) error {
	out := csv.NewWriter(w)
	out.UseCRLF = true
	if err := out.Write(shelfColumns); err != nil {
		return err
	}
	day := func(t time.Time) string {
		if t.IsZero() {
			return ""
		}
		return t.Format(time.DateOnly)
	}
	for _, l := range lots {
		cells := []string{l.Code, l.Material, l.Supplier, day(l.Received.Time), day(l.BestBefore.Time),
			grams(l.OriginalG), grams(l.RemainingG), l.Landed, l.Currency, l.Note}
		for i, c := range cells {
			cells[i] = sheet.Guard(c)
		}
		err := out.Write(cells)
		if err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

func grams(g float64) string { return decimal.NewFromFloat(g).Round(3).String() + " g" }

// table is CSV with its header understood.
type table struct {
	r       *csv.Reader
	columns map[string]int
	units   map[string]string // of bare numbers, where a head says one
	need    []string
}

// openTable reads the header: UTF-8 with or without a byte order mark, else
// Windows-1252 (which Latin-1 is part of), comma or semicolon between the columns.
func openTable(data []byte, known, need []string) (*table, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if !utf8.Valid(data) {
		var err error
		if data, err = charmap.Windows1252.NewDecoder().Bytes(data); err != nil {
			return nil, problem.Unfit("bad-csv", "The file is neither UTF-8 nor Latin-1: save it as UTF-8.")
		}
	}
	first, _, _ := bytes.Cut(data, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(data))
	if bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		r.Comma = ';'
	}
	r.FieldsPerRecord = -1
	header, err := r.Read()
	if err != nil {
		return nil, problem.Unfit("bad-csv",
			"The file has no header row. Expected the columns %s.", strings.Join(known, ", "))
	}
	t := &table{r: r, columns: map[string]int{}, need: need}
	for i, name := range header {
		own := strings.ReplaceAll(strings.ToLower(strings.TrimSpace(name)), " ", "_")
		name, unit := headOf(own, known)
		if name != own && slices.ContainsFunc(header, func(h string) bool {
			return strings.EqualFold(strings.ReplaceAll(strings.TrimSpace(h), " ", "_"), name)
		}) {
			name, unit = own, "" // there is one of that very name
		}
		if unit != "" {
			if t.units == nil {
				t.units = map[string]string{}
			}
			t.units[name] = unit
		}
		if _, twice := t.columns[name]; twice {
			return nil, rowProblem(1, name, "bad-csv", "The column %s stands twice.", name)
		}
		t.columns[name] = i
	}
	for _, name := range need {
		if _, ok := t.columns[name]; !ok {
			return nil, rowProblem(1, name, "bad-csv", "The column %s is missing. Expected the columns %s.", name, strings.Join(known, ", "))
		}
	}
	return t, nil
}

var bareNumber = regexp.MustCompile(`^\d+(?:[.,]\d+)?$`)

// otherHeads are what people call the columns of their own sheets; common practice.
var otherHeads = map[string]string{"name": "material", "item": "material", "ingredient": "material", "what": "material", "article": "material",
	"quantity": "amount", "qty": "amount", "weight": "amount", "size": "amount", "grams": "amount", "g": "amount", "kg": "amount", "kilograms": "amount", "ml": "amount", "litres": "amount", "l": "amount",
	"batch": "lot", "lot_no": "lot", "lot_number": "lot", "code": "lot", "charge": "lot", "shop": "supplier", "from": "supplier", "vendor": "supplier", "bought_from": "supplier", "bought_at": "supplier",
	"date": "received", "bought": "received", "bought_on": "received", "day": "received", "received_on": "received", "expiry": "best_before", "expires": "best_before", "best_by": "best_before", "bb": "best_before", "use_by": "best_before",
	"left": "remaining", "on_hand": "remaining", "cost": "price", "paid": "price", "total": "price", "notes": "note", "remark": "note", "remarks": "note"}

// headUnits are heads that say the unit of the bare numbers under them.
var headUnits = map[string]string{"grams": "g", "g": "g", "kg": "kg", "kilograms": "kg", "ml": "ml", "litres": "l", "l": "l"}

// headOf is the column that a head stands for, by its name or by what people call it, and the
// unit of what stands under it where the head says one, as “amount (kg)” does.
func headOf(head string, known []string) (name, unit string) {
	name = head
	if open := strings.LastIndexAny(name, "(["); open > 0 {
		unit = headUnits[strings.Trim(name[open:], "()[]")]
		name = strings.Trim(name[:open], "_")
	}
	if slices.Contains(known, name) {
		return name, unit
	}
	if other, ok := otherHeads[name]; ok && slices.Contains(known, other) {
		return other, cmp.Or(unit, headUnits[name])
	}
	return name, unit
}

// dayOf reads a day: as 2027-06-30, with points and the day first, with slashes where that can
// mean one day only, or as the number that a spreadsheet keeps it as.
func dayOf(written string) (time.Time, error) {
	for _, form := range []string{time.DateOnly, "2.1.2006"} {
		if t, err := time.Parse(form, written); err == nil {
			return t, nil
		}
	}
	dayFirst, noDay := time.Parse("2/1/2006", written)
	monthFirst, noMonth := time.Parse("1/2/2006", written)
	switch {
	case noDay == nil && noMonth == nil && !dayFirst.Equal(monthFirst):
		return time.Time{}, fmt.Errorf("“%s” can be read two ways: write %s or %s", written, dayFirst.Format(time.DateOnly), monthFirst.Format(time.DateOnly))
	case noDay == nil:
		return dayFirst, nil
	case noMonth == nil:
		return monthFirst, nil
	}
	const oldest, newest = 30_000, 80_000 // of the years 1982 to 2119
	if n, err := strconv.ParseFloat(written, 64); err == nil && n >= oldest && n < newest {
		return time.Date(1899, 12, 30, 0, 0, 0, 0, time.UTC).AddDate(0, 0, int(n)), nil
	}
	return time.Time{}, fmt.Errorf("“%s” is no date: expected 2027-06-30", written)
}

func rowProblem(row int, column, code, detail string, args ...any) *api.Problem {
	p := problem.Unfit(code, detail, args...).At(column)
	p.Row = row
	return p
}

// next returns the next row as a way to ask for its columns; io.EOF at the
// end. Blank lines are passed over by encoding/csv.
func (t *table) next() (row int, get func(string) string, err error) {
	record, err := t.r.Read()
	if err == io.EOF {
		return 0, nil, err
	}
	if err != nil {
		var parse *csv.ParseError
		if errors.As(err, &parse) {
			row = parse.Line
		}
		return row, nil, rowProblem(row, "", "bad-csv", "The row cannot be read: %v.", err)
	}
	row, _ = t.r.FieldPos(0)
	return row, func(column string) string {
		if i, ok := t.columns[column]; ok && i < len(record) {
			text := sheet.Unguard(strings.TrimSpace(record[i]))
			if unit := t.units[column]; unit != "" && bareNumber.MatchString(text) {
				text += " " + unit
			}
			return text
		}
		return ""
	}, nil
}

// ReadShelf reads lots from CSV. Every bad row is reported; the error is an
// [*api.Problem] about the file as a whole, or that of a context that ended.
func ReadShelf(ctx context.Context, data []byte, lib *material.Library, m quantity.Measures, currency string) (good []ShelfRow, bad []api.Problem, err error) {
	t, err := openTable(data, shelfColumns, []string{"material", "amount"})
	if err != nil {
		return nil, nil, err
	}
	for {
		row, get, err := t.next()
		if err == io.EOF {
			return good, bad, nil
		}
		if err != nil {
			var p *api.Problem
			if errors.As(err, &p) {
				bad = append(bad, *p)
			}
			continue
		}
		if err := ctx.Err(); err != nil {
			return nil, nil, err
		}
		if len(good)+len(bad) >= maxRows {
			return nil, nil, problem.Unfit("too-many-rows", "A file has at most %d rows.", maxRows)
		}
		s, p := ShelfRowOf(row, get, lib, m, currency)
		if p != nil {
			bad = append(bad, *p)
			continue
		}
		good = append(good, *s)
	}
}

// ShelfRowOf reads a lot from the columns of a row, by the names the shelf is written with.
func ShelfRowOf(row int, get func(string) string, lib *material.Library, m quantity.Measures, currency string) (*ShelfRow, *api.Problem) {
	s := &ShelfRow{Row: row, LotCode: get("lot"), Supplier: get("supplier"), Note: get("note")}
	var p *api.Problem
	if s.Material, s.OriginalG, p = goods(row, get, lib, m); p != nil {
		return nil, p
	}
	switch left := get("remaining"); left {
	case "":
		s.RemainingG = s.OriginalG
	case "0", "0 g":
	default:
		amount, err := quantity.Parse(left)
		if err == nil {
			s.RemainingG, err = gramsOf(amount, s.Material, m)
		}
		if err != nil {
			return nil, fieldRow(row, "remaining", err)
		}
	}
	if s.RemainingG > s.OriginalG {
		return nil, rowProblem(row, "remaining", "bad-value", "More is left than there was: %g g of %g g.", s.RemainingG, s.OriginalG)
	}
	if written := get("price"); written != "" {
		var err error
		if s.Price, err = ParseMoney(written); err != nil {
			return nil, rowProblem(row, "price", "bad-value", "%s", Sentence(err))
		}
		s.Free = s.Price.IsZero() && (s.Note == AGift || strings.HasPrefix(s.Note, keptBack))
	}
	if c := get("currency"); c != "" && c != currency {
		return nil, rowProblem(row, "currency", "bad-value", "The price is in %s; this workshop counts in %s.", c, currency)
	}
	for _, column := range []struct {
		name string
		to   *time.Time
	}{{"received", &s.Received}, {"best_before", &s.BestBefore}} {
		if written := get(column.name); written != "" {
			var err error
			if *column.to, err = dayOf(written); err != nil {
				return nil, rowProblem(row, column.name, "bad-value", "%s", Sentence(err))
			}
		}
	}
	return s, nil
}

// goods reads what a row is of, and how much: the name as it is said, by what
// it is measured in.
func goods(row int, get func(string) string, lib *material.Library, measures quantity.Measures) (m *material.Material, massG float64, p *api.Problem) {
	amount, err := quantity.Parse(get("amount"))
	if err != nil {
		return nil, 0, fieldRow(row, "amount", err)
	}
	named, err := lib.ReadFor(get("material"), amount)
	if err != nil {
		return nil, 0, fieldRow(row, "material", err)
	}
	g, err := gramsOf(amount, named.Material, measures)
	if err != nil {
		return nil, 0, fieldRow(row, "amount", err)
	}
	return named.Material, g, nil
}

func fieldRow(row int, column string, err error) *api.Problem {
	p := FieldProblem(column, err)
	p.Row = row
	return &p
}

func gramsOf(a quantity.Amount, m *material.Material, measures quantity.Measures) (float64, error) {
	g, err := a.Grams(m.Handling(measures))
	if err != nil {
		return 0, fmt.Errorf("%s: %w", m.Name, err)
	}
	return g.Value, nil
}

var currencyPattern = regexp.MustCompile(`^[A-Z]{3}$`)

var moneyPattern = regexp.MustCompile(`^\d{1,9}(?:[.,]\d{1,4})?$`)

// ParseMoney reads a price with a decimal point or comma. "1,000" is refused,
// since it can mean one or a thousand.
func ParseMoney(s string) (decimal.Decimal, error) {
	if !moneyPattern.MatchString(s) {
		return decimal.Zero, fmt.Errorf("“%s” is no price: expected 11.40 or 11,40", s)
	}
	if whole, frac, comma := strings.Cut(s, ","); comma && len(frac) == 3 && whole != "0" {
		return decimal.Zero, fmt.Errorf("“%s” can be read two ways: write %s%s or %s.%s", s, whole, frac, whole, frac)
	}
	return decimal.NewFromString(strings.Replace(s, ",", ".", 1))
}

var priceColumns = []string{"material", "amount", "price", "currency"}

// ReadPrices reads a price list: what an amount of each material costs. The
// error is an [*api.Problem] that carries every bad row.
func ReadPrices(r io.Reader, lib *material.Library) (costing.Prices, error) {
	prices := costing.Prices{PerGram: map[string]costing.Price{}}
	data, err := io.ReadAll(io.LimitReader(r, 4<<20))
	if err != nil {
		return prices, problem.Malformed("unreadable", "The price list could not be read: %v", err)
	}
	t, err := openTable(data, priceColumns, priceColumns)
	if err != nil {
		return prices, err
	}
	var bad []api.Problem
	for {
		row, get, err := t.next()
		if err == io.EOF {
			break
		}
		var p *api.Problem
		if err == nil {
			p = priceRow(row, get, lib, &prices)
		} else {
			errors.As(err, &p)
		}
		if p != nil {
			bad = append(bad, *p)
		}
	}
	if len(bad) > 0 {
		return prices, problem.UnfitAll("bad-prices", fmt.Sprintf("Line %d of the price list: %s", bad[0].Row, bad[0].Detail), bad)
	}
	return prices, nil
}

func priceRow(row int, get func(string) string, lib *material.Library, prices *costing.Prices) *api.Problem {
	m, g, bad := goods(row, get, lib, quantity.US)
	if bad != nil {
		return bad
	}
	price, err := ParseMoney(get("price"))
	if err != nil {
		return rowProblem(row, "price", "bad-value", "%s", Sentence(err))
	}
	currency := get("currency")
	if !currencyPattern.MatchString(currency) {
		return rowProblem(row, "currency", "bad-value", "“%s” is no currency: expected three capitals such as EUR.", currency)
	}
	if prices.Currency != "" && prices.Currency != currency {
		return rowProblem(row, "currency", "bad-value", "The list mixes %s and %s: give all prices in one currency.", prices.Currency, currency)
	}
	prices.Currency = currency
	perGram := costing.OnePrice(costing.PerGram(price, g))
	if before, twice := prices.PerGram[m.ID]; twice { // the last is taken; the others say how it varies
		perGram.Low, perGram.High = decimal.Min(before.Low, perGram.Low), decimal.Max(before.High, perGram.High)
	}
	prices.PerGram[m.ID] = perGram
	return nil
}
