package delivery_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/delivery"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

var today = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)

func parse(line string) (*delivery.Delivery, error) {
	return delivery.Parse(line, material.Shipped(), quantity.US, today)
}

func TestADeliveryInOneLine(t *testing.T) {
	d, err := parse("5 kg washing soda 11.40 from Quayside, lot 22B, best 2027-06")
	require.NoError(t, err)
	assert.Equal(t, "washing-soda", d.Material.ID)
	assert.Equal(t, 5000.0, d.MassG)
	assert.Equal(t, "11.4", d.Price.String())
	assert.Equal(t, "Quayside", d.Supplier)
	assert.Equal(t, "22B", d.LotCode)
	assert.Equal(t, "2027-06-30", d.BestBefore.Format(time.DateOnly))
}

func TestDeliveriesAsPeopleNoteThem(t *testing.T) {
	for line, want := range map[string]struct {
		id    string
		grams float64
		price string
	}{
		"2 x 1 kg citric acid 9,80 from Marrow Stores": {"citric-acid", 2000, "9.8"},
		"500g borax":               {"borax", 500, "0"},
		"1 l white vinegar, €1.20": {"white-vinegar", 1006, "1.2"},
		"25 kg table salt 14 from Quayside best 31.12.2030": {"table-salt", 25000, "14"},
		"3 lemons 1.50":                                      {"lemon", 330, "1.5"},
		"10 ml lavender oil 6.50 lot: L7":                    {"lavender-oil", 9, "6.5"},
		"1 kg hydrogen peroxide 3 % 4.20 from Quayside":      {"hydrogen-peroxide-3", 1000, "4.2"},
		"2 lb soap flakes for 12.00, batch A-1, bb Jun 2028": {"soap-flakes", 907.18474, "12"},
	} {
		d, err := parse(line)
		if assert.NoError(t, err, line) {
			assert.Equal(t, want.id, d.Material.ID, line)
			assert.InDelta(t, want.grams, d.MassG, 0.01, line)
			assert.Equal(t, want.price, d.Price.String(), line)
		}
	}
}

func TestABadDeliverySaysWhichPart(t *testing.T) {
	for line, want := range map[string]string{
		"":                                   "expected an amount and a material first",
		"five kilos of hope 3.00":            "no material is called",
		"5 kgs of boraks 3.00":               "did you mean Borax",
		"5 kg borax best someday":            "cannot be read: expected 2027-06",
		"5 kg borax best 2199-01":            "check the year",
		"90000 kg borax":                     "check the unit",
		"0 x 5 kg borax":                     "number of packs",
		"1 bar borax 2.00":                   "weigh one",
		"5 kg borax from ":                   "",
		"5 kg borax 3.00 lot , best 2027-01": "expected something after “lot”",
	} {
		_, err := parse(line)
		if want == "" {
			continue
		}
		assert.ErrorContains(t, err, want, line)
	}
}

func FuzzParse(f *testing.F) {
	for _, line := range []string{"5 kg washing soda 11.40 from Quayside, lot 22B, best 2027-06", "2 x 1 kg citric acid 9,80 from Marrow Stores",
		"25 kg table salt 14 best 31.12.2030", "3 lemons 1.50", "half a box of borax of 500 g for 2,50", "1 kg hydrogen peroxide 3 % 4.20 bb Jun 2028"} {
		f.Add(line)
	}
	f.Fuzz(func(t *testing.T, line string) {
		d, err := parse(line)
		if err != nil {
			return
		}
		assert.True(t, d.MassG > 0 && d.MassG <= 1e7, "%q: %g g", line, d.MassG)
		assert.False(t, d.Price.IsNegative(), line)
		assert.NotNil(t, d.Material, line)
		if !d.BestBefore.IsZero() {
			assert.WithinRange(t, d.BestBefore, today.AddDate(-21, 0, 0), today.AddDate(31, 0, 0), line)
		}
	})
}
