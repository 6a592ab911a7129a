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
			s += fmt.Sprintf("; %d %s", l.Count, good)
			if l.Empty {
				s += " empty"
			}
			if l.HasPrice {
				s += " at " + l.Price.String() + " " + l.Currency
			}
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
		"the guest house wants 40 more Towpath by Friday week":           "? order",
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
		j, err := listener.ReadJars(said, material.Shipped(), jarOptions)
		require.NoError(t, err)
		assert.Equal(t, want, inShort(j), said)
		at := 0
		for _, w := range j.Words {
			assert.LessOrEqual(t, at, w.From, said)
			at = w.To
		}
		assert.LessOrEqual(t, at, len(said))
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
				if l.Count < 1 || l.HasPrice && l.Price.IsNegative() {
					t.Fatalf("%q: %+v", said, l)
				}
			}
		}
	})
}
