package goal

import (
	"fmt"
	"strings"
)

// Contradiction is the error when no formula fulfils all wishes: leaving out
// any one of those named would make one possible.
type Contradiction struct{ Wishes []string }

func (c *Contradiction) Error() string {
	if len(c.Wishes) == 0 {
		return "no mixture of these materials does all of this: allow more materials, or wish for less"
	}
	return "these wishes contradict each other: " + strings.Join(c.Wishes, "; ")
}

// explain names the wishes of which any one has to go.
func (p *problem) explain() error {
	c := &Contradiction{}
	for _, name := range p.names() {
		if _, err := p.solve(p.without(name)); err == nil {
			c.Wishes = append(c.Wishes, name)
		}
	}
	return c
}

// explainPH names the band, and the wishes without which it could be reached;
// where there is none, how far the materials reach.
func (p *problem) explainPH(reach *outOfReach) error {
	c := &Contradiction{Wishes: []string{p.phName()}}
	for _, name := range p.names() {
		rows := p.without(name)
		if x, err := p.solve(rows); err == nil {
			if _, err := p.toPH(x, rows); err == nil {
				c.Wishes = append(c.Wishes, name)
			}
		}
	}
	if len(c.Wishes) == 1 {
		c.Wishes = append(c.Wishes, fmt.Sprintf("these materials alone, which reach a pH of %.1f to %.1f at this strength, in this water", reach.Low, reach.High))
	}
	return c
}

func (p *problem) names() (names []string) {
	seen := map[string]bool{"": true}
	for _, r := range p.rows {
		if !seen[r.name] {
			seen[r.name] = true
			names = append(names, r.name)
		}
	}
	return names
}

func (p *problem) without(name string) (rows []row) {
	for _, r := range p.rows {
		if r.name != name {
			rows = append(rows, r)
		}
	}
	return rows
}
