// Package delivery reads a delivery the way a maker notes it, in one line:
//
//	5 kg washing soda 11.40 from Quayside, lot 22B, best 2027-06
//	2 x 1 kg citric acid 9,80 from Marrow Stores
//
// The amount and material come first; then, in any order, the price of the
// whole delivery, "from" a supplier, "lot" or "batch" a code, and "best" or
// "bb" a date. A month alone means its last day.
package delivery

import (
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/shopspring/decimal"

	"keencrock/core/material"
	"keencrock/core/quantity"
)

// Delivery is one lot taken in.
type Delivery struct {
	Material   *material.Material
	Packs      int
	Written    string  // the amount of one pack, as it was understood
	MassG      float64 // of all packs together
	Price      decimal.Decimal
	HasPrice   bool
	Supplier   string
	LotCode    string
	BestBefore time.Time // zero when not given
}

// maxPacks and maxMassG refuse slips of the pen.
const (
	maxPacks = 1000
	maxMassG = 10_000_000
)

var (
	packs    = regexp.MustCompile(`^(\d{1,4})\s*[x×]\s+`)
	price    = regexp.MustCompile(`(?i)^[€$£]?\s*(\d{1,7}(?:[.,]\d{1,2})?)(?:\s*(?:€|\$|£|eur|usd|gbp))?$`)
	trailing = regexp.MustCompile(`(?i)^(.*\S)\s+([€$£]?\s*\d{1,7}(?:[.,]\d{1,2})?(?:\s*(?:€|\$|£|eur|usd|gbp))?)$`)
	keyword  = regexp.MustCompile(`(?i)\s*,?\s*\b(from|lot|batch|best before|best|bb|use by)\b[:\s]\s*`)
)

// Parse reads a line for the given day; dates are taken in its location. The
// error says which part could not be read and what was expected, and wraps a
// [*quantity.ParseError] or [*material.UnknownError] where there is one.
func Parse(line string, lib *material.Library, measures quantity.Measures, today time.Time) (*Delivery, error) {
	d := &Delivery{Packs: 1}
	line = strings.TrimSpace(line)
	if m := packs.FindStringSubmatch(line); m != nil {
		d.Packs, _ = strconv.Atoi(m[1])
		line = line[len(m[0]):]
		if d.Packs == 0 || d.Packs > maxPacks {
			return nil, fmt.Errorf("the number of packs has to be between 1 and %d", maxPacks)
		}
	}
	head := line
	spans := keyword.FindAllStringSubmatchIndex(line, -1)
	if len(spans) > 0 {
		head = line[:spans[0][0]]
	}
	for i, span := range spans {
		end := len(line)
		if i+1 < len(spans) {
			end = spans[i+1][0]
		}
		if err := d.set(strings.ToLower(line[span[2]:span[3]]), line[span[1]:end], today); err != nil {
			return nil, err
		}
	}
	if err := d.setGoods(strings.Trim(head, " ,"), lib, measures); err != nil {
		return nil, err
	}
	return d, nil
}

// set reads the words after a keyword. A price may follow a supplier after a
// comma.
func (d *Delivery) set(key, value string, today time.Time) error {
	value = strings.Trim(value, " ,")
	if before, after, found := cutLast(value, ","); found {
		if err := d.setPrice(strings.TrimSpace(after)); err == nil {
			value = strings.TrimSpace(before)
		}
	}
	if value == "" {
		return fmt.Errorf("expected something after “%s”", key)
	}
	switch key {
	case "from":
		d.Supplier = value
	case "lot", "batch":
		d.LotCode = value
	default:
		date, err := parseDate(value, today)
		if err != nil {
			return err
		}
		d.BestBefore = date
	}
	return nil
}

func cutLast(s, sep string) (before, after string, found bool) {
	i := strings.LastIndex(s, sep)
	if i < 0 {
		return s, "", false
	}
	return s[:i], s[i+len(sep):], true
}

var errNoPrice = errors.New("expected a price such as 11.40")

func (d *Delivery) setPrice(s string) error {
	m := price.FindStringSubmatch(strings.TrimSpace(strings.TrimPrefix(s, "for ")))
	if m == nil {
		return errNoPrice
	}
	p, err := decimal.NewFromString(strings.Replace(m[1], ",", ".", 1))
	if err != nil {
		return errNoPrice
	}
	d.Price, d.HasPrice = p, true
	return nil
}

// setGoods reads "5 kg washing soda 11.40".
func (d *Delivery) setGoods(head string, lib *material.Library, measures quantity.Measures) error {
	if head == "" {
		return errors.New("expected an amount and a material first, such as “5 kg washing soda”")
	}
	if before, after, found := cutLast(head, ", "); found && d.setPrice(after) == nil {
		head = before
	} else if m := trailing.FindStringSubmatch(head); m != nil && d.setPrice(m[2]) == nil {
		head = strings.TrimSuffix(strings.TrimSuffix(m[1], " for"), " at")
	}
	reading, err := quantity.ReadPrefix(head)
	if err != nil {
		return fmt.Errorf("the amount: %w", err)
	}
	amount := reading.Amount
	named, err := lib.ReadFor(strings.Trim(reading.Rest, " ,"), amount)
	if err != nil {
		return err
	}
	d.Material = named.Material
	if amount.Open() != quantity.NotOpen {
		return fmt.Errorf("how much %s came? Write a weight, such as 5 kg", material.InSentence(d.Material.Name))
	}
	grams, err := amount.Grams(d.Material.Handling(measures))
	if err != nil {
		return fmt.Errorf("%s: %w", d.Material.Name, err)
	}
	d.Written = amount.String()
	d.MassG = grams.Value * float64(d.Packs)
	if d.MassG > maxMassG {
		return fmt.Errorf("%g kg is more than a small workshop takes in: check the unit", d.MassG/1000)
	}
	return nil
}

var dateLayouts = []struct {
	layout    string
	monthOnly bool
}{
	{"2006-01-02", false}, {"2.1.2006", false}, {"2 Jan 2006", false}, {"2 January 2006", false},
	{"2006-01", true}, {"01/2006", true}, {"1/2006", true}, {"Jan 2006", true}, {"January 2006", true},
}

func parseDate(s string, today time.Time) (time.Time, error) {
	for _, l := range dateLayouts {
		t, err := time.ParseInLocation(l.layout, s, today.Location())
		if err != nil {
			continue
		}
		if l.monthOnly {
			t = t.AddDate(0, 1, -1)
		}
		if t.Year() < today.Year()-20 || t.Year() > today.Year()+30 {
			return t, fmt.Errorf("the date %s is far from today: check the year", s)
		}
		return t, nil
	}
	return time.Time{}, fmt.Errorf("the date “%s” cannot be read: expected 2027-06 or 2027-06-30", s)
}
