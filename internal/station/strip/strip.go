// Package strip says what is waiting, in one line under every station.
package strip

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/keeping"
	"keencrock/core/making"
	"keencrock/core/material"
	"keencrock/core/stock"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service tells what is waiting.
type Service struct{ *tenant.House }

// New returns the strip of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// How many notes the strip has room for, and how many batches on the bench.
const (
	mostNotes   = 20
	mostBatches = 5
)

// notes collects what is waiting, as far as there is room.
type notes []api.WaitingNote

func (n *notes) add(tone api.WaitingNoteTone, station, id, text string, args ...any) {
	if len(*n) < mostNotes {
		*n = append(*n, api.WaitingNote{Tone: tone, Station: station, Id: id, Text: fmt.Sprintf(text, args...)})
	}
}

// Waiting says what is waiting now: batches on the bench, goods past or near
// their date, materials running low.
func (s *Service) Waiting(ctx context.Context) ([]api.WaitingNote, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	n := notes{}
	n.space(s.Store.Space())
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		set, err := s.Settings(tx)
		if err != nil {
			return err
		}
		open, err := s.OpenBatches(tx, set)
		if err != nil {
			return err
		}
		n.batches(open, s.Now())
		if err := n.standing(tx, s.Now()); err != nil {
			return err
		}
		if err := n.chores(tx, set.Today); err != nil {
			return err
		}
		if err := n.samples(tx, set.Today); err != nil {
			return err
		}
		goods, err := tx.DatedGoods(set.Today.AddDate(0, 0, stock.SoonDays), mostNotes)
		if err != nil {
			return err
		}
		for _, g := range goods {
			if stock.NearnessOn(*g.BestBefore, set.Today) == stock.Past {
				n.add(api.WaitingNoteToneStop, "pantry", g.ID.String(), "%s %s is past its date", g.Name, g.Code)
			}
		}
		if err := n.low(tx, set); err != nil {
			return err
		}
		for _, g := range goods {
			if stock.NearnessOn(*g.BestBefore, set.Today) == stock.Soon {
				n.add(api.WaitingNoteToneWatch, "pantry", g.ID.String(), "use up %s by %s", g.Name, g.BestBefore.Format("2 Jan"))
			}
		}
		return nil
	})
	return n, err
}

// space notes that the disk fills up, before it is full.
func (n *notes) space(disk store.Space) {
	const mb = 1 << 20
	switch {
	case disk.Full:
		n.add(api.WaitingNoteToneStop, "settings", "", "the disk is nearly full: nothing more is kept until there is room")
	case disk.Little:
		n.add(api.WaitingNoteToneWatch, "settings", "", "%d MB are left on the disk of the database", disk.FreeBytes/mb)
	}
}

// chores notes what comes round today, and what is late.
func (n *notes) chores(tx *store.Tx, today time.Time) error {
	chores, err := tx.Chores(today)
	for _, c := range chores {
		tone := api.WaitingNoteToneGood
		if c.NextOn.Before(today) {
			tone = api.WaitingNoteToneWatch
		}
		n.add(tone, "rack", c.ID.String(), "%s", c.Title)
	}
	return err
}

// lateLook is how many days after its day a look at a sample is late.
const lateLook = 7

// samples notes the jars that are to be looked at, and what went early.
func (n *notes) samples(tx *store.Tx, today time.Time) error {
	all, err := tenant.Samples(tx)
	for i := range all {
		s := &all[i]
		next, more := s.DueOn()
		switch {
		case !s.Open():
		case s.Outcome() == keeping.GoneEarly:
			n.add(api.WaitingNoteToneStop, "trials", "samples", "a sample of %s went early", s.Name)
		case more && !next.After(today):
			tone := api.WaitingNoteToneGood
			if next.AddDate(0, 0, lateLook).Before(today) {
				tone = api.WaitingNoteToneWatch
			}
			n.add(tone, "trials", "samples", "look at the sample of %s", s.Lot)
		}
	}
	return err
}

// soon is how long before it is due something is worth a note.
const soon = 12 * time.Hour

// batches notes what waits of open batches: what is late in front, then what is at
// the bench, then what is due soon.
func (n *notes) batches(open []*tenant.Batch, now time.Time) {
	var late, bench, next notes
	for _, b := range slices.Backward(open) {
		if b.State == making.Weighing || b.State == making.InWork {
			if len(bench) < mostBatches {
				bench.add(api.WaitingNoteToneGood, "bench", b.Row.ID.String(), "%s is on the bench", b.Row.Name)
			}
			continue
		}
		for _, d := range b.Due(now) {
			tone, into := api.WaitingNoteToneGood, &next
			switch {
			case d.Kind == making.DueTimer || d.Kind == making.DueWeighIn || d.Kind == making.DueStep && b.State == making.Standing || d.At.After(now.Add(soon)):
				continue
			case d.Kind == making.DueStep:
				into.add(tone, "bench", b.Row.ID.String(), "%s can be packed", b.Row.Name)
				continue
			case d.At.Before(now):
				tone, into = api.WaitingNoteToneWatch, &late
			}
			into.add(tone, "rack", b.Row.ID.String(), "%s: %s", b.Row.Name, d.What)
			if of := *into; len(of) > 0 {
				of[len(of)-1].At = d.At
			}
			break // the nearest tells
		}
	}
	for _, of := range []notes{late, bench, next} {
		for _, note := range of {
			if len(*n) < mostNotes {
				*n = append(*n, note)
			}
		}
	}
}

// standing notes what is late of what stands.
func (n *notes) standing(tx *store.Tx, now time.Time) error {
	vats, err := tx.Vessels()
	if err != nil || len(vats) == 0 {
		return err
	}
	ids := make([]uuid.UUID, len(vats))
	for i := range vats {
		ids[i] = vats[i].ID
	}
	events, err := tx.VesselEvents(ids...)
	if err != nil {
		return err
	}
	for i := range vats {
		plan := vats[i].Plan()
		for _, d := range plan.Due(store.Happened(events[vats[i].ID])) {
			if d.At.Before(now) {
				n.add(api.WaitingNoteToneWatch, "rack", vats[i].ID.String(), "%s: %s", vats[i].Name, d.What)
			}
		}
	}
	return nil
}

// low notes the materials that are low or out, of those with a reorder point.
func (n *notes) low(tx *store.Tx, set *tenant.Settings) error {
	var items []string
	for id, f := range set.Figures {
		if f.ReorderG > 0 {
			items = append(items, id)
		}
	}
	if len(items) == 0 {
		return nil
	}
	lots, err := tx.Stock(items...)
	if err != nil {
		return err
	}
	of := map[string][]stock.Lot{}
	for _, l := range lots {
		of[l.Item] = append(of[l.Item], l)
	}
	slices.SortFunc(items, func(a, b string) int { return strings.Compare(set.NameOf(a), set.NameOf(b)) })
	for _, id := range items {
		switch marks := stock.LevelOn(of[id], set.Figures[id].ReorderG, set.Today).Marks; {
		case slices.Contains(marks, stock.MarkOut):
			n.add(api.WaitingNoteToneStop, "shelf", id, "no %s left", material.InSentence(set.NameOf(id)))
		case slices.Contains(marks, stock.MarkLow):
			n.add(api.WaitingNoteToneWatch, "shelf", id, "%s is low", set.NameOf(id))
		}
	}
	return nil
}
