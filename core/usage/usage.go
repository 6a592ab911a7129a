// Package usage holds use cards: how a good is put to a task, how strong, for how long,
// and on what never. Shipped cards are of a nature, such as acid or soap, and go with
// every good that has it; a workshop writes cards for its own goods.
package usage

import (
	"cmp"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"

	"keencrock/core/formula"
	"keencrock/core/material"
)

// Nature is what works in a good.
type Nature string

// The natures cards are of.
const (
	Soda         Nature = "soda"
	Bicarbonate  Nature = "bicarbonate"
	Borax        Nature = "borax"
	Acid         Nature = "acid"
	Soap         Nature = "soap"
	SoapNut      Nature = "soap-nut"
	Ferment      Nature = "ferment"
	Percarbonate Nature = "percarbonate"
)

// Natures lists them.
var Natures = []Nature{Soda, Bicarbonate, Borax, Acid, Soap, SoapNut, Ferment, Percarbonate}

// Card says how a good is put to one task. Shipped ones are common practice.
type Card struct {
	ID       string
	Nature   Nature // of shipped ones; empty for a workshop's own
	Good     string // the formula a workshop's own is for; empty for shipped ones
	Task     string
	Surfaces []string // it is for
	Strength string   // as written, such as "2 tbsp to 5 litres"
	How      string
	// LeaveMinutes is how long it stays on; 0 for no time worth telling.
	LeaveMinutes int
	Tool, Water  string
	Rinse        bool
	Order        string // what goes before or after, and what never together
	EveryDays    int    // how often; 0 for when it is needed
	NotOn        []string
	Shake        bool
	Seen         string // what shows that it works
}

//go:embed cards.json
var cardsFile []byte

// Shipped are the cards that ship. It panics when one is not whole, which a test rules
// out. The slice is shared and must not be changed.
var Shipped = sync.OnceValue(func() []Card {
	var cards []Card
	if err := json.Unmarshal(cardsFile, &cards); err != nil {
		panic(fmt.Sprintf("usage: %v", err))
	}
	seen := map[string]bool{}
	for i := range cards {
		if err := cards[i].Check(); err != nil || seen[cards[i].ID] || !slices.Contains(Natures, cards[i].Nature) {
			panic(fmt.Sprintf("usage: card %q: double, of no nature, or %v", cards[i].ID, err))
		}
		seen[cards[i].ID] = true
	}
	return cards
})

// MostMinutes is longer than anything is left on: two days.
const MostMinutes = 2 * 24 * 60

// Check refuses a card that says too little or cannot be.
func (c *Card) Check() error {
	switch {
	case strings.TrimSpace(c.Task) == "":
		return errors.New("a card says what it is for")
	case strings.TrimSpace(c.How) == "":
		return errors.New("a card says how it is done")
	case c.LeaveMinutes < 0 || c.LeaveMinutes > MostMinutes:
		return fmt.Errorf("it is left on for up to two days, not %d minutes", c.LeaveMinutes)
	case c.EveryDays < 0 || c.EveryDays > 3650:
		return fmt.Errorf("every %d days is no rhythm", c.EveryDays)
	}
	return nil
}

// LeaveWords is how long it stays on, in words.
func (c *Card) LeaveWords() string {
	switch m := c.LeaveMinutes; {
	case m <= 0:
		return ""
	case m >= 480:
		return "overnight"
	case m%60 == 0 && m > 60:
		return fmt.Sprintf("%d hours", m/60)
	case m == 60:
		return "1 hour"
	case m == 1:
		return "1 minute"
	default:
		return fmt.Sprintf("%d minutes", m)
	}
}

// Words are what a label says of a card, in a line.
func (c *Card) Words() string {
	parts := []string{c.Task}
	if c.Strength != "" {
		parts = append(parts, c.Strength)
	}
	said := strings.Join(parts, ", ") + ". " + c.How
	if leave := c.LeaveWords(); leave != "" {
		said = strings.TrimRight(said, ".") + ". Leave " + leave + "."
	}
	if c.Rinse {
		said += " Rinse."
	}
	if c.Shake {
		said = "Shake first. " + said
	}
	return said
}

// Part is a bought material in a good, and its share by mass.
type Part struct {
	Material *material.Material
	Share    float64
}

// Shares from which something works in a good. From memory: less of it does other work.
var workFrom = map[Nature]float64{Soda: 0.1, Bicarbonate: 0.3, Borax: 0.15, Acid: 0.01, Soap: 0.05, SoapNut: 0.02, Ferment: 0.3, Percarbonate: 0.1}

// NaturesOf are the natures of a good by what is in it. Soda and acid in one good spend
// each other: what is left over is not known here, and neither is told.
//
// What was steeped or fermented and strained out is known by the kind of good alone.
func NaturesOf(kind formula.Kind, parts []Part) (out []Nature) {
	shares := map[Nature]float64{}
	info := kind.Info()
	if info.Is(formula.OfSoapNuts) {
		shares[SoapNut] = 1
	}
	if info.Is(formula.Ferments) {
		shares[Ferment] = 1
	}
	for _, p := range parts {
		m := p.Material
		switch {
		case m.Is(material.Peroxide) && m.Is(material.Dry):
			shares[Percarbonate] += p.Share
		case m.Is(material.Fermented):
			shares[Ferment] += p.Share
		case m.Is(material.Bicarbonate):
			shares[Bicarbonate] += p.Share
		case m.Is(material.Borate):
			shares[Borax] += p.Share
		case m.Is(material.Carbonate) && m.Is(material.StrongAlkali):
			shares[Soda] += p.Share
		case m.Is(material.Vinegar):
			shares[Acid] += p.Share * m.ShareOf("acetic-acid")
		case m.Is(material.Acid) && m.Is(material.Dry):
			shares[Acid] += p.Share
		case m.Nature() == "soap-nut" || m.Nature() == "soap-nut-liquid" || m.Nature() == "soap-nut-powder":
			shares[SoapNut] += p.Share
		case m.Is(material.Soap):
			shares[Soap] += p.Share * (m.ShareOf("soap") + m.ShareOf("potassium-soap"))
		}
	}
	for _, n := range Natures {
		if shares[n] >= workFrom[n] {
			out = append(out, n)
		}
	}
	if slices.Contains(out, Acid) && (slices.Contains(out, Soda) || slices.Contains(out, Bicarbonate)) {
		out = slices.DeleteFunc(out, func(n Nature) bool { return n == Acid || n == Soda || n == Bicarbonate })
	}
	return out
}

// Match is a card for what was asked, and how well it answers.
type Match struct {
	*Card
	Score float64
	// Warned names what was asked about and stands under "not on".
	Warned []string
}

// sameAs are words that people use for one thing; common practice.
var sameAs = map[string]string{
	"saucepan": "pan", "pot": "pan", "skillet": "pan", "scorched": "burnt", "burned": "burnt", "charred": "burnt", "limescale": "lime", "scale": "lime", "calc": "lime", "descale": "lime",
	"loo": "toilet", "wc": "toilet", "lavatory": "toilet", "clothes": "laundry", "washing": "laundry", "aluminum": "aluminium", "stainless": "steel", "faucet": "tap", "taps": "tap", "mirrors": "mirror",
	"glasses": "glass", "window": "window", "windows": "window", "mugs": "mug", "cups": "mug", "cup": "mug", "plughole": "drain", "pipe": "drain", "clogged": "drain", "smelly": "smells", "smell": "smells", "stink": "smells", "odour": "smells",
	"worktop": "worktops", "counter": "worktops", "countertop": "worktops", "floor": "floors", "carpets": "carpet", "rug": "carpet", "wine": "wine", "greasy": "grease", "fat": "grease", "woollen": "wool", "woollens": "wool", "sweater": "wool", "jumper": "wool",
}

// words are what a text is about, each in one form.
func words(text string) (out []string) {
	for _, w := range strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r > 127)
	}) {
		if same, ok := sameAs[w]; ok {
			w = same
		}
		if len(w) > 2 && !slices.Contains(stopWords, w) {
			out = append(out, w)
		}
	}
	return out
}

var stopWords = []string{"the", "and", "for", "with", "from", "how", "what", "which", "mine", "not", "clean", "cleaning", "off", "that", "this", "out", "are", "has", "have", "into"}

// Find matches what is asked, such as "burnt pan, aluminium", against cards: the best
// first. Of one that is asked about a surface it is not for, that is told, and it stands
// behind.
func Find(cards []Card, asked string) (out []Match) {
	want := words(asked)
	for i := range cards {
		c := &cards[i]
		m := Match{Card: c}
		task, on := words(c.Task), words(strings.Join(c.Surfaces, " "))
		not := words(strings.Join(c.NotOn, " "))
		for _, w := range want {
			switch {
			case slices.ContainsFunc(task, alike(w)):
				m.Score += 3
			case slices.ContainsFunc(on, alike(w)):
				m.Score += 2
			case slices.ContainsFunc(words(c.How), alike(w)):
				m.Score += 0.5
			}
			if slices.ContainsFunc(not, alike(w)) {
				m.Warned = append(m.Warned, w)
			}
		}
		if len(want) == 0 || m.Score > 0 {
			out = append(out, m)
		}
	}
	slices.SortStableFunc(out, func(a, b Match) int {
		return cmp.Or(cmp.Compare(len(a.Warned), len(b.Warned)), cmp.Compare(b.Score, a.Score))
	})
	return out
}

// alike takes a word for another with the same beginning, as plurals have.
func alike(w string) func(string) bool {
	return func(other string) bool {
		return other == w || len(w) > 3 && len(other) > 3 && (strings.HasPrefix(other, w) || strings.HasPrefix(w, other))
	}
}
