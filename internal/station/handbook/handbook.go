// Package handbook is the handbook: what the program knows, to be read. Nothing stands in it
// that is not asked of the core, so that no number can differ from the one that is used.
package handbook

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/dosing"
	"keencrock/core/keeping"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/safety"
	"keencrock/core/starter"
	"keencrock/core/why"
	"keencrock/internal/problem"
	"keencrock/internal/tenant"
)

// Service is what can be read in the handbook.
type Service struct{ *tenant.House }

// New returns the handbook of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// page is a page and how it is written.
type page struct {
	id, title, about string
	write            func(*tenant.Settings) []api.HandbookTable
}

// pages are all of them, in their order.
var pages = []page{
	{"measures", "Measures", "What a cup, a spoon or a drop holds in each family of measures. They differ: say which you use, or weigh.", measures},
	{"weights", "What a cup weighs", "The usual materials, loose to tapped. A cup of one is not a cup of another: that is why this house weighs.", weights},
	{"cautions", "What must not meet, and why", "Each with what it says and where that is from. Local codes and licensed practice go before.", cautions},
	{"keeping", "What keeps how long", "The sorts of good and their lives. A strip of indicator paper, a nose and a date on the label go before any table.", lives},
	{"materials", "What is known of each material", "Density, strength, when it drinks water, how long it keeps: with the source of each number.", materials},
	{"water", "Machines and their water", "How much water a good meets where it is used.", machines},
	{"why", "What goes wrong, and why", "What may be seen, and the usual causes, the most usual first.", wrongs},
	{"schools", "Schools side by side", "The starters of each kind in your water, by their numbers. Each can be tried.", schools},
	{"words", "Words of the house", "What the words on the screens mean.", words},
}

// Pages lists them without what is in them; with words to be found, the rows in which all of
// these stand.
func (s *Service) Pages(ctx context.Context, find string) ([]api.HandbookPage, error) {
	set, err := s.settings(ctx)
	if err != nil {
		return nil, err
	}
	wanted := strings.Fields(strings.ToLower(find))
	out := []api.HandbookPage{}
	for _, p := range pages {
		one := api.HandbookPage{Page: p.id, Title: p.title, About: p.about, Tables: []api.HandbookTable{}}
		if len(wanted) == 0 {
			out = append(out, one)
			continue
		}
		if p.id == "schools" { // worked out anew each time: not to be looked through for a word
			continue
		}
		for _, t := range p.write(set) {
			if t.Rows = found(t.Rows, wanted, t.Title); len(t.Rows) > 0 {
				one.Tables = append(one.Tables, t)
			}
		}
		if len(one.Tables) > 0 {
			out = append(out, one)
		}
	}
	return out, nil
}

// mostFound is how many rows of a table are shown.
const mostFound = 20

func found(rows []api.HandbookRow, wanted []string, title string) []api.HandbookRow {
	var out []api.HandbookRow
	for _, r := range rows {
		text := strings.ToLower(title + " " + strings.Join(r.Cells, " ") + " " + r.Source)
		if !slices.ContainsFunc(wanted, func(w string) bool { return !strings.Contains(text, w) }) && len(out) < mostFound {
			out = append(out, r)
		}
	}
	return out
}

// Page is one of them.
func (s *Service) Page(ctx context.Context, id string) (*api.HandbookPage, error) {
	set, err := s.settings(ctx)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(pages, func(p page) bool { return p.id == id })
	if i < 0 {
		return nil, problem.Missing("not-found", "There is no such page in the handbook.")
	}
	p := pages[i]
	return &api.HandbookPage{Page: p.id, Title: p.title, About: p.about, Tables: p.write(set)}, nil
}

func (s *Service) settings(ctx context.Context) (*tenant.Settings, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	return s.Settings(s.Store.Read(ctx))
}

func row(source string, cells ...string) api.HandbookRow {
	return api.HandbookRow{Cells: cells, Source: source}
}

// families are the families of measures, by their names.
var families = []struct {
	of   quantity.Measures
	name string
}{{quantity.US, "US"}, {quantity.Metric, "metric"}, {quantity.Imperial, "imperial"}, {quantity.Australian, "Australian"}}

// spoken are the measures that a card shows, as they are written.
var spoken = []string{"1 cup", "1/2 cup", "1/3 cup", "1/4 cup", "1 tbsp", "1 tsp", "1/2 tsp", "1 fl oz", "1 pint", "1 quart", "1 gallon", "1 drop"}

func measures(*tenant.Settings) []api.HandbookTable {
	t := api.HandbookTable{Title: "In millilitres", Columns: []string{"measure"}}
	for _, f := range families {
		t.Columns = append(t.Columns, f.name)
	}
	for _, text := range spoken {
		cells := []string{text}
		for _, f := range families {
			ml, ok := quantity.MustParse(text).Millilitres(quantity.Handling{Measures: f.of, Liquid: true})
			if !ok {
				cells = append(cells, "")
				continue
			}
			cells = append(cells, spread(ml, 2))
		}
		t.Rows = append(t.Rows, row("the definitions of each family; a drop is from memory", cells...))
	}
	vague := api.HandbookTable{Title: "Vague measures, unless you measured your own", Columns: []string{"measure", "holds, in ml or g"}}
	for _, u := range quantity.Measurable() {
		if size := u.Usual(); size.Value > 0 {
			vague.Rows = append(vague.Rows, row("common practice, from memory", u.String(), spread(size, 1)))
		}
	}
	return []api.HandbookTable{t, vague}
}

// spread is a range as it is read.
func spread(r quantity.Range, places int) string {
	short := func(x float64) string {
		s := fmt.Sprintf("%.*f", places, x)
		if strings.Contains(s, ".") {
			s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
		}
		return s
	}
	if r.Low == r.High || short(r.Low) == short(r.High) {
		return short(r.Value)
	}
	return short(r.Value) + " (" + short(r.Low) + " to " + short(r.High) + ")"
}

func weights(set *tenant.Settings) []api.HandbookTable {
	of := set.Measures
	t := api.HandbookTable{Title: "In grams, by " + of.String() + " measures", Columns: []string{"material", "1 cup", "1 tbsp", "1 tsp"}}
	for _, m := range set.Materials.All() {
		if !m.Density.Known() || m.Own {
			continue
		}
		cells := []string{m.Name}
		for _, text := range []string{"1 cup", "1 tbsp", "1 tsp"} {
			g, err := quantity.MustParse(text).Grams(m.Handling(of))
			if err != nil {
				cells = append(cells, "")
				continue
			}
			places := 0
			if g.Value < 30 {
				places = 1
			}
			cells = append(cells, spread(g, places))
		}
		t.Rows = append(t.Rows, row(set.Materials.Source(m.Density.Source), cells...))
	}
	return []api.HandbookTable{t}
}

func cautions(*tenant.Settings) []api.HandbookTable {
	var tables []api.HandbookTable
	for _, r := range safety.Rules() {
		t := api.HandbookTable{Title: sentenceCase(strings.ReplaceAll(r.Code, "-", " ")), Columns: []string{"where", "how grave", "what is said", "what to do"}}
		for _, s := range r.Says() {
			t.Rows = append(t.Rows, row(r.Witness.Source, strings.ReplaceAll(string(s.Context), "-", " "), s.Severity.String(), s.Text, s.Advice))
		}
		tables = append(tables, t)
	}
	return tables
}

func sentenceCase(s string) string { return strings.ToUpper(s[:1]) + s[1:] }

func lives(*tenant.Settings) []api.HandbookTable {
	t := api.HandbookTable{Title: "Sorts of good", Columns: []string{"sort", "keeps", "ready after", "why"}}
	for _, c := range keeping.Classes() {
		ready := ""
		if c.ReadyDays > 0 {
			ready = days(c.ReadyDays)
		}
		t.Rows = append(t.Rows, row("common practice, from memory", sentenceCase(c.Name), days(c.Days), ready, sentenceCase(c.Why)))
	}
	lines := api.HandbookTable{Title: "Lines that a wet good is held against", Columns: []string{"line", "value"}, Rows: []api.HandbookRow{
		row("common practice, from memory; 21 CFR 114 draws it at 4.6", "sour enough: pH under", fmt.Sprintf("%g", keeping.SourPH)),
		row("21 CFR 114", "the line of the rules for sour foods, pH", fmt.Sprintf("%g", keeping.AcidifiedPH)),
		row("21 CFR 110 and 117", "dry enough: water activity under", fmt.Sprintf("%g", keeping.SafeActivity)),
		row("ISO 29621, from memory", "alkaline enough: pH from", fmt.Sprintf("%g", keeping.AlkalinePH)),
	}}
	return []api.HandbookTable{t, lines}
}

func days(n int) string {
	switch {
	case n >= 360:
		return fmt.Sprintf("%d months", (n+15)/30)
	case n >= 60:
		return fmt.Sprintf("about %d months", (n+15)/30)
	case n == 1:
		return "a day"
	}
	return fmt.Sprintf("%d days", n)
}

func materials(set *tenant.Settings) []api.HandbookTable {
	t := api.HandbookTable{Title: "Materials", Columns: []string{"material", "it is", "g/ml", "drinks water from", "keeps, opened"}}
	for _, m := range set.Materials.All() {
		if m.Own {
			continue
		}
		density, drinks, keeps := "", "", ""
		var sources []string
		say := func(f material.Figure, text string) string {
			if s := set.Materials.Source(f.Source); s != "" && !slices.Contains(sources, s) {
				sources = append(sources, s)
			}
			return text
		}
		if m.Density.Known() {
			density = say(m.Density, spread(m.Density.Range, 2))
		}
		if m.DrinksAt.Known() {
			drinks = say(m.DrinksAt, spread(m.DrinksAt.Range, 0)+" % humidity")
		} else if m.DrinksNone {
			drinks = "no"
		}
		if m.Keeps.OpenDays > 0 {
			keeps = say(material.Figure{Source: m.Keeps.Source}, days(m.Keeps.OpenDays))
		}
		t.Rows = append(t.Rows, row(cmp.Or(strings.Join(sources, "; "), "no number is known"), m.Name, strings.Join(m.Functions, ", "), density, drinks, keeps))
	}
	return []api.HandbookTable{t}
}

func machines(*tenant.Settings) []api.HandbookTable {
	t := api.HandbookTable{Title: "Machines", Columns: []string{"machine", "for", "litres of water"}}
	for _, m := range dosing.Machines() {
		t.Rows = append(t.Rows, row(m.Source, m.Name, m.UsedOn, fmt.Sprintf("%g", m.WaterL)))
	}
	return []api.HandbookTable{t}
}

func wrongs(*tenant.Settings) []api.HandbookTable {
	table := why.Shipped()
	var tables []api.HandbookTable
	for _, s := range table.Seen {
		t := api.HandbookTable{Title: sentenceCase(s.Name), Columns: []string{"cause", "what to do"}}
		causes := slices.Clone(table.Causes)
		causes = slices.DeleteFunc(causes, func(c why.Cause) bool { return c.Seen[s.ID] == 0 })
		slices.SortStableFunc(causes, func(a, b why.Cause) int {
			switch {
			case a.Seen[s.ID] > b.Seen[s.ID]:
				return -1
			case a.Seen[s.ID] < b.Seen[s.ID]:
				return 1
			}
			return 0
		})
		for _, c := range causes {
			r := row("common practice, from memory", sentenceCase(c.Name), c.Remedy)
			r.To = "/trials/why?seen=" + s.ID
			t.Rows = append(t.Rows, r)
		}
		tables = append(tables, t)
	}
	return tables
}

func schools(set *tenant.Settings) []api.HandbookTable {
	var tables []api.HandbookTable
	at := map[string]int{}
	for _, one := range starter.All() {
		kind := one.Kind.Info().Name
		i, seen := at[kind]
		if !seen {
			i = len(tables)
			at[kind] = i
			tables = append(tables, api.HandbookTable{Title: kind, Columns: []string{"starter", "school", "pH in use", "hardness met", "soap lost", "keeps", "cautions"}})
		}
		a := assess.Formula(one.Formula(set.Measures, starter.Weight, set.Materials, set.Tools()), set.Materials, assess.Options{Workshop: set.Tools(), Water: set.Water()})
		ph, met, lost := "", "", ""
		if s := a.Solution; s != nil {
			if s.PHKnown() {
				ph = fmt.Sprintf("%.1f", s.ClosedPH.Value)
			}
			if s.Hardness.Total > 0 {
				met = fmt.Sprintf("%.0f %%", 100*s.Hardness.Met())
			}
			if s.HasSoap {
				lost = fmt.Sprintf("%.0f %%", 100*s.Hardness.SoapLost())
			}
		}
		grave := 0
		for _, c := range a.Cautions {
			if c.Severity > safety.Note {
				grave++
			}
		}
		r := row("worked out in your water", one.Name, one.School, ph, met, lost, days(a.Class.Days), fmt.Sprint(grave))
		r.To = "/crock/start"
		tables[i].Rows = append(tables[i].Rows, r)
	}
	return tables
}
