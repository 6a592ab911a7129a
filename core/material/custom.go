package material

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"keencrock/core/quantity"
)

// Own is a material of a workshop's own, as its maker says it. What is left
// out is as in the material it is like.
type Own struct {
	ID    string // of [CustomID]; kept when the name changes
	Name  string
	Label string // as it stands in an ingredient list; as in Like, else the name
	Also  []string

	// Like is a shipped material it has the nature and the dangers of: another
	// strength, grade or brand of it. Empty for what is like nothing here; then
	// Form and Function are needed, and a caution says that its dangers are
	// not known.
	Like           string
	Form, Function string

	Strength   float64        // share by mass of what works in it, 0 to 1; zero as in Like
	Density    quantity.Range // g/ml; zero as in Like, or not known
	PieceG     float64        // of one bar, nut, tab; zero as in Like
	SealedDays int            // zero as in Like, else a year
	OpenDays   int            // zero as in Like, else half of it
	Note       string

	// Statements are the hazard statements of its safety data sheet, NoHazards that it
	// has none; neither leaves them as in Like, or unknown.
	Statements []string
	NoHazards  bool
}

// CustomError is what is wrong with an own material, and in which of its fields.
type CustomError struct{ Field, Detail string }

func (e *CustomError) Error() string { return e.Detail }

// CustomID makes an id of a name: "own-" and the name in small letters.
func CustomID(name string) string {
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	return "own-" + strings.Join(words, "-")
}

// Forms lists the forms its materials have.
func (l *Library) Forms() []string {
	var forms []string
	for _, m := range l.materials {
		if !slices.Contains(forms, m.Form) {
			forms = append(forms, m.Form)
		}
	}
	slices.Sort(forms)
	return forms
}

// strangers are the tags of what is like nothing here, by its function. Acids,
// alkalis and soaps keep what is known of their kind; a bleach has to be like
// one that is known, since what it must not meet depends on which it is.
var strangers = map[string]Tags{
	"abrasive": 0, "acid": Acid, "alkali": Alkali, "binder": 0, "botanical": Botanical | Organic | Perishable, "buffer": 0,
	"builder": 0, "chelant": Chelant, "colour": 0, "deodoriser": 0, "filler": 0, "humectant": Humectant | Organic,
	"oil": Oil | Organic, "preservative": Preservative, "salt": Salt, "scent": ScentOil | Organic, "soap": Soap | Organic,
	"solvent": Alcohol | Flammable | Organic, "sugar": Sugar | Organic, "surfactant": Surfactant | Organic,
	"thickener": Thickener | Organic,
}

// CustomFunctions lists what a material that is like nothing here can be for.
func CustomFunctions() []string {
	names := make([]string, 0, len(strangers))
	for name := range strangers {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// Lives, in days, of what is like nothing here. From memory: short enough to
// be looked at before it is trusted.
const (
	strangerSealedDays = 365
	strangerOpenDays   = 180
)

// muchStronger is how many times as strong as what it is like a material may be
// before it can have dangers of its own. From memory: peroxide and acids bleach
// or burn skin at a few times the strength of the household.
const muchStronger = 1.5

// Material makes a material of it, to be given to [Library.With]. The error is
// an [*CustomError].
func (o *Own) Material(shipped *Library) (*Material, error) {
	m, err := o.nature(shipped)
	if err != nil {
		return nil, err
	}
	m.ID, m.Name, m.Own = o.ID, strings.TrimSpace(o.Name), true
	if m.Name == "" || m.ID == CustomID("") {
		return nil, &CustomError{"name", "Give it a name of letters."}
	}
	m.Label = cmp.Or(strings.TrimSpace(o.Label), m.Label, m.Name)
	m.Also, m.Note = slices.Clone(o.Also), o.Note
	if o.Strength > 0 {
		if err := o.strengthen(m); err != nil {
			return nil, err
		}
	}
	if o.Density != (quantity.Range{}) {
		m.Density = Figure{o.Density, CustomSource}
	}
	if o.PieceG > 0 {
		m.Piece = Figure{quantity.Exactly(o.PieceG), CustomSource}
		m.PieceUnit = cmp.Or(m.PieceUnit, "piece")
	}
	if err := o.classify(m); err != nil {
		return nil, err
	}
	return m, o.life(m)
}

// classify takes over what its safety data sheet says, which goes before what it is like.
func (o *Own) classify(m *Material) error {
	switch {
	case o.NoHazards && len(o.Statements) > 0:
		return &CustomError{"hazards", "Its sheet has hazard statements, or it has none."}
	case o.NoHazards:
		m.Hazards = Hazards{Source: CustomSource}
	case len(o.Statements) > 0:
		m.Hazards = Hazards{Source: CustomSource}
		for _, s := range o.Statements {
			code := strings.ToUpper(strings.TrimSpace(s))
			if !statementForm.MatchString(code) {
				return &CustomError{"hazards", fmt.Sprintf("“%s” is no hazard statement: write its code, such as H318.", s)}
			}
			m.Hazards.Statements = append(m.Hazards.Statements, code)
		}
	}
	return nil
}

var statementForm = regexp.MustCompile(`^(H[2-4]\d\d[FD]{0,2}|EUH\d\d\d)$`)

// nature is what it has of the material it is like, or of its function.
func (o *Own) nature(shipped *Library) (*Material, error) {
	if o.Like != "" {
		like, err := shipped.Find(o.Like)
		if err != nil {
			return nil, &CustomError{"like", err.Error()}
		}
		m := *like
		m.Like = like.Nature()
		return &m, nil
	}
	tags, known := strangers[o.Function]
	switch {
	case o.Function == "bleach":
		return nil, &CustomError{"like", "Say which bleach it is like: what it must not meet depends on that."}
	case !known:
		return nil, &CustomError{"function", fmt.Sprintf("Say what it is like, or what it is for: %s.", strings.Join(CustomFunctions(), ", "))}
	case !slices.Contains(shipped.Forms(), o.Form):
		return nil, &CustomError{"form", fmt.Sprintf("Say what form it has: %s.", strings.Join(shipped.Forms(), ", "))}
	}
	m := &Material{Form: o.Form, Functions: []string{o.Function}, Tags: tags | Stranger,
		Keeps: Life{SealedDays: strangerSealedDays, OpenDays: strangerOpenDays, Source: CustomSource}}
	if m.Liquid() {
		m.Tags |= Wet
	} else {
		m.Tags |= Dry
	}
	if o.Form == "powder" && o.Function == "abrasive" {
		m.Tags |= FineDust
	}
	if o.soundsOfChlorine() {
		m.Tags |= Chlorine
	}
	return m, nil
}

// chlorineWords are in the names of what frees chlorine, whatever it is for.
var chlorineWords = []string{"chlorine", "hypochlor", "chlorinat", "dichlor", "trichlor", "bleach", "javel"}

// otherBleach are in the names of bleaches that free none.
var otherBleach = []string{"oxygen", "percarbonate", "perborate", "peroxide", "chlorine-free", "chlorine free", "colour-safe", "color-safe", "colour safe", "color safe", "without chlorine", "no chlorine", "sunlight"}

// soundsOfChlorine reports whether a name, an other name, the label or the note
// speaks of chlorine: it is then kept from acid and ammonia as bleach is.
func (o *Own) soundsOfChlorine() bool {
	about := strings.ToLower(strings.Join(append([]string{o.Name, o.Label, o.Note}, o.Also...), "\n"))
	has := func(words []string) bool {
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(about, w) })
	}
	return has(chlorineWords) && !has(otherBleach)
}

// strengthen sets how much of what works is in it; water makes up the rest
// where there is water.
func (o *Own) strengthen(m *Material) error {
	at := slices.IndexFunc(m.MakeUp, func(c Component) bool { return c.Of != "water" })
	if at < 0 {
		return &CustomError{"strength", "Only what is a mixture has a strength. Say what it is like: a vinegar, a peroxide, a liquid soap."}
	}
	if o.Strength > muchStronger*m.MakeUp[at].Share.High {
		m.Tags |= Stranger
	}
	makeUp := slices.Clone(m.MakeUp)
	makeUp[at].Share = Figure{quantity.Exactly(o.Strength), CustomSource}
	rest := quantity.Exactly(1)
	for _, c := range makeUp {
		if c.Of != "water" {
			rest = quantity.Range{Value: rest.Value - c.Share.Value, Low: rest.Low - c.Share.High, High: rest.High - c.Share.Low}
		}
	}
	if rest.Value < -1e-9 {
		return &CustomError{"strength", quantity.FormatFigures(100*o.Strength, 3) + " % leaves no room for what else is in it."}
	}
	m.MakeUp = slices.DeleteFunc(makeUp, func(c Component) bool { return c.Of == "water" })
	if len(m.MakeUp) < len(makeUp) && rest.Low > 0 {
		m.MakeUp = append(m.MakeUp, Component{"water", Figure{rest, CustomSource}})
	}
	return nil
}

func (o *Own) life(m *Material) error {
	if o.SealedDays > 0 {
		m.Keeps = Life{SealedDays: o.SealedDays, OpenDays: max(1, o.SealedDays/2), Source: CustomSource}
	}
	if o.OpenDays > 0 {
		m.Keeps.OpenDays, m.Keeps.Source = o.OpenDays, CustomSource
	}
	if m.Keeps.OpenDays > m.Keeps.SealedDays {
		return &CustomError{"open_days", fmt.Sprintf("Open it cannot keep longer than sealed, which is %d days.", m.Keeps.SealedDays)}
	}
	return nil
}
