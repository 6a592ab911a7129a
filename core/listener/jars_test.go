package listener_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/listener"
	"keencrock/core/material"
)

var jarOptions = listener.JarOptions{
	Goods:   []string{"Towpath", "Heron", "Heron Loose", "Sluice", "Lockgate", "Coracle", "Willow"},
	Parties: []string{"Saturday stall", "guest house", "café on the Lower Pound", "café on the Long Reach"},
	Today:   time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC), Currency: "EUR", // a Monday
}

// inShort is what was heard, a line an act.
func inShort(j *listener.Jars) string {
	var out []string
	for _, m := range j.Moved {
		s := string(m.Kind)
		if m.To != "" {
			s += " to " + m.To
			if !m.Known {
				s += " (new)"
			}
		}
		if !m.On.IsZero() {
			s += " on " + m.On.Format("01-02")
		}
		for _, l := range m.Lines {
			good := "?"
			if l.Good >= 0 {
				good = jarOptions.Goods[l.Good]
			}
			amount := fmt.Sprint(l.Count)
			if l.Count == 0 {
				amount = fmt.Sprintf("%g g", l.Grams())
			}
			if ml := l.Millilitres(); ml > 0 {
				amount = fmt.Sprintf("%g ml", ml)
			}
			s += "; " + amount + " " + good
			if l.Empty {
				s += " empty"
			}
			if l.HasPrice {
				s += " at " + l.Price.String() + " " + l.Currency
			}
		}
		out = append(out, s)
	}
	for _, o := range j.Orders {
		s := "order"
		if o.To != "" {
			s += " of " + o.To
			if !o.Known {
				s += " (new)"
			}
		}
		if !o.Day.IsZero() {
			s += " for " + o.Day.Format("01-02")
		}
		if o.EveryWeeks > 0 {
			s += fmt.Sprintf(" every %d", o.EveryWeeks)
		}
		if !o.Until.IsZero() {
			s += " until " + o.Until.Format("01-02")
		}
		for _, l := range o.Lines {
			good := "?"
			if l.Good >= 0 {
				good = jarOptions.Goods[l.Good]
			}
			s += fmt.Sprintf("; %d %s", l.Count, good)
		}
		out = append(out, s)
	}
	for _, u := range j.Unsure {
		out = append(out, "? "+u.Code)
	}
	return strings.Join(out, "\n")
}

// How makers note what went: common practice, worded for this test.
func TestWhatIsSaidOfJars(t *testing.T) {
	for said, want := range map[string]string{
		"six Towpath at the stall, 4 each, two back":                     "sold to Saturday stall; 6 Towpath at 4 EUR\nreturned to Saturday stall; 2 Towpath",
		"the neighbour had one Lockgate, a gift":                         "given to neighbour (new); 1 Lockgate",
		"sold 3 Heron and 2 Sluice to the café on the Long Reach for 20": "sold to café on the Long Reach; 3 Heron at 4 EUR; 2 Sluice at 4 EUR",
		"gave two Coracle to the guest house":                            "given to guest house; 2 Coracle",
		"guest house took 4 Towpath at 6.50":                             "sold to guest house; 4 Towpath at 6.5 EUR",
		"two dozen Lockgate to the guest house yesterday":                "gone to guest house on 05-31; 24 Lockgate",
		"the guest house wants 40 more Towpath by Friday week":           "order of guest house for 06-12; 40 Towpath",
		"stall on Saturday: 5 Willow at 3.50 each, 1 Coracle 4.00":       "sold to Saturday stall on 05-30; 5 Willow at 3.5 EUR; 1 Coracle at 4 EUR",
		"3 Heron Loose came back from the guest house":                   "returned to guest house; 3 Heron Loose",
		"got back two Towpath from the stall":                            "returned to Saturday stall; 2 Towpath",
		"Sold four jars of Heron at €5. Gave one Sluice to Maud Reed.":   "sold; 4 Heron at 5 EUR\ngiven to Maud Reed (new); 1 Sluice",
		"6 Towpath, 4 Heron and 2 Willow out to the Saturday stall":      "gone to Saturday stall; 6 Towpath; 4 Heron; 2 Willow",
		"one Towpath":                                              "gone; 1 Towpath",
		"3 empty Towpath from guest house":                         "returned to guest house; 3 Towpath empty",
		"café: two Heron, 5 each":                                  "sold; 2 Heron at 5 EUR\n? which-party",
		"sold 3 Heron for 10":                                      "sold; 3 Heron\n? uneven",
		"sold a Towpath to the guest house":                        "sold to guest house; 1 Towpath",
		"Towpath x 3 to the guest house, 6 euros each":             "sold to guest house; 3 Towpath at 6 EUR",
		"12 euros for two Coracle, guest house":                    "sold to guest house; 2 Coracle at 6 EUR",
		"free samples: two Willow for the café on the Lower Pound": "given to café on the Lower Pound; 2 Willow",
		"Sent ten Lockgate to the guest house, and sold three Towpath there for 19.50": "gone to guest house; 10 Lockgate\nsold to guest house; 3 Towpath at 6.5 EUR",
	} {
		hears(t, said, want)
	}
}

// hears checks what is heard of jars, and that each word of it is read, once and in order.
func hears(t *testing.T, said, want string) {
	t.Helper()
	j, err := listener.ReadJars(said, material.Shipped(), jarOptions)
	require.NoError(t, err)
	assert.Equal(t, want, inShort(j), said)
	at := 0
	for _, w := range j.Words {
		assert.LessOrEqual(t, at, w.From, said)
		assert.NotEqual(t, listener.Unread, w.Became, "%q of %q", j.Text[w.From:w.To], said)
		at = w.To
	}
	assert.LessOrEqual(t, at, len(said))
}

// What goes by weight, out of a big jar into somebody's own: common practice, worded for this
// test.
func TestWhatIsSaidOfWeights(t *testing.T) {
	for said, want := range map[string]string{
		"500 g of Towpath to the guest house for 3.20":                             "sold to guest house; 500 g Towpath at 3.2 EUR",
		"sold a kilo of Heron at 6.40 a kilo":                                      "sold; 1000 g Heron at 6.4 EUR",
		"the neighbour had 250 grams of Sluice, a gift":                            "given to neighbour (new); 250 g Sluice",
		"half a litre of Willow, 2.80":                                             "sold; 500 ml Willow at 2.8 EUR",
		"Sold 1.5 kg Towpath to the stall at 8 euros per kg, and three Heron at 4": "sold to Saturday stall; 1500 g Towpath at 12 EUR; 3 Heron at 4 EUR",
		"Towpath, 750 g, to the guest house":                                       "gone to guest house; 750 g Towpath",
		"300 g Coracle came back from the guest house":                             "returned to guest house; 300 g Coracle",
		"sold 2 kg of Heron to the guest house, 500 g back":                        "sold to guest house; 2000 g Heron\nreturned to guest house; 500 g Heron",
		"six 500 g Towpath at the stall, 4 each":                                   "sold to Saturday stall; 6 Towpath at 4 EUR",
		"sold two 1 kg bags of Heron Loose for 16":                                 "sold; 2 Heron Loose at 8 EUR",
		"500 g jar of Towpath to the neighbour":                                    "gone to neighbour (new); 1 Towpath",
		"refilled 400 g of Heron for the guest house, 2.60":                        "sold to guest house; 400 g Heron at 2.6 EUR",
		"sold 500 g of Towpath and two Heron for 12":                               "sold; 500 g Towpath; 2 Heron\n? uneven",
		"a pound of Towpath to the neighbour":                                      "gone to neighbour (new); 453.59237 g Towpath",
		"sold 500 ml of Willow at 4 a kilo":                                        "sold; 500 ml Willow\n? price-of",
		"250 g Willow and 250 g Heron to the stall, 2 each":                        "sold to Saturday stall; 250 g Willow at 2 EUR; 250 g Heron at 2 EUR",
		"gave the café on the Long Reach 100 g of Sluice to try":                   "given to café on the Long Reach; 100 g Sluice",
	} {
		hears(t, said, want)
	}
}

// How orders are said; today is Monday 1 June 2026. Common practice, worded for this test.
func TestWhatIsSaidToBeWanted(t *testing.T) {
	for said, want := range map[string]string{
		"the guest house wants 40 more by Friday week":                                                         "order of guest house for 06-12; 40 ?",
		"by Friday week the guest house wants 40 Towpath":                                                      "order of guest house for 06-12; 40 Towpath",
		"guest house: 40 Towpath and 12 Heron by 20 June":                                                      "order of guest house for 06-20; 40 Towpath; 12 Heron",
		"12 Heron for the Saturday stall every Saturday":                                                       "order of Saturday stall for 06-06 every 1; 12 Heron",
		"the café on the Long Reach needs 6 Sluice every other Friday until Christmas":                         "order of café on the Long Reach for 06-05 every 2 until 12-24; 6 Sluice",
		"six Lockgate a week for the guest house":                                                              "order of guest house for 06-08 every 1; 6 Lockgate",
		"the neighbour ordered two Willow for tomorrow":                                                        "order of neighbour (new) for 06-02; 2 Willow",
		"Maud Reed would like 3 Coracle in two weeks":                                                          "order of Maud Reed (new) for 06-15; 3 Coracle",
		"order: 24 Heron Loose for the guest house for 12 June":                                                "order of guest house for 06-12; 24 Heron Loose",
		"next Friday the stall needs a dozen Towpath":                                                          "order of Saturday stall for 06-12; 12 Towpath",
		"the guest house wants ten Lockgate":                                                                   "order of guest house; 10 Lockgate\n? no-day",
		"ordered: six Towpath before Friday":                                                                   "order for 06-04; 6 Towpath",
		"30 Heron by the end of the month for the café on the Lower Pound":                                     "order of café on the Lower Pound for 06-30; 30 Heron",
		"20 Willow a fortnight on Saturday, guest house":                                                       "order of guest house for 06-20; 20 Willow",
		"the guest house wants 4 Coracle every month":                                                          "order of guest house for 06-29 every 4; 4 Coracle\n? monthly",
		"sold 6 Towpath to the guest house at 4 each. They want 12 more by the 20th":                           "sold to guest house; 6 Towpath at 4 EUR\norder for 06-20; 12 ?",
		"8 Sluice a week from Saturday for the stall; the guest house wants 5 Heron on Thursday":               "order of Saturday stall for 06-13; 8 Sluice\norder of guest house for 06-04; 5 Heron",
		"5 Heron for the guest house on Saturday, 3 back":                                                      "gone to guest house on 05-30; 5 Heron\nreturned to guest house on 05-30; 3 Heron",
		"the guest house wants 40 Towpath for Easter":                                                          "order of guest house for 03-27; 40 Towpath",
		"two Coracle by next week, two more by the week after next for the guest house":                        "order for 06-12; 2 Coracle\norder of guest house for 06-19; 2 Coracle",
		"café on the Long Reach, weekly, 5 Willow, starting Wednesday, until the end of August, and 2 Towpath": "order of café on the Long Reach for 06-03 every 1 until 08-31; 5 Willow; 2 Towpath",
	} {
		j, err := listener.ReadJars(said, material.Shipped(), jarOptions)
		require.NoError(t, err)
		assert.Equal(t, want, inShort(j), said)
	}
	o := jarOptions
	o.Wanted = true // in a field for orders
	for said, want := range map[string]string{
		"40 Towpath, guest house, Friday week":        "order of guest house for 06-12; 40 Towpath",
		"6 Heron to the stall on Saturday":            "order of Saturday stall for 06-06; 6 Heron",
		"12 Sluice 2026-07-01":                        "order for 07-01; 12 Sluice",
		"12 Sluice for 3 July; 4 Willow for 10 July.": "order for 07-03; 12 Sluice\norder for 07-10; 4 Willow",
		"12 Sluice": "order; 12 Sluice\n? no-day",
	} {
		j, err := listener.ReadJars(said, material.Shipped(), o)
		require.NoError(t, err)
		assert.Equal(t, want, inShort(j), said)
	}
}

func FuzzReadJars(f *testing.F) {
	f.Add("six Towpath at the stall, 4 each, two back")
	f.Add("12 12 12 each back empty to the")
	f.Fuzz(func(t *testing.T, said string) {
		j, err := listener.ReadJars(said, material.Shipped(), jarOptions)
		if err != nil {
			return
		}
		for _, m := range j.Moved {
			for _, l := range m.Lines {
				if l.Count < 1 && l.Grams()+l.Millilitres() <= 0 || l.HasPrice && l.Price.IsNegative() {
					t.Fatalf("%q: %+v", said, l)
				}
			}
		}
	})
}
