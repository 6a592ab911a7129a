package listener

// phaseSaid is a part of a good that is mixed by itself, and from which token on it is listed.
type phaseSaid struct {
	from int
	name string
}

// Words that a head of a phase is made of: what it is one of, and which one. “Dry” and its like
// say both.
var (
	phases      = wordSet("phases")
	phaseWhich  = wordSet("phaseWhich")
	phasesAlone = wordSet("phasesAlone")
)

// phaseNamed is the phase that a head from lo to hi names: “dry”, “part B”, “second bowl”; empty
// for one that names none.
func (r *reader) phaseNamed(lo, hi int) string {
	is, which := false, false
	for i := r.out[lo].from; i < r.out[hi-1].to; i++ {
		switch w := r.toks[i].word; {
		case phasesAlone[w]:
			is, which = true, true
		case phases[w]:
			is = true
		case phaseWhich[w]:
			which = true
		case articles[w] || openings[w] || w == "ingredients" || w == "things" || is && (w == "stuff" || w == "bits") || !is && (w == "start" || w == "with") || w == "next":
		default:
			return ""
		}
	}
	if !is || !which {
		return ""
	}
	return within(phaseLetters, trimOpening(r.asSaid(r.out[lo].from, r.out[hi-1].to)))
}

// phaseAfter reads the phase that follows the name of a good at once, “Bath bombs: dry: 200 g …”: the mark
// behind it; the same mark where none stands there.
func (r *reader) phaseAfter(lo, hi int) int {
	for k := lo + 1; k < min(hi, lo+4); k++ {
		if r.out[k].kind != aColon {
			continue
		}
		name := r.phaseNamed(lo, k)
		if name == "" {
			return lo
		}
		r.becomes(r.out[lo].from, r.out[k].to, AsRemark, nil)
		r.good.phases = append(r.good.phases, phaseSaid{r.out[k].to, name})
		return k + 1
	}
	return lo
}

// phaseLetters is how long the name of a phase may be; the formula format's.
const phaseLetters = 40

// intoPhases gives the lines of a good the phases they were listed under.
func (g *Good) intoPhases() {
	for _, l := range g.lines {
		for _, p := range g.phases {
			if l.from >= p.from {
				l.Phase = p.name
			}
		}
	}
}
