package listener

import (
	"embed"
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
	"sync"

	"keencrock/core/formula"
)

// roles say what a phrase does in what is said; a phrase may have several, and what
// stands around it tells which.
type roles uint64

const (
	hesitation roles = 1 << iota // um, you know: wherever it stands, it is not there
	small                        // says nothing of what goes in
	joiner                       // and, plus
	optional                     // maybe, if you like
	choice                       // or: what follows may take its place
	either
	whim     // if you haven't any: why the other
	each     // of all that are named
	both     // of both
	same     // same again of
	factored // half that: so many times what was said last
	doubled  // double it
	halved
	rest  // the rest is
	top   // top it up with
	cover // cover with
	fill  // fill a jar with
	correct
	correctWell // well, no: corrects where an amount follows
	scrap       // forget the
	out         // … out: leave the salt out
	none        // no, never
	one         // in this one
	instead     // instead of
	manner
	place
	per     // a load
	machine // front loader
	dosing
	yield
	pieces
	uses
	step
	using
	caution
	thing
	function
	kind
	set // should be
	wet // mist with
	benchMore
	benchDone
	benchLeft
	benchBroke
	benchCounted
	benchStirred
	benchSkipped
	benchWas
	total   // in all
	denied  // others do, and I do not
	keeping // how long it is good
	often   // how often it is used
	unsaid  // takes the last line back
)

// roleNames are the roles as the files of the lexicon write them; “times 1/2”, “machine
// front-loader” and “kind spray” carry a value.
var roleNames = map[string]roles{"hesitation": hesitation, "small": small, "joiner": joiner, "optional": optional, "choice": choice, "either": either,
	"whim": whim, "each": each, "both": both, "same": same, "times": factored, "doubled": doubled, "halved": halved, "rest": rest, "top": top, "cover": cover,
	"fill": fill, "correct": correct, "correct-well": correctWell, "scrap": scrap, "out": out, "none": none, "one": one, "instead": instead, "manner": manner,
	"place": place, "per": per, "machine": machine, "dosing": dosing, "yield": yield, "pieces": pieces, "uses": uses, "step": step, "using": using,
	"caution": caution, "thing": thing, "function": function, "kind": kind, "set": set, "wet": wet,
	"bench-more": benchMore, "bench-done": benchDone, "bench-left": benchLeft, "bench-broke": benchBroke, "bench-counted": benchCounted, "bench-stirred": benchStirred,
	"bench-skipped": benchSkipped, "bench-was": benchWas, "denied": denied, "total": total, "keeping": keeping, "often": often, "unsaid": unsaid}

// meaning is what is known of a phrase.
type meaning struct {
	roles    roles
	num, den int64        // of factored
	machine  string       // of machine
	kind     formula.Kind // of kind
}

func (m *meaning) is(r roles) bool { return m != nil && m.roles&r != 0 }

// lexicon finds the phrases of a language, word by word.
type lexicon struct{ root phraseNode }

type phraseNode struct {
	next map[string]*phraseNode
	ends *meaning
}

//go:embed lexicon/*.json
var lexiconFiles embed.FS

// language is the one that is spoken. Another is another file.
const language = "en"

var spoken = sync.OnceValue(func() *lexicon {
	data, err := lexiconFiles.ReadFile("lexicon/" + language + ".json")
	if err != nil {
		panic(fmt.Sprintf("listener: %v", err))
	}
	l, err := readLexicon(data)
	if err != nil {
		panic(fmt.Sprintf("listener: %v", err))
	}
	return l
})

// wordSets are the words that the grammar asks for one by one, by the name of their set, in
// the language that is spoken.
var wordSets = sync.OnceValue(func() map[string][]string {
	data, err := lexiconFiles.ReadFile("lexicon/" + language + ".words.json")
	if err != nil {
		panic(fmt.Sprintf("listener: %v", err))
	}
	var sets map[string][]string
	if err := json.Unmarshal(data, &sets); err != nil {
		panic(fmt.Sprintf("listener: %v", err))
	}
	return sets
})

// wordSet is one of them. A set that the language lacks is a fault of the program.
func wordSet(name string) map[string]bool {
	words := wordList(name)
	set := make(map[string]bool, len(words))
	for _, w := range words {
		set[w] = true
	}
	return set
}

// wordList are the words of a name in the order they stand in the file of the language.
func wordList(name string) []string {
	words := wordSets()[name]
	if len(words) == 0 {
		panic(fmt.Sprintf("listener: the lexicon has no words for %q", name))
	}
	return words
}

// readLexicon reads the phrases of a language: a list for each role.
func readLexicon(data []byte) (*lexicon, error) {
	var lists map[string][]string
	if err := json.Unmarshal(data, &lists); err != nil {
		return nil, err
	}
	l := &lexicon{}
	for head, phrases := range lists {
		name, value, _ := strings.Cut(head, " ")
		m := meaning{roles: roleNames[name]}
		switch {
		case m.roles == 0:
			return nil, fmt.Errorf("the lexicon has no role %q", name)
		case m.roles == factored:
			num, den, _ := strings.Cut(value, "/")
			m.num, _ = strconv.ParseInt(num, 10, 64)
			if m.den, _ = strconv.ParseInt(den, 10, 64); m.den == 0 {
				m.den = 1
			}
			if m.num == 0 {
				return nil, fmt.Errorf("the lexicon has no factor in %q", head)
			}
		case m.roles == machine:
			m.machine = value
		case m.roles == kind:
			k, err := formula.ParseKind(value)
			if err != nil {
				return nil, err
			}
			m.kind = k
		}
		for _, p := range phrases {
			l.add(p, m)
			if bare := strings.ReplaceAll(p, "'", ""); bare != p && !otherWords[firstWord(bare)] { // as thumbs write it
				l.add(bare, m)
			}
		}
	}
	return l, nil
}

// otherWords are those that a word becomes another of without its apostrophe: “we'll”.
var otherWords = wordSet("otherWords")

func firstWord(s string) string {
	first, _, _ := strings.Cut(s, " ")
	return first
}

func (l *lexicon) add(phrase string, m meaning) {
	node := &l.root
	for _, w := range phraseWords(phrase) {
		if node.next == nil {
			node.next = map[string]*phraseNode{}
		}
		if node.next[w] == nil {
			node.next[w] = &phraseNode{}
		}
		node = node.next[w]
	}
	if node.ends == nil {
		node.ends = &meaning{}
	}
	e := node.ends
	e.roles |= m.roles
	if m.num != 0 {
		e.num, e.den = m.num, m.den
	}
	if m.machine != "" {
		e.machine = m.machine
	}
	if m.kind != "" {
		e.kind = m.kind
	}
}

// phraseWords are the words of a phrase as tokens have them.
func phraseWords(phrase string) (words []string) {
	for _, t := range tokens(phrase) {
		if t.word != "-" {
			words = append(words, t.word)
		}
	}
	return words
}

// at finds the longest phrase that begins at a token; n is how many tokens it has.
func (l *lexicon) at(toks []token, i int) (m *meaning, n int) {
	node := &l.root
	for j := i; j < len(toks); j++ {
		t := &toks[j]
		if t.kind == isBreak {
			break
		}
		if t.word == "-" && t.tight && j > i {
			continue
		}
		next := node.next[t.word]
		if next == nil {
			break
		}
		if node = next; node.ends != nil {
			m, n = node.ends, j+1-i
		}
	}
	return m, n
}

// foldedWords are what the names of materials are looked for in: the words from a token
// on, without hyphens, and how many tokens each takes.
func foldedWords(toks []token, i, most int, words []string, ends []int) ([]string, []int) {
	words, ends = words[:0], ends[:0]
	for j := i; j < len(toks) && len(words) < most; j++ {
		t := &toks[j]
		switch {
		case t.kind == isWord:
			words = append(words, strings.ReplaceAll(t.word, "'", ""))
		case t.kind == isNumber, t.word == "%":
			words = append(words, t.word)
		case (t.word == "-" || t.word == "–") && t.tight && j > i && j+1 < len(toks) && toks[j+1].tight:
			continue
		default:
			return words, ends
		}
		ends = append(ends, j+1)
	}
	return words, ends
}

// spot is a material's name in a text: the tokens of the name, and of the words about
// its state before and after.
type spot struct {
	from, to int // of name and states
	name     int // where the name begins
}

// nameAt finds the name of a material at a token, perhaps after words about its state.
func (r *reader) nameAt(i int) (s spot, ok bool) {
	sp := r.spotter
	start := i
	most := sp.MostWords() + 1
	for states := 0; states <= mostStates && start < len(r.toks); states++ {
		r.words, r.ends = foldedWords(r.toks, start, most, r.words, r.ends)
		if len(r.words) == 0 {
			break
		}
		if n := sp.Longest(r.words); n > 0 {
			found := spot{from: i, to: r.ends[n-1], name: start}
			if !ok || found.to > s.to {
				s, ok = found, true
			}
		}
		if !isState(r.words[0], r.words) {
			break
		}
		start = r.ends[0]
		if n := len(r.out); start < len(r.toks) && r.toks[start].word == "," && !(n > 0 && r.out[n-1].kind == aName && r.out[n-1].to == i) && start+1 < len(r.toks) && r.toks[start+1].kind == isWord && isState(r.toks[start+1].word, nil) {
			start++ // “hot, soft water”
		}
	}
	return s, ok
}

// mostStates is how many words about its state stand before a name at the most.
const mostStates = 4
