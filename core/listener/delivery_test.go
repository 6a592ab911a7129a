package listener_test

import (
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

var today = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)

func delivered(t testing.TB, note string) *listener.Delivery {
	t.Helper()
	d, err := listener.ReadDelivery(note, material.Shipped(), listener.DeliveryOptions{Measures: quantity.US, Today: today, Currency: "EUR"})
	require.NoError(t, err)
	return d
}

func FuzzReadDelivery(f *testing.F) {
	for _, note := range []string{"5 kg washing soda 11.40 from Quayside, lot 22B, best 2027-06", "2 x 1 kg citric acid 9,80 from Marrow Stores",
		"25 kg table salt 14 best 31.12.2030", "3 lemons 1.50", "half a box of borax of 500 g for 2,50", "1 kg hydrogen peroxide 3 % 4.20 bb Jun 2028",
		"24 jars 1 l, 21.60", "two dozen 250 ml jars", "0 x 5 kg borax", "lot , best 0000-00", "€,€ 1/1/1"} {
		f.Add(note)
	}
	notes, err := os.ReadFile("testdata/deliveries.txt")
	require.NoError(f, err)
	for _, e := range strings.Split(string(notes), "\n== \n")[1:] {
		said, _, _ := strings.Cut("\n"+e, "\n> ")
		f.Add(said)
	}
	f.Fuzz(func(t *testing.T, note string) {
		if len(note) > 400 {
			return
		}
		d := delivered(t, note)
		for _, l := range d.Lots {
			if l.MassG < 0 || l.MassG > 1e7 || l.Price.IsNegative() || l.Packs < 0 {
				t.Errorf("%q: %+v", note, l)
			}
			if !l.BestBefore.IsZero() && (l.BestBefore.Before(today.AddDate(-21, 0, 0)) || l.BestBefore.After(today.AddDate(31, 0, 0))) {
				t.Errorf("%q: best before %v", note, l.BestBefore)
			}
		}
		end := 0
		for _, w := range d.Words {
			if w.From < end || w.To <= w.From || w.To > len(d.Text) {
				t.Fatalf("%q: word %+v after %d", note, w, end)
			}
			end = w.To
		}
	})
}
