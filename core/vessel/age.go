package vessel

import (
	"fmt"
	"time"
)

const day = 24 * time.Hour

// Ripe is the age below which a ferment is young. Common practice: it stands about
// two months at first.
const Ripe = 60 * day

// Band is the share, 0 to 1, of a content that is of an age.
type Band struct {
	Name  string
	Share float64
}

// bands are the ages a content is parted by, the youngest first.
var bands = []struct {
	name string
	upTo time.Duration
}{{"under a week", 7 * day}, {"up to a month", Ripe / 2}, {"up to two months", Ripe}, {"up to four months", 2 * Ripe}}

// Bands parts a content by its age at a time, the youngest first.
func (c Content) Bands(now time.Time) []Band {
	var out []Band
	below := 0.0
	for _, b := range bands {
		share := c.ShareYounger(b.upTo, now)
		out = append(out, Band{b.name, share - below})
		below = share
	}
	older := 0.0
	if len(c) > 0 {
		older = 1 - below
	}
	return append(out, Band{"older", older})
}

// muchYoung is the share under a month that is worth a word. From memory.
const muchYoung = 0.25

// Advice says what to mind before it is drawn at a time; empty for nothing.
func (c Content) Advice(now time.Time) string {
	if share := c.ShareYounger(Ripe/2, now); share >= muchYoung {
		return fmt.Sprintf("Drawn today, %.0f %% is younger than a month: rest it longer, or draw less.", 100*share)
	}
	return ""
}
