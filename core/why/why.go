// Package why says why something went wrong: the likely causes of what is seen, weighed by what
// is known of this good, its dose and its water, and by what a maker answers; and which question
// or test would part the likely ones best for its trouble.
//
// The causes are data (causes.json): how usual each is where something is seen, which facts speak
// for or against it and how strongly, and how likely each test is to say yes where it is the
// cause. Usual counts and likelihoods are common practice and chemistry put into round numbers
// from memory, until a workshop has its own. A fact for a cause never lowers it, one against it
// never raises it, and answers may come in any order.
package why

import (
	"cmp"
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"
)

// Seen is something that is seen, in makers' words.
type Seen struct {
	ID, On, Name string
	Words        []string // as it is said
	Caution      string   // that comes before any question; empty for most
}

// Test is a question or a test that tells causes apart. It is answered by yes or no.
type Test struct {
	ID, Ask, Trouble string
	Minutes          float64
	Yes, No          string  // what yes and no are called
	Usual            float64 // how likely yes is where a cause says nothing of it
}

// Cause is why something may be seen.
type Cause struct {
	ID, Name string
	Seen     map[string]float64 // how usual it is where that is seen
	For      map[string]float64 // by how much a fact raises it, 1 or more
	Against  map[string]float64 // by how much a fact lowers it, 1 or more
	Tests    map[string]float64 // how likely yes is where it is the cause
	Kind     string             // what is changed: dose, formula, step, storage, machine
	Remedy   string
	Acts     []Act // ways to change the formula against it, the best first
}

// Table is all that is known of what is seen and why.
type Table struct {
	Seen   []Seen
	Tests  []Test
	Causes []Cause
}

//go:embed causes.json
var causesFile []byte

// Shipped is the table that ships.
var Shipped = sync.OnceValue(func() *Table {
	t, err := Read(causesFile)
	if err != nil {
		panic(err)
	}
	return t
})

var remedyKinds = []string{"dose", "formula", "step", "storage", "machine"}

// Read reads a table and refuses one that does not hold together.
func Read(text []byte) (*Table, error) {
	var t Table
	if err := json.Unmarshal(text, &t); err != nil {
		return nil, fmt.Errorf("the causes: %w", err)
	}
	for _, s := range t.Seen {
		if s.ID == "" || s.Name == "" || len(s.Words) == 0 {
			return nil, fmt.Errorf("the causes: what is seen needs an id, a name and words: %+v", s)
		}
	}
	for _, x := range t.Tests {
		if x.ID == "" || x.Ask == "" || x.Trouble == "" || x.Yes == "" || x.No == "" || x.Minutes <= 0 || x.Usual <= 0 || x.Usual >= 1 {
			return nil, fmt.Errorf("the causes: test %q lacks something", x.ID)
		}
	}
	for i := range t.Causes {
		if err := t.sound(&t.Causes[i]); err != nil {
			return nil, fmt.Errorf("the causes: %s: %w", t.Causes[i].ID, err)
		}
	}
	return &t, nil
}

func (t *Table) sound(c *Cause) error {
	if c.ID == "" || c.Name == "" || c.Remedy == "" || len(c.Seen) == 0 || !slices.Contains(remedyKinds, c.Kind) {
		return fmt.Errorf("it needs an id, a name, what is seen, a remedy and its kind")
	}
	for seen, usual := range c.Seen {
		if t.seen(seen) == nil || usual <= 0 {
			return fmt.Errorf("there is no %q to be seen", seen)
		}
	}
	for _, facts := range []map[string]float64{c.For, c.Against} {
		for fact, by := range facts {
			if !slices.Contains(Known, fact) || by < 1 {
				return fmt.Errorf("fact %q is not known, or lowers what it should raise", fact)
			}
		}
	}
	for i := range c.Acts {
		if err := c.Acts[i].sound(); err != nil {
			return err
		}
	}
	for test, yes := range c.Tests {
		if t.test(test) == nil || yes <= 0 || yes >= 1 {
			return fmt.Errorf("there is no test %q, or it is certain", test)
		}
	}
	return nil
}

func (t *Table) seen(id string) *Seen {
	if i := slices.IndexFunc(t.Seen, func(s Seen) bool { return s.ID == id }); i >= 0 {
		return &t.Seen[i]
	}
	return nil
}

func (t *Table) test(id string) *Test {
	if i := slices.IndexFunc(t.Tests, func(x Test) bool { return x.ID == id }); i >= 0 {
		return &t.Tests[i]
	}
	return nil
}

// Answer is what a test showed.
type Answer struct {
	Test string
	Yes  bool
}

// Question is what is asked: what is seen, what is known, and what was answered so far.
type Question struct {
	Seen    string // its id
	Facts   Facts
	Answers []Answer
	Found   map[string]int // how often each cause was found here, where that was seen
}

// Likely is a cause with its odds, from 0 to 1; those of all together are 1.
type Likely struct {
	*Cause
	Odds    float64
	Because []string // the facts and answers that speak for it, strongest first
	But     []string // and against
	Here    int      // how often it was found here
}

// Other stands for what is not in the table.
const Other = "other"

// other is a cause that nobody knows of: it is always possible.
var other = Cause{ID: Other, Name: "something that cannot be told from here", Kind: "step",
	Remedy: "Change one thing at a time, and keep the other as it was to hold it against."}

// otherUsual is how usual that is, beside causes of 1 to 9. From memory.
const otherUsual = 0.6

// Finding is what is found.
type Finding struct {
	Seen    *Seen
	Causes  []Likely // the likeliest first; Other among them
	Ask     *Test    // what would part them best for its trouble; nil where nothing would
	Caution string
	Says    string // in a sentence

	unfit bool // no cause fits what was answered
}

// Find weighs the causes of what is seen. Answers to tests that are not known, and second ones to
// the same, are an error.
func (t *Table) Find(q Question) (*Finding, error) {
	seen := t.seen(q.Seen)
	if seen == nil {
		return nil, fmt.Errorf("there is no %q to be seen", q.Seen)
	}
	answered := map[string]bool{}
	for _, a := range q.Answers {
		if t.test(a.Test) == nil {
			return nil, fmt.Errorf("there is no test %q", a.Test)
		}
		if answered[a.Test] {
			return nil, fmt.Errorf("test %q is answered twice", a.Test)
		}
		answered[a.Test] = true
	}
	f := &Finding{Seen: seen, Caution: seen.Caution}
	usual := t.usualHere(q)
	fits := 0.0
	for i := range t.Causes {
		c := &t.Causes[i]
		if _, can := c.Seen[q.Seen]; !can {
			continue
		}
		weight, fit, because, but := t.weigh(c, usual[c.ID], q)
		fits = max(fits, fit)
		f.Causes = append(f.Causes, Likely{c, weight, because, but, q.Found[c.ID]})
	}
	weight, _, _, _ := t.weigh(&other, usual[Other], q)
	f.Causes = append(f.Causes, Likely{Cause: &other, Odds: weight, Here: q.Found[Other]})
	normalise(f.Causes)
	slices.SortStableFunc(f.Causes, func(a, b Likely) int { return cmp.Or(cmp.Compare(b.Odds, a.Odds), cmp.Compare(a.ID, b.ID)) })
	f.Ask = t.ask(f.Causes, answered)
	f.unfit = len(q.Answers) > 0 && fits < mostAgainst
	f.Says = f.words()
	return f, nil
}

// usualFor is for how many findings what is usual counts, beside those of a workshop. From memory:
// after as many of its own, a workshop's count as much.
const usualFor = 8

// usualHere is how usual each cause is where something is seen: what is usual anywhere, drawn
// towards how often each was found here.
func (t *Table) usualHere(q Question) map[string]float64 {
	usual := map[string]float64{Other: otherUsual}
	all, found := otherUsual, q.Found[Other]
	for i := range t.Causes {
		if u, can := t.Causes[i].Seen[q.Seen]; can {
			usual[t.Causes[i].ID] = u
			all, found = all+u, found+q.Found[t.Causes[i].ID]
		}
	}
	for id, u := range usual {
		usual[id] = (usualFor*u + all*float64(q.Found[id])) / float64(usualFor+found)
	}
	return usual
}

// CanBe reports whether a cause may stand behind something that is seen; [Other] always may.
func (t *Table) CanBe(cause, seen string) bool {
	if t.seen(seen) == nil {
		return false
	}
	i := slices.IndexFunc(t.Causes, func(c Cause) bool { return c.ID == cause })
	if i < 0 {
		return cause == Other
	}
	_, can := t.Causes[i].Seen[seen]
	return can
}

// Names are what is seen and a cause in words; as they were said where they are not known any
// more.
func (t *Table) Names(seen, cause string) (of, name string) {
	of, name = seen, cause
	if s := t.seen(seen); s != nil {
		of = s.Name
	}
	if cause == Other {
		return of, other.Name
	}
	if i := slices.IndexFunc(t.Causes, func(c Cause) bool { return c.ID == cause }); i >= 0 {
		name = t.Causes[i].Name
	}
	return of, name
}

// weigh is how much speaks for a cause, how well the answers fit it, and what does which.
func (t *Table) weigh(c *Cause, usual float64, q Question) (weight, fit float64, because, but []string) {
	weight, fit = usual, 1
	type reason struct {
		by   float64
		says string
	}
	var pro, con []reason
	for _, name := range Known { // in one order, so that the same is the same
		fact, known := q.Facts[name]
		if !known || fact.Level <= 0 {
			continue
		}
		if by := math.Pow(c.For[name], min(1, fact.Level)); by > 1 {
			weight *= by
			pro = append(pro, reason{by, fact.Says})
		}
		if by := c.Against[name]; by > 1 {
			weight /= math.Pow(by, min(1, fact.Level))
			con = append(con, reason{by, fact.Says})
		}
	}
	for _, x := range t.Tests {
		for _, a := range q.Answers {
			if a.Test != x.ID {
				continue
			}
			yes, said := c.Tests[x.ID]
			if !said {
				yes = x.Usual
			}
			p, usual, word := yes, x.Usual, x.Yes
			if !a.Yes {
				p, usual, word = 1-yes, 1-x.Usual, x.No
			}
			weight *= p
			fit *= p
			text := x.Ask + " " + strings.ToUpper(word[:1]) + word[1:] + "."
			switch by := p / usual; {
			case by > 1.1:
				pro = append(pro, reason{by, text})
			case by < 1/1.1:
				con = append(con, reason{1 / by, text})
			}
		}
	}
	for _, of := range []struct {
		from []reason
		into *[]string
	}{{pro, &because}, {con, &but}} {
		slices.SortStableFunc(of.from, func(a, b reason) int { return cmp.Compare(b.by, a.by) })
		for _, r := range of.from {
			*of.into = append(*of.into, r.says)
		}
	}
	return weight, fit, because, but
}

// mostAgainst is how badly all answers may fit the best cause before it is said that they do not
// fit together.
const mostAgainst = 0.05

func normalise(of []Likely) {
	all := 0.0
	for i := range of {
		all += of[i].Odds
	}
	for i := range of {
		of[i].Odds /= all
	}
}

// worthAsking is how much a test has to tell, in bits, to be asked for.
const worthAsking = 0.02

// ask finds the test that tells most of which cause it is, for its trouble. Ten minutes weigh as
// much as half of what is told; our own choice.
func (t *Table) ask(causes []Likely, answered map[string]bool) *Test {
	var best *Test
	most := 0.0
	for i := range t.Tests {
		x := &t.Tests[i]
		if answered[x.ID] {
			continue
		}
		told := told(causes, x)
		if told < worthAsking {
			continue
		}
		if worth := told / (1 + x.Minutes/10); worth > most {
			best, most = x, worth
		}
	}
	return best
}

// told is how much a test is expected to tell of which cause it is, in bits.
func told(causes []Likely, x *Test) float64 {
	var yes, no []float64
	py := 0.0
	for _, c := range causes {
		p, said := c.Tests[x.ID]
		if !said {
			p = x.Usual
		}
		yes, no = append(yes, c.Odds*p), append(no, c.Odds*(1-p))
		py += c.Odds * p
	}
	now := make([]float64, len(causes))
	for i, c := range causes {
		now[i] = c.Odds
	}
	return bits(now) - py*bits(yes) - (1-py)*bits(no)
}

// bits is how undecided weights are.
func bits(of []float64) (b float64) {
	all := 0.0
	for _, w := range of {
		all += w
	}
	for _, w := range of {
		if w > 0 {
			b -= w / all * math.Log2(w/all)
		}
	}
	return b
}

// near is how near two causes are when both are named.
const near = 0.7

// words are what was found in a sentence: never one cause alone where two are near.
func (f *Finding) words() string {
	if f.unfit {
		return "The answers do not fit together: look once more, or two things are wrong at once."
	}
	if f.Causes[0].ID == Other {
		return "This cannot be told from here."
	}
	var likely []string
	for _, c := range f.Causes {
		if c.ID != Other && len(likely) < 3 && c.Odds >= near*f.Causes[0].Odds {
			likely = append(likely, c.Name)
		}
	}
	says := "Most likely: " + strings.Join(likely, ", or ") + "."
	if first := f.Causes[0]; len(likely) == 1 && first.Odds < 0.4 {
		says = "Perhaps: " + first.Name + ". Much else is possible."
	} else if len(likely) == 1 && len(first.Because) > 0 {
		says += " " + first.Because[0]
	}
	return says
}

// Hear finds what is seen in what is said, best first; none where nothing fits. on is what a good
// is used on, or how it is made; empty for anything.
func (t *Table) Hear(said string, on ...string) []*Seen {
	words := map[string]bool{}
	text := " " + strings.Join(split(said), " ") + " "
	for _, w := range split(said) {
		words[w] = true
	}
	type match struct {
		seen  *Seen
		score float64
	}
	var found []match
	for i := range t.Seen {
		s := &t.Seen[i]
		best := 0.0
		if said == s.ID || strings.EqualFold(strings.TrimSpace(said), s.Name) {
			best = 100
		}
		for _, phrase := range append([]string{s.Name}, s.Words...) {
			parts := split(phrase)
			hits, letters := 0, 0
			for _, p := range parts {
				if words[p] {
					hits++
					letters += len(p)
				}
			}
			score := float64(hits) / float64(len(parts)) * math.Sqrt(float64(letters)+1)
			if strings.Contains(text, " "+strings.Join(parts, " ")+" ") {
				score *= 1.5
			}
			if hits < len(parts) && hits*2 <= len(parts) { // half of it is no match
				score = 0
			}
			best = max(best, score)
		}
		if best > 0 && slices.Contains(on, s.On) {
			best *= 1.3
		}
		if best > 0 {
			found = append(found, match{s, best})
		}
	}
	slices.SortStableFunc(found, func(a, b match) int { return cmp.Compare(b.score, a.score) })
	out := make([]*Seen, len(found))
	for i, m := range found {
		out[i] = m.seen
	}
	return out
}

// small words say nothing of what is seen.
var small = map[string]bool{"the": true, "a": true, "an": true, "on": true, "in": true, "of": true, "it": true, "is": true, "my": true, "our": true, "are": true, "to": true, "and": true, "has": true, "have": true, "there": true, "that": true, "was": true, "at": true, "for": true}

// split is the words of a text, without endings that only say how many.
func split(text string) (out []string) {
	for _, w := range strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !(r >= 'a' && r <= 'z' || r >= '0' && r <= '9' || r == '\'')
	}) {
		if small[w] {
			continue
		}
		if len(w) > 4 && strings.HasSuffix(w, "ses") {
			w = strings.TrimSuffix(w, "es")
		} else if len(w) > 3 && strings.HasSuffix(w, "s") && !strings.HasSuffix(w, "ss") {
			w = strings.TrimSuffix(w, "s")
		}
		out = append(out, w)
	}
	return out
}
