// Package device holds stand-ins for the things on a bench, behind the
// methods a driver of the real one would have.
package device

import (
	"math"
	"math/rand/v2"
	"sync"
	"time"
)

// Reading is what a scale shows.
type Reading struct {
	Grams    float64 // rounded to the step, tare taken off
	Stable   bool
	Overload bool
	StepG    float64
}

// Scale is a simulated bench scale: the display runs after the load, trembles
// until it has settled, and shows overload beyond its capacity. It is safe
// for use by many goroutines. Time is passed in.
type Scale struct {
	mu        sync.Mutex
	stepG     float64
	capacityG float64
	loadG     float64 // on the pan
	tareG     float64
	shownG    float64 // where the needle is, before noise
	at        time.Time
	settled   time.Time // since when the needle has been where the load is
	noise     *rand.Rand
}

const (
	settling  = 120 * time.Millisecond // time in which two thirds of the way are gone: it stands after about a second, as bench scales do (from memory)
	holdStill = 350 * time.Millisecond // how long the needle has to rest to count as stable
)

// NewScale returns an empty scale. The seed makes its tremble repeatable.
func NewScale(stepG, capacityG float64, seed uint64) *Scale {
	return &Scale{stepG: stepG, capacityG: capacityG, noise: rand.New(rand.NewPCG(seed, 0))}
}

// Put adds grams to the pan; less than zero takes some off. The pan never
// holds less than nothing.
func (s *Scale) Put(g float64, now time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.advance(now)
	s.loadG = max(0, s.loadG+g)
	s.settled = time.Time{}
}

// Clear takes everything off the pan and forgets the tare.
func (s *Scale) Clear(now time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.advance(now)
	s.loadG, s.tareG = 0, 0
	s.settled = time.Time{}
}

// Tare makes what is on the pan count as nothing.
func (s *Scale) Tare(now time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.advance(now)
	s.tareG = s.loadG
	s.shownG = s.loadG
}

// Read returns what the scale shows at a time.
func (s *Scale) Read(now time.Time) Reading {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.advance(now)
	r := Reading{StepG: s.stepG, Overload: s.loadG > s.capacityG}
	if r.Overload {
		r.Grams = s.capacityG - s.tareG
		return r
	}
	shown := s.shownG - s.tareG
	r.Stable = !s.settled.IsZero() && now.Sub(s.settled) >= holdStill
	if !r.Stable {
		shown += s.noise.NormFloat64() * s.stepG * 0.8
	}
	r.Grams = math.Round(shown/s.stepG) * s.stepG
	if r.Grams == 0 {
		r.Grams = 0 // no minus zero
	}
	return r
}

// advance moves the needle towards the load.
func (s *Scale) advance(now time.Time) {
	if !s.at.IsZero() && now.After(s.at) {
		left := math.Exp(-float64(now.Sub(s.at)) / float64(settling))
		s.shownG = s.loadG + (s.shownG-s.loadG)*left
	}
	s.at = now
	if math.Abs(s.shownG-s.loadG) < s.stepG/10 {
		s.shownG = s.loadG
		if s.settled.IsZero() {
			s.settled = now
		}
	}
}

// StepG is the step the scale shows in.
func (s *Scale) StepG() float64 { return s.stepG }

// CapacityG is the most the scale bears.
func (s *Scale) CapacityG() float64 { return s.capacityG }
