package hazard

import (
	"slices"
	"strings"
)

// Signal is the word that stands first on a label.
type Signal uint8

// The signal words. A mixture has the gravest of its statements.
const (
	NoSignal Signal = iota
	Warning
	Danger
)

// String returns "", "warning" or "danger".
func (s Signal) String() string { return [...]string{"", "warning", "danger"}[s] }

// class is what a statement brings with it: signal word and pictogram (CLP, Annex I,
// the tables of label elements of each class), and the precautionary statements that
// serve a household best, the most needed first (Annex IV, and the advice of the
// European agency on choosing few).
type class struct {
	code, name string
	signal     Signal
	pictogram  string
	careful    []string
	disposal   bool // its table asks for P501, how to dispose of it (Annex I, label elements)
	locked     bool // closures that children cannot open (Annex II, 3.1)
	tactile    bool // a warning the blind can feel (Annex II, 3.2)
}

// classes are in the order statements stand on a label: what burns, the body by how
// grave, the water.
var classes = []class{
	{code: "H271", name: "oxidising, category 1", signal: Danger, pictogram: "GHS03", careful: []string{"P220", "P210", "P280"}, disposal: true},
	{code: "H225", name: "flammable liquid, category 2", signal: Danger, pictogram: "GHS02", careful: []string{"P210"}, tactile: true, disposal: true},
	{code: "H228", name: "flammable solid", signal: Warning, pictogram: "GHS02", careful: []string{"P210"}, tactile: true},
	{code: "H272", name: "oxidising", signal: Danger, pictogram: "GHS03", careful: []string{"P220", "P210"}, disposal: true},
	{code: "H226", name: "flammable liquid, category 3", signal: Warning, pictogram: "GHS02", careful: []string{"P210"}, disposal: true},
	{code: "H290", name: "corrosive to metals", signal: Warning, pictogram: "GHS05"},
	{code: "H300", name: "acute toxicity by mouth, category 1 or 2", signal: Danger, pictogram: "GHS06", careful: []string{"P301+P310", "P405"}, locked: true, tactile: true, disposal: true},
	{code: "H310", name: "acute toxicity by skin, category 1 or 2", signal: Danger, pictogram: "GHS06", careful: []string{"P280", "P302+P352", "P310"}, locked: true, tactile: true, disposal: true},
	{code: "H330", name: "acute toxicity by breath, category 1 or 2", signal: Danger, pictogram: "GHS06", careful: []string{"P260", "P304+P340", "P310"}, locked: true, tactile: true, disposal: true},
	{code: "H304", name: "aspiration hazard", signal: Danger, pictogram: "GHS08", careful: []string{"P301+P310", "P331", "P405"}, locked: true, tactile: true, disposal: true},
	{code: "H301", name: "acute toxicity by mouth, category 3", signal: Danger, pictogram: "GHS06", careful: []string{"P301+P310", "P405"}, locked: true, tactile: true, disposal: true},
	{code: "H311", name: "acute toxicity by skin, category 3", signal: Danger, pictogram: "GHS06", careful: []string{"P280", "P302+P352", "P310"}, locked: true, tactile: true, disposal: true},
	{code: "H331", name: "acute toxicity by breath, category 3", signal: Danger, pictogram: "GHS06", careful: []string{"P261", "P304+P340", "P310"}, locked: true, tactile: true, disposal: true},
	{code: "H314", name: "skin corrosion", signal: Danger, pictogram: "GHS05", careful: []string{"P305+P351+P338", "P303+P361+P353", "P301+P330+P331", "P310", "P280", "P405"}, locked: true, tactile: true, disposal: true},
	{code: "H318", name: "serious eye damage", signal: Danger, pictogram: "GHS05", careful: []string{"P305+P351+P338", "P310", "P280"}},
	{code: "H334", name: "sensitising by breath", signal: Danger, pictogram: "GHS08", careful: []string{"P261", "P342+P311"}, tactile: true, disposal: true},
	{code: "H360FD", name: "toxic to reproduction, category 1B", signal: Danger, pictogram: "GHS08", careful: []string{"P308+P313", "P280", "P201", "P405"}, tactile: true, disposal: true},
	{code: "H372", name: "harms organs over time, category 1", signal: Danger, pictogram: "GHS08", careful: []string{"P260"}, tactile: true, disposal: true},
	{code: "H361", name: "toxic to reproduction, category 2", signal: Warning, pictogram: "GHS08", careful: []string{"P308+P313", "P280"}, tactile: true, disposal: true},
	{code: "H371", name: "harms organs at once, category 2", signal: Warning, pictogram: "GHS08", careful: []string{"P260", "P308+P313"}, tactile: true, disposal: true},
	{code: "H373", name: "harms organs over time, category 2", signal: Warning, pictogram: "GHS08", careful: []string{"P260"}, tactile: true, disposal: true},
	{code: "H302", name: "acute toxicity by mouth, category 4", signal: Warning, pictogram: "GHS07", careful: []string{"P301+P312", "P264"}, tactile: true, disposal: true},
	{code: "H312", name: "acute toxicity by skin, category 4", signal: Warning, pictogram: "GHS07", careful: []string{"P280", "P302+P352"}, tactile: true, disposal: true},
	{code: "H332", name: "acute toxicity by breath, category 4", signal: Warning, pictogram: "GHS07", careful: []string{"P261", "P304+P340"}, tactile: true},
	{code: "H315", name: "skin irritation", signal: Warning, pictogram: "GHS07", careful: []string{"P302+P352", "P280"}},
	{code: "H319", name: "eye irritation", signal: Warning, pictogram: "GHS07", careful: []string{"P305+P351+P338", "P337+P313", "P264"}},
	{code: "H317", name: "sensitising by skin", signal: Warning, pictogram: "GHS07", careful: []string{"P333+P313", "P302+P352", "P280"}, disposal: true},
	{code: "H335", name: "irritates the airways", signal: Warning, pictogram: "GHS07", careful: []string{"P261", "P271"}, disposal: true},
	{code: "H336", name: "makes drowsy", signal: Warning, pictogram: "GHS07", careful: []string{"P261", "P271"}, disposal: true},
	{code: "H400", name: "hazardous to water life at once, category 1", signal: Warning, pictogram: "GHS09", careful: []string{"P273", "P391"}, disposal: true},
	{code: "H410", name: "hazardous to water life over time, category 1", signal: Warning, pictogram: "GHS09", careful: []string{"P273", "P391"}, disposal: true},
	{code: "H411", name: "hazardous to water life over time, category 2", pictogram: "GHS09", careful: []string{"P273", "P391"}, disposal: true},
	{code: "H412", name: "hazardous to water life over time, category 3", careful: []string{"P273"}, disposal: true},
	{code: "EUH031", name: "frees toxic gas with acid"},
	{code: "EUH206", name: "chlorine with other products"},
	{code: "EUH208", name: "holds a sensitiser"},
}

var classByCode = func() map[string]*class {
	by := make(map[string]*class, len(classes))
	for i := range classes {
		by[classes[i].code] = &classes[i]
	}
	return by
}()

func classOf(code string) *class { return classByCode[code] }

// drops are the statements that say no more beside another (CLP, Article 27 and
// Annex III).
var drops = map[string][]string{
	"H314": {"H315", "H318", "H319"}, "H318": {"H319"},
	"H410": {"H400", "H411", "H412"}, "H411": {"H412"},
	"H300": {"H301", "H302"}, "H301": {"H302"}, "H310": {"H311", "H312"}, "H311": {"H312"}, "H330": {"H331", "H332"}, "H331": {"H332"},
	"EUH206": {"EUH031"}, "H317": {"EUH208"},
}

// Pictograms are the symbols of the statements (CLP, Article 26: the exclamation
// mark is left out where a graver symbol speaks of the same), in the order of their
// numbers.
func pictograms(codes []string) (out []string) {
	has := func(code string) bool { return slices.Contains(codes, code) }
	for _, code := range codes {
		if c := classOf(code); c.pictogram != "" && !slices.Contains(out, c.pictogram) {
			out = append(out, c.pictogram)
		}
	}
	mark := func() bool { // whether anything is left for the exclamation mark to tell
		for _, code := range codes {
			if classOf(code).pictogram != "GHS07" {
				continue
			}
			ofSkinOrEyes := code == "H315" || code == "H319"
			switch {
			case slices.Contains(out, "GHS06"):
			case ofSkinOrEyes && (has("H314") || has("H318")):
			case (ofSkinOrEyes || code == "H317") && has("H334"):
			default:
				return true
			}
		}
		return false
	}
	if !mark() {
		out = slices.DeleteFunc(out, func(p string) bool { return p == "GHS07" })
	}
	slices.Sort(out)
	return out
}

// mostPrecautions is how many precautionary statements a label carries (CLP, Article
// 28: not more than six unless the hazards need them).
const mostPrecautions = 6

// precautions are the statements of prudence for hazards, few and the most needed
// first: for the public always that children are kept away from it (Annex IV).
func precautions(all []string) []string {
	codes := slices.DeleteFunc(slices.Clone(all), func(code string) bool { return strings.HasPrefix(code, "EUH") })
	if len(codes) == 0 {
		return nil
	}
	out := []string{"P102"}
	if slices.ContainsFunc(codes, func(code string) bool { return classOf(code).disposal }) {
		out = append(out, "P501") // for the public one of them is never left out (Article 28(2))
	}
	for depth := 0; len(out) < mostPrecautions; depth++ {
		more := false
		for _, code := range codes {
			careful := classOf(code).careful
			if depth >= len(careful) {
				continue
			}
			more = true
			if p := careful[depth]; !slices.Contains(out, p) && !covered(out, p) && len(out) < mostPrecautions {
				out = append(out, p)
			}
		}
		if !more {
			break
		}
	}
	slices.Sort(out)
	return out
}

// covered reports whether another statement says as much already.
func covered(said []string, p string) bool {
	has := func(code string) bool { return slices.Contains(said, code) }
	switch p {
	case "P310":
		return has("P301+P310")
	case "P301+P312":
		return has("P301+P310") || has("P301+P330+P331")
	case "P331":
		return has("P301+P330+P331")
	case "P302+P352":
		return has("P303+P361+P353")
	case "P337+P313":
		return has("P310")
	case "P261":
		return has("P260")
	}
	return false
}
