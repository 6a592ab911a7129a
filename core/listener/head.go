package listener

// nameAtHead names a good that nothing else named by how its first sentence begins: “oven
// cleaner, mix 100 g …”, “for cream cleanser half a cup …”, “I make hand soap from 60 g …”.
func (r *reader) nameAtHead() {
	r.materialAtHead()
	if r.good.Name != "" || r.good.before > 0 || len(r.goods) > 1 || len(r.good.lines) == 0 {
		return
	}
	from := 0
	for from < len(r.toks) && (openings[r.toks[from].word] || r.toks[from].kind == isSign) {
		from++
	}
	word := func(i int) string {
		if i < len(r.toks) && r.toks[i].kind == isWord {
			return r.toks[i].word
		}
		return ""
	}
	led := true
	switch first := word(from); {
	case first == "for":
		from++
	case (first == "i" || first == "we") && makes[word(from+1)]:
		from += 2
	default:
		led = false
	}
	for articles[word(from)] {
		from++
	}
	to := from
	for to < len(r.toks) && to-from < longestHead && word(to) != "" && !ends[word(to)] {
		if m, _ := r.lex.at(r.toks, to); to > from && m.is(step) && !m.is(kind) {
			break
		}
		to++
	}
	// “soda and borax in a bowl”, “ferment 3 kg of peel” and “bath bombs? no, …” begin no name
	if over := to < len(r.toks) && (r.toks[to].kind == isSign || r.toks[to].kind == isBreak); to == from || !led && !over || to < len(r.toks) && r.toks[to].word == "?" {
		return
	}
	text := r.said(from, to)
	if !led && r.read(text) != nil {
		return
	}
	k, n := r.lex.at(r.toks, from)
	switch {
	case k.is(kind) && n == to-from:
		r.good.Kind = k.kind
	case to-from > 2 && word(from+1) == "for" && (goodWords[word(from)] || k.is(kind) && n == 1): // “spray for counters”
		if k.is(kind) {
			r.good.Kind = k.kind
		}
	case to-from > 1 && goodWords[word(to-1)], led && to-from > 1 && word(to-1) == "soap":
	default:
		return
	}
	r.good.Name = sentenceCase(text)
	for i := from; i < to; i++ {
		r.fates[r.origin[i]] = fate{AsName, r.good, nil}
	}
}

// materialAtHead takes a material by itself before all else, measured nowhere, for the name
// of what is made: “Ash lye. 2 kg of ash, 5 litres of water”.
func (r *reader) materialAtHead() {
	g := r.good
	if g.Name != "" || g.before > 0 || len(r.goods) > 1 || len(g.lines) < 3 || len(g.sentences) < 2 {
		return
	}
	first, alone := g.lines[0], g.sentences[0]
	if !first.Amount.IsZero() || first.from < alone.from || first.from >= alone.to || len(first.Alternatives) > 0 || first.Optional {
		return
	}
	for _, l := range g.lines[1:] {
		if l.Amount.IsZero() || l.from < alone.to || l.Material == first.Material {
			return
		}
	}
	for i := range r.fates {
		if f := &r.fates[i]; f.line == first {
			*f = fate{AsName, g, nil}
		}
	}
	g.Name = sentenceCase(first.name)
	r.takeAway(first)
}

// longestHead is how many words such a name has at the most.
const longestHead = 4

var (
	// openings are words that begin to speak.
	openings = wordSet("openings")
	makes    = wordSet("makes")
	articles = wordSet("articles")
	// ends are words at which a name is over.
	ends = wordSet("ends")
)
