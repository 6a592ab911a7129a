package method

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

// verbs are the words that say what is done, by the kind of step. The first of a
// clause tells; “then” and “and then” begin another.
var verbs = []struct {
	kind  formula.StepKind
	words []string
}{
	{formula.Weigh, []string{"weigh", "measure"}},
	{formula.Grate, []string{"grate", "shave", "shred", "grind", "mill"}},
	{formula.Dissolve, []string{"dissolve", "melt in"}},
	{formula.Whip, []string{"whip", "whisk", "beat"}},
	{formula.Blend, []string{"blend", "stick blend", "stick-blend", "blitz", "whizz", "whiz", "puree", "purée", "liquidise", "liquidize", "mash"}},
	{formula.Rub, []string{"rub", "crumble", "break the lumps", "break up"}},
	{formula.Heat, []string{"heat", "boil", "simmer", "warm", "melt", "melt in a water bath", "melt in a bain", "melt in a double", "cook", "bake", "bring to"}},
	{formula.Strain, []string{"strain", "filter", "squeeze out", "wring"}},
	{formula.MakeUp, []string{"make up to", "make it up to", "top up", "fill up with", "fill up to", "dilute to"}},
	{formula.Check, []string{"check", "test", "look", "squeeze a handful"}},
	{formula.Press, []string{"press", "mould", "mold", "pack into", "pack it into", "pack in mould", "pack in moulds", "pack in molds", "pack in the mould", "pack in the moulds", "pack in the tray", "pack in trays", "pack in an ice", "pack in ice", "pack it in moulds", "pack it in the mould", "pack them in moulds", "pack it in an ice", "push into", "tamp", "shape"}},
	{formula.Ferment, []string{"ferment"}},
	{formula.Infuse, []string{"infuse", "macerate"}},
	{formula.Steep, []string{"steep", "soak"}},
	{formula.Rest, []string{"mature", "rest"}},
	{formula.Dry, []string{"dry", "cure", "cured", "air", "leave to dry", "leave it to dry", "leave them to dry", "let it dry", "let them dry", "let dry", "allow to dry", "spread them on", "spread it on", "spread on"}},
	{formula.Cool, []string{"cool", "let cool", "chill"}},
	{formula.Stand, []string{"sits", "left overnight", "left to", "left for", "left until", "left till", "set overnight", "set for", "let stand", "let it stand", "leave", "let sit", "let it sit", "let it set", "let them set", "let set", "stand", "wait", "set aside", "keep it for", "keep for", "keep them for", "keep it covered for", "keep covered for"}},
	{formula.Fill, []string{"fill", "bottle", "pour into", "pour it into", "decant", "jar", "store", "keep in"}},
	{formula.Add, []string{"drip", "spray", "spritz", "mist", "drizzle", "trickle"}},
	{formula.Mix, []string{"stuff it", "stuff a", "stuff the", "cram", "mix", "stir", "combine", "add", "fold", "shake", "put", "pour", "sprinkle", "work in", "toss", "sift", "sieve"}},
}

// slowly are the words that tell that something is added a little at a time.
var slowly = []struct {
	by    formula.By
	words []string
}{
	{formula.ByDrop, []string{"drop by drop", "by drops", "drops at a time", "dropwise", "drip", "drop at a time"}},
	{formula.ByMist, []string{"mist", "spray", "spritz", "puff"}},
	{formula.BySpoon, []string{"a little at a time", "bit by bit", "spoon by spoon", "spoon at a time", "slowly", "gradually"}},
}

// places are the vessels that a clause may name.
var places = []string{"saucepan", "pot", "pan", "bowl", "bucket", "bin", "jug", "jar", "blender", "tray", "mould", "mold", "bottle", "crock"}

var celsius = regexp.MustCompile(`(\d{2,3})\s*(?:°|degrees|deg)?\s*[cC]\b`)
var every = regexp.MustCompile(`\bevery\b\s*(other day|.*)`)

// keeping begins how long a good keeps, after what is done with it.
var keeping = regexp.MustCompile(`\b(?:(?:keep|store)\b[^.]*\b(?:fridge|refrigerator|freezer|up to|cupboard|cool place|dry place|dark place)|keeps|lasts?|good for|use (?:it )?within)\b`)

// Read proposes steps from prose on how a formula is made. What is not read as
// something that is done stays with the step before it, as a remark; nothing is
// lost. A prose that says nothing that is done gives no steps.
func Read(prose string, r *formula.Resolved) []formula.Step {
	var steps []formula.Step
	taken := make([]bool, len(r.Lines))
	before := "" // what is said before anything is done
	for _, clause := range clauses(prose) {
		clause, waited := nextDay(clause)
		if last := len(steps) - 1; waited && last >= 0 && steps[last].For.IsZero() {
			if w, ok := quantity.FindWait("overnight"); ok {
				steps = append(steps, formula.Step{Kind: formula.Stand, Text: "Until the next day.", For: w})
			}
		}
		if stirsOnly(clause) {
			if stood := standStirred(steps, clause, r.Formula.Kind); stood != nil {
				steps = stood
				continue
			}
		}
		kind, ok := kindOf(clause)
		ok = ok && !forbids.MatchString(clause)
		if _, waits := quantity.FindWait(clause); !ok && waits && !keepsOnly(clause) { // what takes a time is waited for
			kind, ok = waitOf(r.Formula.Kind), true
			clause = waitIn(clause)
		}
		if !ok {
			if len(steps) > 0 {
				last := &steps[len(steps)-1]
				last.Text = strings.TrimSpace(last.Text + " " + sentence(clause))
			} else if len(linesIn(strings.ToLower(clause), r, slices.Clone(taken))) == 0 { // and no list of what goes in
				before = strings.TrimSpace(before + " " + sentence(clause))
			}
			continue
		}
		step := stepOf(kind, clause, r, taken)
		if at := whenDone.FindStringIndex(strings.ToLower(clause)); at != nil && at[0] > 0 && step.Kind.Info().Stage != formula.OnRack && !step.For.IsZero() {
			if last := len(steps) - 1; last >= 0 && steps[last].Kind.Info().Stage == formula.OnRack && steps[last].For.IsZero() {
				steps[last].For = step.For
			}
			step.For = quantity.Wait{}
		}
		if len(steps) == 0 {
			step.Text = strings.TrimSpace(before + " " + step.Text)
		}
		if kind == formula.Fill { // “fill a jar with peel” begins; a jar is filled at the end
			if low := strings.ToLower(clause); len(linesIn(low, r, slices.Clone(taken))) > 0 && (strings.Contains(low, " with ") || pouredInto.MatchString(low)) {
				step.Kind, step.Lines = formula.Mix, linesIn(low, r, taken)
			}
		}
		steps = append(steps, step)
		if last := &steps[len(steps)-1]; last.Kind == formula.MakeUp && !last.For.IsZero() { // “fill up with vinegar, 3 weeks”: it stands when it is full
			stands := formula.Step{Kind: waitOf(r.Formula.Kind), For: last.For, Stir: last.Stir}
			last.For, last.Stir = quantity.Wait{}, quantity.Wait{}
			steps = append(steps, stands)
		}
		if len(steps) >= formula.MaxSteps-2 {
			break
		}
	}
	if len(steps) == 0 {
		return nil
	}
	if steps[0].Kind != formula.Weigh {
		steps = append([]formula.Step{{Kind: formula.Weigh}}, steps...)
	}
	if !slices.ContainsFunc(steps, func(s formula.Step) bool { return s.Kind == formula.Fill }) {
		steps = append(steps, formula.Step{Kind: formula.Fill})
	}
	return steps
}

// waitOf is what a good of a kind does while it is waited for, where nothing more is said.
func waitOf(kind formula.Kind) formula.StepKind {
	info := kind.Info()
	switch {
	case info.Is(formula.Ferments):
		return formula.Ferment
	case info.Is(formula.Infused):
		return formula.Infuse
	}
	return formula.Stand
}

// waitIn is what a clause says of a wait that ends a list: “peel, a cinnamon stick, 2 weeks”.
func waitIn(clause string) string {
	if at := strings.LastIndexByte(clause, ','); at >= 0 {
		if _, waits := quantity.FindWait(clause[:at]); !waits {
			return strings.TrimSpace(clause[at+1:])
		}
	}
	return clause
}

func stepOf(kind formula.StepKind, clause string, r *formula.Resolved, taken []bool) formula.Step {
	low := strings.ToLower(clause)
	if pours := kind == formula.Fill || kind == formula.Mix; pours && (wordIn(low, "moulds") || wordIn(low, "molds") || wordIn(low, "mould") || wordIn(low, "mold")) { // “pour into moulds”
		kind = formula.Press
	}
	s := formula.Step{Kind: kind, Text: sentence(clause)}
	untilEvery, _, _ := strings.Cut(low, "every")
	if at := keeping.FindStringIndex(untilEvery); at != nil && at[0] > 0 { // “strain and keep in the fridge up to two weeks”
		untilEvery = untilEvery[:at[0]]
	}
	if at := useSoon.FindStringIndex(untilEvery); at != nil { // “keep in the fridge and use within a week” waits for nothing
		untilEvery = untilEvery[:at[0]]
	}
	if w, ok := quantity.FindWait(untilEvery); ok {
		s.For = w
	}
	s.Stir = everyIn(low)
	if m := celsius.FindStringSubmatch(clause); m != nil {
		s.Celsius, _ = strconv.ParseFloat(m[1], 64)
	} else if hot := neverHot.ReplaceAllString(low, ""); strings.Contains(hot, "simmer") {
		s.Celsius = 95
	} else if strings.Contains(hot, "boil") {
		s.Celsius = 100
	}
	for _, p := range places {
		if wordIn(low, p) && s.Vessel == "" && kind != formula.Press {
			s.Vessel = p
		}
	}
	if kind == formula.Mix || kind == formula.Add {
		for _, how := range slowly {
			if s.By == "" && !strings.Contains(low, "spray bottle") && slices.ContainsFunc(how.words, func(w string) bool { return strings.Contains(low, w) }) {
				s.By, s.Kind = how.by, formula.Add
			}
		}
	}
	if kind == formula.Dry && (strings.Contains(low, "constant weight") || strings.Contains(low, "by weight")) {
		s.ByWeight = true
	}
	if kind == formula.Strain && strings.Contains(low, "freez") {
		s.Keep = "freezer"
	}
	if kind != formula.Weigh && s.Kind.Info().Stage != formula.AtFilling {
		s.Lines = linesIn(low, r, taken)
	}
	if s.Kind == formula.Add && len(s.Lines) > 0 && s.By == "" {
		s.By = formula.BySpoon
	}
	return s
}

// neverHot is how hot something must not get: “warm it, don't boil”.
var neverHot = regexp.MustCompile(`\b(?:don'?t|do not|never|not|without|don’t|before it(?: starts to)?|avoid|no need to)(?: let it| letting it| it| to)?(?: (?:quite|ever|actually))? (?:boil|simmer)\w*`)

// everyIn is how often a clause says that something is stirred.
func everyIn(clause string) quantity.Wait {
	m := every.FindStringSubmatch(strings.ToLower(clause))
	if m == nil {
		for _, d := range daily {
			if wordIn(strings.ToLower(clause), d.word) {
				if w, err := quantity.ParseWait(d.every); err == nil {
					return w
				}
			}
		}
		return quantity.Wait{}
	}
	m[1], _, _ = strings.Cut(m[1], " for ") // “every day for two weeks”
	if strings.HasPrefix(m[1], "other day") {
		m[1] = "2 days"
	}
	if w, err := quantity.ParseWait(m[1]); err == nil {
		return w
	}
	if w, ok := quantity.FindWait(m[1]); ok {
		return w
	}
	if w, ok := quantity.FindWait("a " + strings.Replace(m[1], "third day", "3 days", 1)); ok {
		return w
	}
	return quantity.Wait{}
}

// standStirred says how often what stands is stirred: of the step before, or of one of its own where that is for a time
// that is waited for, “shake every day for two weeks”; nil where nothing stands.
func standStirred(steps []formula.Step, clause string, kind formula.Kind) []formula.Step {
	often, held := everyIn(clause), heldFor(clause)
	if last := len(steps) - 1; last >= 0 && steps[last].Kind.Info().Stage == formula.OnRack {
		steps[last].Text += " " + sentence(clause)
		if !often.IsZero() && steps[last].Stir.IsZero() { // “burp daily, after that once a week”: the closer one is what is worth being told of
			steps[last].Stir = often
		}
		if steps[last].For.IsZero() {
			steps[last].For = held
		}
		return steps
	}
	if held.IsZero() {
		return nil
	}
	return append(steps, formula.Step{Kind: waitOf(kind), Text: sentence(clause), For: held, Stir: often})
}

// heldFor is for how long a clause says that something is done day by day; zero where it is no whole day.
func heldFor(clause string) quantity.Wait {
	_, after, found := strings.Cut(strings.ToLower(clause), " for ")
	if w, ok := quantity.FindWait(after); found && ok && w.Low >= 24*time.Hour {
		return w
	}
	return quantity.Wait{}
}

// stirsOnly reports whether a clause says no more than how often it is stirred.
func stirsOnly(clause string) bool {
	low := strings.ToLower(clause)
	return tended.MatchString(low) && (!everyIn(low).IsZero() || nowAndAgain.MatchString(low))
}

// tended begins what is done with what stands, again and again.
var tended = regexp.MustCompile(`^(?:stir|shake|swirl|turn|burp|vent|open|loosen|unscrew|release|let the gas|let out)`)

// daily are rhythms that are said in one word.
var daily = []struct{ word, every string }{
	{"twice a day", "12 h"}, {"twice daily", "12 h"}, {"morning and evening", "12 h"}, {"morning and night", "12 h"},
	{"daily", "1 day"}, {"once a day", "1 day"}, {"each day", "1 day"}, {"every day", "1 day"}, {"once a week", "1 week"}, {"weekly", "1 week"}, {"each week", "1 week"},
}

// nowAndAgain is how often something is done that has no rhythm.
var nowAndAgain = regexp.MustCompile(`\b(?:now and (?:again|then)|occasionally|from time to time|once in a while|when you (?:pass|think of it)|when i (?:pass|think of it))\b`)

// useSoon begins how soon a good has to be used.
var useSoon = regexp.MustCompile(`\b(?:use|used|use it|finish it|best) (?:up )?within\b`)

// keptWaiting is what is kept a stated time and no more said: “keep it 90 days”.
var keptWaiting = regexp.MustCompile(`\bkeep (?:it|them) (?:\d|a |one |two |three |four |six )`)

// keepsOnly reports whether a clause says how long a good keeps, or how often it is used.
func keepsOnly(clause string) bool {
	low := " " + strings.ToLower(clause)
	if keptWaiting.MatchString(low) && !keeping.MatchString(low) {
		return false
	}
	for _, w := range []string{"keep", " last", "good for", "shelf", "best", "store", "use ", "per ", "every", "within", "expire", "once a", "twice a", "times a"} {
		if strings.Contains(low, w) {
			return true
		}
	}
	return false
}

// kindOf is what a clause says is done: the first verb in it.
func kindOf(clause string) (kind formula.StepKind, ok bool) {
	clause = madeSo.ReplaceAllString(clause, "$1 $2")
	low := " " + noVerb.Replace(purpose.ReplaceAllString(counted.ReplaceAllString(onceDone.ReplaceAllString(neverHot.ReplaceAllString(strings.ToLower(clause), ""), ""), "it"), "")) + " "
	at, length := len(low), 0
	for _, v := range verbs {
		for _, w := range v.words {
			i := strings.Index(low, " "+w+" ")
			for _, end := range []string{",", ".", ":", "ed ", "s "} {
				if j := strings.Index(low, " "+w+end); j >= 0 && (i < 0 || j < i) && (end != "s " || len(w) > 4) && (end != "ed " || len(w) > 3) {
					i = j
				}
			}
			if i >= 0 && (i < at || i == at && len(w) > length) {
				kind, at, length, ok = v.kind, i, len(w), true
			}
		}
	}
	return kind, ok
}

// madeSo is what something was made into before it was measured, “1 l boiled water”, “200 g grated soap”: no step says so.
var madeSo = regexp.MustCompile(`(?i)((?:\d[\d./]*|½|¼|¾)\s*(?:[a-z]+)?(?: of)?|\b(?:cups?|spoons?|spoonfuls?|teaspoons?|tablespoons?|handfuls?|litres?|liters?|kilos?|grams?|bars?|drops?|pints?|pounds?) of)\s+(?:boiled|cooled|melted|dried|grated|strained|filtered|infused|crushed|chopped|whipped|baked|powdered|warmed|heated)(?: and (?:cooled|dried|strained|filtered))? ([a-z]+)`)

// pouredInto is what is poured into a liquid that was measured, and into no bottle.
var pouredInto = regexp.MustCompile(`^(?:and |then )?(?:pour|tip)(?:ed)? (?:it |this |that |them )?(?:slowly |gently )?in(?:to)? (?:the )?(?:\d|[a-z]+ (?:ml|l|litres?|liters?|cups?|pints?)\b)`)

// purpose is what something is done for, and not what: “so it doesn't dry out”.
var purpose = regexp.MustCompile(`\bso (?:that )?(?:it|they|it's|nothing) (?:doesn'?t|won'?t|can'?t|isn'?t|don'?t|does not|will not|cannot|stays?|keeps?|dries|sets)\b[^,.;]*`)

// whenDone is how long was waited before something is done: “strain after 3 months”.
var whenDone = regexp.MustCompile(`\bafter (?:about |around |some )?(?:\d|a |an |one|two|three|four|five|six|eight|ten|twelve)`)

// forbids begins what is not to be done: “don't mix the two”.
var forbids = regexp.MustCompile(`(?i)^(?:and |but |so |please )?(?:don'?t|don’t|do not|never|avoid|no need to|without)\b`)

// onceDone is when something is done, and not what: “once it has cooled add …”.
var onceDone = regexp.MustCompile(`\b(?:once|when|after|as soon as|until|till)\b(?: (?:it|it's|its|that|that's|they|they've|has|have|is|are|all|the|mixture|soap|everything))* [a-z]+ed\b`)

// counted are bottles and jars that something comes in: “1 bottle vinegar”.
var counted = regexp.MustCompile(`\b(?:\d+|one|two|three|four|half|quarter|big|small|large|empty|clean|old|this|that|another|my|your)\s+(?:a\s+)?(?:bottle|jar|mould|mold)s?\b`)

// noVerb takes words away that look like one: “keep dry” dries nothing.
var noVerb = strings.NewReplacer(" leaves", " it", "patch test", "it", "leave space", "it", "leave some space", "it", "leave room", "it", "leave headspace", "it", "leave a gap", "it", "hand warm", "it", "hand-warm", "it", "still warm", "it", "blood warm", "it", "it's warm", "it", "is warm", "it", "just warm", "it", "a bottle", "it", "the bottle", "it", "plastic bottle", "it", "glass bottle", "it", "litre bottle", "it", "ml bottle", "it", "a jar", "it", "the jar", "it", "glass jar", "it", "litre jar", "it", "mould spray", "it", "mold spray", "it", "spray bottle", "bottle", "off the heat", "off", "warm water", "water", "keep dry", "store", "keep it dry", "store it", "mixed dry", "mixed", "mix dry", "mix", "dry only", "", "stays dry", "")

var (
	stops = regexp.MustCompile(`[\n;]+|[.!]\s+|[.!]$`)
	thens = regexp.MustCompile(`(?i),?\s*(?:\band\s+)?\bthen\b,?\s*|,\s*(?:and\s+)?(?:second|third|fourth|fifth|sixth|finally|lastly|after that|next)\b,?\s+`)
	// so does the next day
	nextDays = regexp.MustCompile(`(?i)(?:,\s*|\s+and\s+)((?:the\s+)?(?:next|following)\s+(?:day|morning)\b)`)
	// a verb after a comma begins something else: “mix, press, dry a day”
	commaVerb = regexp.MustCompile(`(?i)(?:,\s+(?:and\s+)?|\s+(?:and|&)\s+|\s*\(|\s+[–—-]\s+)(?:(?:i|we|you)\s+(?:just\s+)?)?(dissolve|grate|whisk|blend|heat|boil|bring (?:it |this |that |them |the mix(?:ture)? )?to (?:the |a )?(?:rolling |gentle |bare )?(?:boil|simmer)|simmer|warm (?:it |them |all )?(?:gently|slowly|through|up)|gently (?:heat|warm|melt)|strain|filter|press|mould|dry|cure|cool|infuse|steep|ferment|fill|bottle|add|mix|stir in|stir (?:well|it|them|until|till|everything|together|every|daily|once|twice|to dissolve)|stir (?:for )?(?:an?|one|two|three|five|ten|\d+)|leave|let|rest|bake|melt|sieve|pour|decant|cover|soak|mature|wait|flush|rinse|shake|cut|unmould|wipe|ready in|burp|open|vent|pressed|dried|strained|cured|cooled|steeped|soaked|boiled|(?:left|set) (?:overnight|to|for|until|till|in|an?|two|three|four|six|\d+)|squeezed|stirred|melted|poured|bottled|shaken|blended|whisked|whipped|heated|simmered|rested|mashed|pack|push into|roll|shape|tamp|blitz|whizz|mash|crush|chop|combine|sift|fold in|drizzle|mist|spritz|stick[- ]blend|whip|beat|squeeze|turn out|set aside|cook|tip into|spoon into|scoop into)\b`)
)

// clauses parts prose into what is done one after the other: at stops, new lines,
// semicolons, “then”, and a verb after a comma.
func clauses(prose string) []string {
	var out []string
	const kept = "\u00a0" // a space at which nothing is parted: “1 l boiled and cooled water”
	prose = nowAndThen.ReplaceAllString(prose, "$1 and again")
	prose = madeSo.ReplaceAllStringFunc(prose, func(made string) string { return strings.ReplaceAll(made, " and ", kept+"and"+kept) })
	for _, line := range stops.Split(prose, -1) {
		for _, part := range thens.Split(nextDays.ReplaceAllString(commaVerb.ReplaceAllString(line, " then $1"), " then $1"), -1) {
			if part = strings.Trim(part, " ,\t-–•*"); part != "" {
				out = append(out, strings.ReplaceAll(numbered.ReplaceAllString(part, ""), kept, " "))
			}
		}
	}
	return out
}

// tomorrow begins what is done when a night has gone by.
var tomorrow = regexp.MustCompile(`(?i)^(?:(?:and|on)\s+)?(?:the\s+)?(?:next|following)\s+(?:day|morning)\s*,?\s+|^(?:in\s+)?the\s+(?:morning|day after)\s*,?\s+`)

// nextDay takes “next day” off the head of a clause, and reports whether it stood there.
func nextDay(clause string) (rest string, waited bool) {
	if m := tomorrow.FindString(clause); m != "" && len(m) < len(clause) {
		return clause[len(m):], true
	}
	return clause, false
}

// now and then is no next step.
var nowAndThen = regexp.MustCompile(`(?i)\b(now|every now) and then\b`)

var numbered = regexp.MustCompile(`^\d+[.)]\s*`)

// sentence is a clause with a capital and a stop.
func sentence(clause string) string {
	clause = strings.TrimSpace(clause)
	if clause == "" {
		return ""
	}
	return strings.ToUpper(clause[:1]) + clause[1:] + "."
}

// linesIn are the lines whose material a clause names, each taken once: by its own name,
// or by a word for its sort that is no part of another's name.
func linesIn(clause string, r *formula.Resolved, taken []bool) []int {
	if m := allBut.FindStringIndex(clause); m != nil { // “everything but the citric”
		kept := slices.Clone(taken)
		linesIn(clause[m[1]:], r, kept)
		var lines []int
		for i := range r.Lines {
			if !taken[i] && !kept[i] && r.Lines[i].Material != nil {
				lines, taken[i] = append(lines, i), true
			}
		}
		return lines
	}
	var lines []int
	rest := clause
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil {
			continue
		}
		for _, n := range namesOf(l) {
			if many := n + "s"; wordIn(clause, many) { // “the lemons”
				n = many
			} else if !wordIn(clause, n) {
				continue
			}
			if rest = strings.ReplaceAll(rest, n, ""); !taken[i] {
				lines, taken[i] = append(lines, i), true
			}
		}
	}
	for i := range r.Lines {
		if m := r.Lines[i].Material; !taken[i] && m != nil && groupNamed(rest, m) {
			lines, taken[i] = append(lines, i), true
		}
	}
	slices.Sort(lines)
	return lines
}

// allBut begins what is left out of all of it.
var allBut = regexp.MustCompile(`\b(?:everything|all(?: of (?:it|them))?|the lot|the rest)\s+(?:but|except(?: for)?|apart from|bar|besides|other than|minus|save)\s+(?:the\s+)?`)

// namesOf are the names that prose may use of a line.
func namesOf(l *formula.ResolvedLine) []string {
	names := []string{strings.ReplaceAll(strings.ToLower(l.Line.Material), "-", " "), strings.ToLower(l.Material.Name)}
	said := slices.Clone(names)
	for _, n := range l.Material.Also {
		names = append(names, strings.ToLower(n))
	}
	for _, n := range said {
		if words := strings.Fields(n); len(words) > 1 {
			names = append(names, words[len(words)-1]) // vinegar of white vinegar
		}
	}
	return names
}

// groups are words that mean all lines of a sort.
var groups = map[string]string{"powders": "dry", "powder": "dry", "dry ingredients": "dry", "dry things": "dry", "dry stuff": "dry", "dry bits": "dry", "drys": "dry", "dries": "dry", "scent": "scent", "oils": "scent", "nuts": "botanical", "peel": "botanical", "peels": "botanical", "soda": "salts", "acid": "acid", "soap": "soap"}

func groupNamed(clause string, m *material.Material) bool {
	for word, taker := range groups {
		if wordIn(clause, word) && takers[taker](m) {
			return true
		}
	}
	return false
}

// wordIn reports whether a text has a word or words that belong together.
func wordIn(text, word string) bool {
	for from := 0; ; {
		i := strings.Index(text[from:], word)
		if i < 0 || word == "" {
			return false
		}
		i += from
		end := i + len(word)
		if (i == 0 || !isLetter(text[i-1])) && (end == len(text) || !isLetter(text[end])) {
			return true
		}
		from = i + 1
	}
}

func isLetter(b byte) bool { return b|0x20 >= 'a' && b|0x20 <= 'z' || b >= 0x80 }
