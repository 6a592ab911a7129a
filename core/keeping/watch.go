package keeping

import (
	"fmt"
	"slices"
	"strings"
	"time"
)

// Sign is what may be seen of a jar that was kept to be looked at.
type Sign struct {
	Code, Name string
	// Gone says that what shows it is not used any more, whatever else is seen.
	Gone    bool
	Caution string
}

// Signs are what may be seen, in the order they are asked. Common practice.
var Signs = []Sign{
	{Code: "lumps", Name: "lumps, or set hard"},
	{Code: "parted", Name: "parted, or settled"},
	{Code: "colour", Name: "another colour"},
	{Code: "weak", Name: "the scent is weak"},
	{Code: "thick", Name: "thicker or thinner"},
	{Code: "no-fizz", Name: "fizzes no more", Gone: true},
	{Code: "curdled", Name: "curdled", Gone: true},
	{Code: "smell", Name: "smells wrong or rancid", Gone: true},
	{Code: "mould", Name: "mould, or a skin on it", Gone: true, Caution: "Do not smell at it and do not stir it up: what is mouldy goes out closed, jar and all, and not down the drain. Whoever has a jar of this batch is told."},
	{Code: "swollen", Name: "the jar or its lid is swollen", Gone: true, Caution: "It may burst. Leave it closed, put it outdoors or into a bucket under a cloth, away from faces, and let the pressure off slowly, if at all. Glass is not opened indoors."},
	{Code: "leaks", Name: "it leaks", Gone: true, Caution: "Wipe it up with gloves on; what it is, its label says."},
}

// SignOf returns a sign by its code; nil where there is none.
func SignOf(code string) *Sign {
	if i := slices.IndexFunc(Signs, func(s Sign) bool { return s.Code == code }); i >= 0 {
		return &Signs[i]
	}
	return nil
}

// How often what is kept is looked at: in quarters of its life, until half a life beyond it,
// and never more often than leastDays apart. Common practice.
const (
	looksALife = 4
	lastLook   = 6
	leastDays  = 2
)

// Look is one look at a jar, on a day.
type Look struct {
	On    time.Time
	Good  bool // it is still good to use
	Signs []string
	PH    float64 // 0 where none was measured
}

// Watch is a jar that is kept to be looked at: made on a day, with a best-before, and what was
// seen of it.
type Watch struct {
	Made, BestBefore time.Time
	Kept             time.Time
	Looks            []Look // by their days
}

// Outcome is what a watch has shown so far.
type Outcome string

// What a watch may have shown.
const (
	Watching  Outcome = "watching"   // nothing yet, or good so far
	GoneEarly Outcome = "gone early" // before its best-before
	GoneLate  Outcome = "gone"       // after it
	Lasted    Outcome = "lasted"     // it was still good on its best-before or after it
)

// life is how many days it was said to keep, from when it was made.
func (w *Watch) life() int { return max(1, days(w.Made, w.BestBefore)) }

func days(from, to time.Time) int { return int(to.Sub(from).Hours()/24 + 0.5) }

// wentBad is the first look at which it was not good any more; nil for none.
func (w *Watch) wentBad() *Look {
	if i := slices.IndexFunc(w.Looks, func(l Look) bool { return !l.Good }); i >= 0 {
		return &w.Looks[i]
	}
	return nil
}

// Outcome says what it has shown.
func (w *Watch) Outcome() Outcome {
	bad := w.wentBad()
	switch {
	case bad != nil && bad.On.Before(w.BestBefore):
		return GoneEarly
	case bad != nil && !w.goodUntil(bad).Before(w.BestBefore):
		return Lasted
	case bad != nil:
		return GoneLate
	case len(w.Looks) > 0 && !w.Looks[len(w.Looks)-1].On.Before(w.BestBefore):
		return Lasted
	}
	return Watching
}

// goodUntil is the last day before a look on which it was seen to be good; the zero day for
// none.
func (w *Watch) goodUntil(bad *Look) (on time.Time) {
	for _, l := range w.Looks {
		if l.Good && l.On.Before(bad.On) {
			on = l.On
		}
	}
	return on
}

// Next is the day of the next look; ok is false for what is gone, or has outlasted its life by
// half. A look that was had within half a step of a day counts for it.
func (w *Watch) Next() (on time.Time, ok bool) {
	if w.wentBad() != nil {
		return on, false
	}
	step := max(float64(leastDays), float64(w.life())/looksALife)
	for k := 1; float64(k)*step <= float64(w.life())*lastLook/looksALife+0.5; k++ {
		on = w.Made.AddDate(0, 0, int(float64(k)*step+0.5))
		if on.Before(w.Kept) {
			continue
		}
		seen := slices.ContainsFunc(w.Looks, func(l Look) bool { return float64(days(on, l.On)) > -step/2 })
		if !seen {
			return on, true
		}
	}
	return time.Time{}, false
}

// SeenDays is how many days it really kept, where it went early: as long as it was seen to be
// good, and half of what it had when nobody looked before. ok is false for one that did not.
func (w *Watch) SeenDays() (keeps int, ok bool) {
	if w.Outcome() != GoneEarly {
		return 0, false
	}
	bad := w.wentBad()
	if good := w.goodUntil(bad); good.After(w.Made) {
		return days(w.Made, good), true
	}
	return max(1, days(w.Made, bad.On)/2), true
}

// Says says what a watch has shown, in a sentence.
func (w *Watch) Says() string {
	bad := w.wentBad()
	switch w.Outcome() {
	case GoneEarly, GoneLate:
		good := "nobody looked before"
		if on := w.goodUntil(bad); !on.IsZero() {
			good = fmt.Sprintf("it was good after %d", days(w.Made, on))
		}
		when := fmt.Sprintf("%d days before its best-before", days(bad.On, w.BestBefore))
		if !bad.On.Before(w.BestBefore) {
			when = "after its best-before"
		}
		return fmt.Sprintf("Gone after %d days (%s), %s; %s.", days(w.Made, bad.On), signNames(bad.Signs), when, good)
	case Lasted:
		return fmt.Sprintf("Still good after %d days, and it was said to keep %d. That does not make the date longer: what one jar bears, not every jar does.", days(w.Made, w.lastGood()), w.life())
	}
	if len(w.Looks) == 0 {
		return fmt.Sprintf("Said to keep %d days; nobody has looked yet.", w.life())
	}
	last := w.Looks[len(w.Looks)-1]
	return fmt.Sprintf("Good after %d of %d days%s.", days(w.Made, last.On), w.life(), but(last.Signs))
}

func (w *Watch) lastGood() (on time.Time) {
	for _, l := range w.Looks {
		if l.Good {
			on = l.On
		}
	}
	return on
}

func but(signs []string) string {
	if len(signs) == 0 {
		return ""
	}
	return ", but " + signNames(signs)
}

func signNames(codes []string) string {
	var names []string
	for _, c := range codes {
		if s := SignOf(c); s != nil {
			names = append(names, s.Name)
		}
	}
	if len(names) == 0 {
		return "not said of what"
	}
	return strings.Join(names, "; ")
}

// BySample is the limit that a jar which went early sets to what is made by the same formula:
// keeping is only ever shortened by what was seen, and by the worst of it, since mould does
// not average.
func BySample(made time.Time, code string, keeps int) Limit {
	return Limit{By: "sample", What: code, Date: made.AddDate(0, 0, keeps), Reason: fmt.Sprintf("a jar of %s that was kept to be looked at was good for %d days, and gone after that", code, keeps)}
}
