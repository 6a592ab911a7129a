package tenant

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/assess"
	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/solution"
	"keencrock/core/stock"
	"keencrock/internal/store"
)

// House is what every station stands on: the store, the clock, and the libraries
// worked out so far. It is safe for use by many goroutines.
type House struct {
	Store     *store.Store
	Server    Server
	Pictures  Pictures
	clock     func() time.Time
	libraries libraries
	open      openBatches
}

// Server is what a house knows of the process that serves it.
type Server struct {
	Version     string
	Addresses   []string // under which other machines reach it
	Fingerprint string   // SHA-256 of its own certificate
	Nightly     bool     // it takes backups each night
}

// New returns a house over a store. Time is asked of now.
func New(s *store.Store, now func() time.Time) *House {
	return &House{Store: s, Pictures: inDatabase{}, clock: now}
}

// Now is the time.
func (h *House) Now() time.Time { return h.clock() }

// Ping reports whether the database answers.
func (h *House) Ping(ctx context.Context) error { return h.Store.Ping(ctx) }

// Connections are how many connections to the database are at work, ready, and allowed.
func (h *House) Connections() (busy, idle, most int) { return h.Store.Connections() }

// Change says that something in a workshop is not as it was.
type Change struct {
	Workshop uuid.UUID
	api.Change
}

// Listen calls f for every change made in any workshop by any process, until
// the context ends or the database is lost. It says when it is ready to hear.
func (h *House) Listen(ctx context.Context, ready func(), f func(Change)) error {
	return h.Store.Listen(ctx, ready, func(c store.Change) {
		f(Change{Workshop: c.Workshop, Change: api.Change{Topic: c.Topic, Id: c.ID}})
	})
}

// Settings is what every working-out needs to know of a workshop.
type Settings struct {
	*Library
	Workshop *store.Workshop
	Measures quantity.Measures
	Today    time.Time                 // the day it is there, as dates are kept: midnight UTC
	PH       map[string]quantity.Range // measured of lots, by material
}

// Settings are the settings of the workshop.
func (h *House) Settings(tx *store.Tx) (*Settings, error) {
	kept, err := store.Remember(tx, settingsKey{}, func() (*Settings, error) { return h.readSettings(tx) })
	if err != nil {
		return nil, err
	}
	own, w := *kept, *kept.Workshop
	own.Workshop, own.Today = &w, h.Day(&w)
	return &own, nil
}

type settingsKey struct{}

func (h *House) readSettings(tx *store.Tx) (*Settings, error) {
	w, err := tx.Workshop()
	if err != nil {
		return nil, err
	}
	out := &Settings{Workshop: w}
	if out.Measures, err = quantity.ParseMeasures(w.Measures); err != nil {
		return nil, err
	}
	if out.Library, err = h.libraries.of(tx, w); err != nil {
		return nil, err
	}
	out.PH, err = measuredMaterials(tx)
	return out, err
}

// Day is the day it is in a workshop, as dates are kept.
func (h *House) Day(w *store.Workshop) time.Time { return DayOf(h.Now(), w) }

// At is a moment by the clocks of a workshop.
func At(t time.Time, w *store.Workshop) time.Time {
	if zone, err := time.LoadLocation(w.TimeZone); w.TimeZone != "" && err == nil {
		return t.In(zone)
	}
	return t
}

// ZoneOf is the name of the zone whose clocks say which day it is in a workshop.
func ZoneOf(w *store.Workshop) string { return cmp.Or(w.TimeZone, "UTC") }

// DayOf is the day of a moment in a workshop, as dates are kept: midnight UTC.
func DayOf(t time.Time, w *store.Workshop) time.Time {
	t = At(t, w)
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
}

// NoonOf is noon of a day where the workshop is.
func NoonOf(day time.Time, w *store.Workshop) time.Time {
	here := At(day, w).Location()
	return time.Date(day.Year(), day.Month(), day.Day(), 12, 0, 0, 0, here)
}

// Tools is what the workshop measured of its own measures.
func (s *Settings) Tools() formula.Workshop {
	w := formula.Workshop{Own: s.Sizes, PH: s.PH}
	if s.Workshop.DropsPerML > 0 {
		w.DropML = quantity.Exactly(1 / s.Workshop.DropsPerML)
	}
	if s.Workshop.ScoopML > 0 {
		w.ScoopML = quantity.Exactly(s.Workshop.ScoopML)
	}
	if s.Sizes != nil { // what was measured goes before what was set
		w.DropML = cmp.Or(s.Sizes[quantity.Drop], w.DropML)
		w.ScoopML = cmp.Or(s.Sizes[quantity.Scoop], w.ScoopML)
	}
	return w
}

// Water is what goods are used in here.
func (s *Settings) Water() *assess.Water {
	w := &assess.Water{Waters: solution.Waters{LaundryL: s.Workshop.LaundryWaterL, DishesL: s.Workshop.DishesWaterL}}
	w.Hardness, _ = quantity.ParseHardness(s.Workshop.Hardness) // none said counts as none
	return w
}

// InMeasures gives a file that says no measures the workshop's own.
func (s *Settings) InMeasures(file *api.FormulaFile) *api.FormulaFile {
	if file.Measures != "" {
		return file
	}
	own := *file
	own.Measures = api.Measures(s.Measures.String())
	return &own
}

// NameOf is the name of an item, its id where it is no longer known.
func (s *Settings) NameOf(item string) string {
	if m, err := s.Materials.Find(item); err == nil {
		return m.Name
	}
	return item
}

// NamesOf are the names of items; what is filled goes by what it is.
func (s *Settings) NamesOf(items []string) []string {
	var names []string
	for _, item := range items {
		name := s.NameOf(item)
		if name == item && stock.IsPackaging(item) {
			name = "what it is filled into"
		}
		if item == EarlierItem {
			name = "what it was made of before the books were begun"
		}
		if strings.HasPrefix(item, "vat-") {
			name = "what was fed to the vat"
		}
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return names
}

// MeasuredRange is what a measured pH may be.
func MeasuredRange(m *stock.Measured) quantity.Range {
	measured := formula.MeasuredPH{PH: m.PH, With: formula.Meter(m.With)}
	return measured.Range()
}

// measuredMaterials is what was measured of the lots in stock, by material: of
// several lots, all that they may be.
func measuredMaterials(tx *store.Tx) (map[string]quantity.Range, error) {
	lots, err := tx.MeasuredLots()
	if err != nil || len(lots) == 0 {
		return nil, err
	}
	out := map[string]quantity.Range{}
	for i := range lots {
		one := MeasuredRange(lots[i].PH)
		ph, more := out[lots[i].Item]
		if !more {
			out[lots[i].Item] = one
			continue
		}
		ph = ph.Including(one.Low).Including(one.High)
		ph.Value = (ph.Low + ph.High) / 2
		out[lots[i].Item] = ph
	}
	return out, nil
}

// EndOfDay is the moment at which a day, as dates are kept, is over in a workshop.
func EndOfDay(day time.Time, w *store.Workshop) time.Time {
	zone := time.UTC
	if w.TimeZone != "" {
		if known, err := time.LoadLocation(w.TimeZone); err == nil {
			zone = known
		}
	}
	return time.Date(day.Year(), day.Month(), day.Day()+1, 0, 0, 0, 0, zone)
}
