package tenant

import (
	"encoding/json"
	"fmt"
	"time"

	"github.com/google/uuid"

	"keencrock/core/keeping"
	"keencrock/core/learned"
	"keencrock/internal/store"
)

// Sample is a jar that is kept to be looked at, with what was seen of it.
type Sample struct {
	store.Sample
	keeping.Watch
	Seen []store.SampleLook // also those that were taken back, by the day
}

// Open reports whether it is looked at still.
func (s *Sample) Open() bool { return s.EndedOn == nil }

// DueOn is the day of its next look; ok is false for one that is looked at no more.
func (s *Sample) DueOn() (on time.Time, ok bool) {
	on, ok = s.Next()
	return on, ok && s.Open()
}

// Samples are the jars that are kept to be looked at, the newest first; also those that ended.
func Samples(tx *store.Tx) ([]Sample, error) {
	rows, err := tx.Samples()
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	looks, err := tx.SampleLooks()
	if err != nil {
		return nil, err
	}
	of := map[uuid.UUID][]store.SampleLook{}
	for _, l := range looks {
		of[l.SampleID] = append(of[l.SampleID], l)
	}
	out := make([]Sample, len(rows))
	for i, row := range rows {
		out[i] = Sample{Sample: row, Watch: keeping.Watch{Made: row.Made, BestBefore: row.BestBefore, Kept: row.KeptOn}, Seen: of[row.ID]}
		for _, l := range out[i].Seen {
			if l.TakenBackAt != nil {
				continue
			}
			look := keeping.Look{On: l.LookedOn, Good: l.Good}
			if err := json.Unmarshal(l.Signs, &look.Signs); err != nil {
				return nil, fmt.Errorf("what was seen of sample %s: %w", row.ID, err)
			}
			if l.PH != nil {
				look.PH = *l.PH
			}
			out[i].Looks = append(out[i].Looks, look)
		}
	}
	return out, nil
}

// SeenKeeping is how long what is made by a formula was really seen to keep.
type SeenKeeping struct {
	Days    int    // of the one that went soonest
	Code    string // of its batch
	Went    int    // how many went early
	AsUsual bool   // it is not to shorten anything
}

// SeenKeepings are the formulas of which a jar went before its date.
func SeenKeepings(tx *store.Tx) (map[uuid.UUID]SeenKeeping, error) {
	samples, err := Samples(tx)
	if err != nil || len(samples) == 0 {
		return nil, err
	}
	usual, err := tx.FiguresAsUsual()
	if err != nil {
		return nil, err
	}
	out := map[uuid.UUID]SeenKeeping{}
	for i := range samples {
		s := &samples[i]
		days, early := s.SeenDays()
		if !early {
			continue
		}
		seen, there := out[s.FormulaID]
		if seen.Went++; !there || days < seen.Days {
			seen.Days, seen.Code = days, s.Lot
		}
		seen.AsUsual = leftAsUsual(usual, learned.Key{Kind: learned.Keeping, Of: s.FormulaID.String()})
		out[s.FormulaID] = seen
	}
	return out, nil
}
