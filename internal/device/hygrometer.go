package device

import (
	"math"
	"math/rand/v2"
	"time"
)

// Air is what a hygrometer with a thermometer shows.
type Air struct {
	Celsius  float64 // to a tenth
	Humidity float64 // relative, in whole per cent
}

// Hygrometer is a simulated hygrometer and thermometer on the wall: warmest in the
// afternoon and driest then, with the weather of each day its own. It keeps nothing,
// so that every process reads the same. Time is passed in.
type Hygrometer struct{ seed uint64 }

// NewHygrometer returns a hygrometer. The seed makes its weather repeatable.
func NewHygrometer(seed uint64) *Hygrometer { return &Hygrometer{seed} }

// weather is how far a day is from the usual, −1 to 1 in warmth and damp.
func (h *Hygrometer) weather(day int64) (warm, damp float64) {
	r := rand.New(rand.NewPCG(h.seed, uint64(day)))
	return 2*r.Float64() - 1, 2*r.Float64() - 1
}

// Read returns what it shows at a time.
func (h *Hygrometer) Read(now time.Time) Air {
	const day = 24 * 3600
	seconds := now.Unix()
	today, share := seconds/day, float64(seconds%day)/day
	warm0, damp0 := h.weather(today)
	warm1, damp1 := h.weather(today + 1)
	warm, damp := warm0+(warm1-warm0)*share, damp0+(damp1-damp0)*share // it drifts from one day to the next
	swing := math.Cos(2 * math.Pi * (share - 15.0/24))                 // warmest at three in the afternoon
	return Air{
		Celsius:  math.Round(10*(19+2*warm+1.5*swing)) / 10,
		Humidity: math.Round(min(95, max(20, 54+12*damp-5*swing))),
	}
}
