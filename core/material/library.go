package material

import (
	"cmp"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"github.com/agnivade/levenshtein"

	"keencrock/core/chem"
	"keencrock/core/quantity"
)

//go:embed library/*.json
var shipped embed.FS

// families are the files of the library, a family of materials each, in the
// order they are listed.
var families = []string{"alkalis", "acids", "chelants", "salts", "bleaches", "soaps", "surfactants", "thickeners", "fillers", "preservatives",
	"solvents", "oils", "scents", "plants", "foods"}

// Library finds materials by id or by any name in use. It is safe for use by
// many goroutines once made.
type Library struct {
	materials []*Material
	pure      map[string]*Substance // what mixtures are made of and nobody buys by itself
	folded    [][]string            // of each material: its id and names, folded
	byName    map[string]*Material  // by those
	witnesses map[string][]Witness
	sources   map[string]string

	spotting sync.Once
	spotter  *Spotter
}

// Shipped returns the library that ships with the application. It panics
// when the embedded data is not valid, which a test rules out.
var Shipped = sync.OnceValue(func() *Library {
	lib, err := load()
	if err != nil {
		panic(fmt.Sprintf("material: %v", err))
	}
	return lib
})

// materialEntry is the shape of a row in library/.
type materialEntry struct {
	ID, Name, Label string
	Also            []string
	Form, Formula   string
	Functions, Tags []string
	MakeUp          []componentEntry
	Density, Piece  *figureEntry
	DrinksAtRH      *figureEntry
	DrinksNone      bool
	PH              *figureEntry
	Saponifies      *figureEntry
	Keeps           Life
	Hazards         Hazards
	Declares        Declared
	Allergens       map[string]*figureEntry
	Note            string
	Kin             []string
}

type componentEntry struct {
	Of string
	figureEntry
}

type figureEntry struct {
	Unit             string
	Low, Value, High float64
	Source           string
}

func (f *figureEntry) figure() Figure {
	if f == nil {
		return Figure{}
	}
	return Figure{quantity.Range{Value: f.Value, Low: f.Low, High: f.High}, f.Source}
}

func load() (*Library, error) {
	lib := &Library{byName: map[string]*Material{}}
	if err := readFile("sources", &lib.sources); err != nil {
		return nil, err
	}
	lib.sources[CustomSource] = "measured in your workshop"
	if err := lib.readSubstances(); err != nil {
		return nil, err
	}
	for _, family := range families {
		var rows []materialEntry
		if err := readFile(family, &rows); err != nil {
			return nil, err
		}
		for _, e := range rows {
			m, err := e.material()
			if err != nil {
				return nil, fmt.Errorf("material %s: %w", e.ID, err)
			}
			if err := lib.add(m); err != nil {
				return nil, err
			}
		}
	}
	if err := lib.nameFragrances(); err != nil {
		return nil, err
	}
	lib.nameFormulas()
	return lib, lib.readWitnesses()
}

// Witness is what a material has to come out as in a screen, at a share of a powder that
// otherwise holds nothing that is classed: just at a limit of its statements, just under it,
// and by itself. It holds the row: who changes that has to say so here.
type Witness struct {
	Share float64
	Codes []string
}

// Witnesses are what the shipped materials have to come out as, by id.
func (l *Library) Witnesses() map[string][]Witness { return l.witnesses }

// readWitnesses reads what holds the rows. A row without one does not load; neither does one
// that says neither what it is classed as, nor that it is not, nor that it is not known.
func (l *Library) readWitnesses() error {
	if err := readFile("witnesses", &l.witnesses); err != nil {
		return err
	}
	for _, m := range l.materials {
		h := &m.Hazards
		switch _, parts := l.components(m); {
		case len(l.witnesses[m.ID]) == 0:
			return fmt.Errorf("material %s has no witness of its hazards", m.ID)
		case parts && (len(h.Statements) > 0 || h.Unknown):
			return fmt.Errorf("material %s is classed by its parts: its own statements are never read", m.ID)
		case !parts && len(h.Statements) == 0 && h.None == "" && !h.Unknown:
			return fmt.Errorf("material %s says neither its hazards, nor that it has none, nor that they are not known", m.ID)
		case h.None != "" && l.sources[h.None] == "":
			return fmt.Errorf("that material %s is not classed has no source", m.ID)
		}
	}
	return nil
}

// readSubstances reads what mixtures are made of.
func (l *Library) readSubstances() error {
	var rows map[string]struct {
		Name string
		Hazards
	}
	if err := readFile("substances", &rows); err != nil {
		return err
	}
	l.pure = map[string]*Substance{}
	for id, row := range rows {
		if err := row.Hazards.validate(); err != nil {
			return fmt.Errorf("substance %s: %w", id, err)
		}
		l.pure[id] = &Substance{ID: id, Name: row.Name, Hazards: row.Hazards}
	}
	return nil
}

func readFile(name string, into any) error {
	f, err := shipped.Open("library/" + name + ".json")
	if err != nil {
		return err
	}
	defer f.Close()
	d := json.NewDecoder(f)
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		return fmt.Errorf("library/%s.json: %w", name, err)
	}
	return nil
}

func (e materialEntry) material() (*Material, error) {
	m := &Material{
		ID: e.ID, Name: e.Name, Label: e.Label, Also: e.Also, Form: e.Form,
		Functions: e.Functions, Formula: e.Formula, Note: e.Note, Kin: e.Kin,
		Density: e.Density.figure(), Piece: e.Piece.figure(), DrinksAt: e.DrinksAtRH.figure(),
		DrinksNone: e.DrinksNone, PH: e.PH.figure(), Saponifies: e.Saponifies.figure(),
		Keeps: e.Keeps, Hazards: e.Hazards, Declares: e.Declares,
	}
	for name, share := range e.Allergens {
		if m.Allergens == nil {
			m.Allergens = map[string]Figure{}
		}
		m.Allergens[name] = share.figure()
	}
	if e.Piece != nil {
		m.PieceUnit = e.Piece.Unit
	}
	for _, c := range e.MakeUp {
		m.MakeUp = append(m.MakeUp, Component{c.Of, c.figure()})
	}
	for _, name := range e.Tags {
		t, err := ParseTag(name)
		if err != nil {
			return nil, err
		}
		m.Tags |= t
	}
	return m, nil
}

// add validates a material and makes it findable.
func (l *Library) add(m *Material) error {
	if m.Formula != "" {
		mass, err := chem.MolarMass(m.Formula)
		if err != nil {
			return fmt.Errorf("material %s: %w", m.ID, err)
		}
		m.MolarMass = mass
	}
	if err := l.validate(m); err != nil {
		return fmt.Errorf("material %s: %w", m.ID, err)
	}
	var names []string
	for _, name := range append([]string{m.ID, m.Name}, m.Also...) {
		key := fold(name)
		if other, taken := l.byName[key]; taken && other != m {
			return &TakenError{Material: m.ID, Name: name, Other: other.Name}
		}
		l.byName[key] = m
		names = append(names, key)
	}
	if key := fold(m.Formula); len(key) > 2 && !strings.ContainsAny(key, "·()") { // “Na2CO3”, of the first that has it
		if _, taken := l.byName[key]; !taken {
			l.byName[key] = m
			names = append(names, key)
		}
	}
	for _, key := range oilNames(m, names) {
		if _, taken := l.byName[key]; !taken {
			l.byName[key] = m
			names = append(names, key)
		}
	}
	l.materials, l.folded = append(l.materials, m), append(l.folded, names)
	return nil
}

// oilNames are the other ways in which the names of an oil are said: “oil of cloves”, and
// of a scent “essential oil of lemon”, “lemon EO”.
func oilNames(m *Material, names []string) (out []string) {
	if !m.Is(ScentOil) && !m.Is(Oil) {
		return nil
	}
	for _, plant := range m.Kin {
		out = append(out, fold(plant)+" oil")
	}
	for _, key := range slices.Concat(names, out) {
		plant, of := strings.CutSuffix(key, " oil")
		if plant = strings.TrimSuffix(plant, " essential"); !of || plant == "" || strings.Contains(plant, "fragrance") || strings.HasPrefix(plant, "scent") {
			continue
		}
		out = append(out, "oil of "+plant)
		if m.Is(ScentOil) {
			out = append(out, plant+" essential oil", plant+" eo", "essential oil of "+plant, "essential oil "+plant, "eo of "+plant, "eo "+plant)
		}
	}
	return out
}

// TakenError is a name that means another material already.
type TakenError struct{ Material, Name, Other string }

func (e *TakenError) Error() string {
	return fmt.Sprintf("material %s: the name “%s” already means %s", e.Material, e.Name, e.Other)
}

// Functions a material may serve.
var knownFunctions = []string{
	"abrasive", "acid", "alkali", "binder", "bleach", "botanical", "buffer",
	"builder", "chelant", "colour", "deodoriser", "filler", "humectant", "oil",
	"preservative", "salt", "scent", "soap", "solvent", "sugar", "surfactant",
	"thickener",
}

func (l *Library) validate(m *Material) error {
	if m.ID == "" || m.Name == "" || m.Label == "" {
		return errors.New("needs an id, a name and a label name")
	}
	if len(m.Functions) == 0 {
		return errors.New("needs at least one function")
	}
	for _, f := range m.Functions {
		if !slices.Contains(knownFunctions, f) {
			return fmt.Errorf("function %q is not known", f)
		}
	}
	if err := errors.Join(m.Hazards.validate(), m.Declares.validate()); err != nil {
		return err
	}
	figures := map[string]Figure{"density": m.Density, "piece": m.Piece, "humidity": m.DrinksAt, "pH": m.PH, "saponification value": m.Saponifies}
	if err := formNeeds(m); err != nil {
		return err
	}
	share := 0.0
	for _, c := range m.MakeUp {
		figures["share of "+c.Of] = c.Share
		share += c.Share.Low
	}
	if share > 1 {
		return errors.New("its make-up is more than the whole")
	}
	for what, f := range figures {
		if !f.Known() {
			continue
		}
		least := math.SmallestNonzeroFloat64
		if what == "pH" {
			least = leastPH
		}
		if f.Low < least || f.Low > f.Value || f.Value > f.High {
			return fmt.Errorf("%s: %g ≤ %g ≤ %g does not hold", what, f.Low, f.Value, f.High)
		}
		if l.sources[f.Source] == "" {
			return fmt.Errorf("%s has no source", what)
		}
	}
	if m.Density.Known() && m.Density.High > 5 {
		return fmt.Errorf("a density of %g g/ml is heavier than any powder here", m.Density.High)
	}
	if m.Keeps.SealedDays <= 0 || m.Keeps.OpenDays <= 0 || m.Keeps.OpenDays > m.Keeps.SealedDays {
		return errors.New("needs a life sealed and a shorter one open")
	}
	return nil
}

// leastPH is below any that is met: zero is no end of the scale, and strong acids lie
// beneath it (concentrated hydrochloric acid about −1, from memory).
const leastPH = -3

// formNeeds holds what each form must have said: whether what is dry drinks
// water from the air, and how heavy what is measured by spoons is.
func formNeeds(m *Material) error {
	if m.Own {
		return nil // what is not known of it is asked for where it is needed
	}
	switch {
	case !m.Density.Known():
		return errors.New("needs a density")
	case m.Is(Dry) && m.DrinksAt.Known() == m.DrinksNone:
		return errors.New("is dry: needs the humidity it drinks at, or that none is known")
	case m.Form == "bar" && !m.Piece.Known():
		return errors.New("is a bar: needs the mass of one")
	}
	return nil
}

// All returns every material in library order. The slice is the caller's;
// the materials are shared and must not be changed.
func (l *Library) All() []*Material { return slices.Clone(l.materials) }

// Source returns the words for a source key: a publication, "common
// practice" or "from memory".
func (l *Library) Source(key string) string { return l.sources[key] }

// Find returns the material of an id or any name in use. The error is an
// [*UnknownError] with the nearest names.
func (l *Library) Find(name string) (*Material, error) {
	if m, ok := l.byName[name]; ok { // ids and folded names without more work
		return m, nil
	}
	key := fold(name)
	if m := l.lookUp(key); m != nil {
		return m, nil
	}
	return nil, &UnknownError{Name: name, lib: l}
}

// folding makes hyphens spaces and apostrophes nothing.
var folding = strings.NewReplacer("-", " ", "_", " ", "’", "", "'", "", "%", " %", "‐", " ", "–", " ")

// fold makes names comparable: lower case, single spaces, no hyphens.
func fold(name string) string {
	return strings.Join(strings.Fields(folding.Replace(strings.ToLower(name))), " ")
}

// UnknownError is a name no material has.
type UnknownError struct {
	Name string
	lib  *Library // whose names it was not among; nil for what is no name at all
}

// Nearest returns up to three materials whose names come closest. It is
// worked out when asked for: most readings that find no name go on with
// another.
func (e *UnknownError) Nearest() []string {
	if e.lib == nil {
		return nil
	}
	if meant := e.lib.meant(fold(e.Name)); len(meant) > 0 {
		return meant
	}
	return e.lib.nearest(fold(e.Name))
}

func (e *UnknownError) Error() string {
	nearest := e.Nearest()
	if e.lib != nil && len(e.lib.meant(fold(e.Name))) > 0 {
		return fmt.Sprintf("“%s” can be several things: which of %s is it?", e.Name, strings.Join(nearest, ", "))
	}
	if len(nearest) == 0 {
		return fmt.Sprintf("no material is called “%s”", e.Name)
	}
	return fmt.Sprintf("no material is called “%s”: did you mean %s?", e.Name, strings.Join(nearest, ", "))
}

// A name this far away (see [distance]) is not near.
const tooFar = 0.55

func (l *Library) nearest(key string) []string {
	type scored struct {
		name  string
		score float64
	}
	var best []scored
	words := strings.Fields(key)
	for i, m := range l.materials {
		top := 1.0
		for _, name := range l.folded[i] {
			top = min(top, distance(key, words, name))
		}
		if top < tooFar {
			best = append(best, scored{m.Name, top})
		}
	}
	slices.SortStableFunc(best, func(a, b scored) int { return cmp.Compare(a.score, b.score) })
	names := make([]string, 0, 3)
	for _, b := range best[:min(3, len(best))] {
		names = append(names, b.name)
	}
	return names
}

// distance is 0 for the same name and 1 for nothing alike; a whole word in
// common counts for much. What their lengths alone keep apart is not
// compared letter by letter.
func distance(key string, words []string, name string) float64 {
	longer := float64(max(len(key), len(name)))
	share := func(d float64) float64 { return d }
	for _, word := range words {
		if len(word) > 3 && slices.Contains(strings.Fields(name), word) {
			share = func(d float64) float64 { return min(d, 0.2+d/2) }
			break
		}
	}
	if share(math.Abs(float64(len(key)-len(name)))/longer) >= tooFar {
		return 1
	}
	return share(float64(levenshtein.ComputeDistance(key, name)) / longer)
}

// With returns a library in which the given materials are added, or replace
// shipped ones of the same id. Give changed copies: `m := *found`. An error
// names the material that is not sound.
func (l *Library) With(own ...Material) (*Library, error) {
	if len(own) == 0 {
		return l, nil
	}
	replaced := map[string]bool{}
	for i := range own {
		replaced[own[i].ID] = true
	}
	next := &Library{byName: map[string]*Material{}, sources: l.sources, pure: l.pure}
	for _, m := range l.materials {
		if !replaced[m.ID] {
			if err := next.add(m); err != nil {
				return nil, err
			}
		}
	}
	for i := range own {
		m := own[i]
		if err := next.add(&m); err != nil {
			return nil, err
		}
	}
	next.nameFragrances()
	return next, nil
}
