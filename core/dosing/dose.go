package dosing

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/material"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

// Soil is how dirty a load is.
type Soil string

// How dirty a load may be, and what that does to what is wanted of the wash. From
// memory: the label scales of detergents go from three quarters to one and a half.
const (
	Light  Soil = "light"
	Normal Soil = "normal"
	Heavy  Soil = "heavy"
)

var soils = map[Soil]float64{Light: 0.75, Normal: 1, Heavy: 1.5}

// ParseSoil reads a soil; empty is normal.
func ParseSoil(s string) (Soil, error) {
	if s == "" {
		return Normal, nil
	}
	if _, ok := soils[Soil(s)]; !ok {
		return "", fmt.Errorf("soil is light, normal or heavy, not “%s”", s)
	}
	return Soil(s), nil
}

// Wanted is what a good is to bring about in its water. Zero values want nothing.
type Wanted struct {
	AlkalinityGPerL float64 // at least, free, as Na2O
	HardnessLeft    float64 // at most, mmol/l; none wanted where it is negative
	SoapLeftGPerL   float64 // at least, of soap that is still soap
	SourBelow       float64 // a pH at most
	PHAbove         float64 // a pH at least
	PHBelow         float64 // a pH that must not be passed
}

// What is wanted of each use at normal soil. From memory, as the mains of household
// products give it: a wash liquor of 0.25 g/l Na2O at pH 9 to 11.3; soap from 0.2 g/l
// on makes suds that stay; a dishwasher's water at 0.5 g/l Na2O and hardness under
// 0.4 mmol/l, above which film stays; a last rinse below pH 7; a bowl below pH 5 where
// limescale is to go.
var wants = map[string]Wanted{
	"laundry":  {AlkalinityGPerL: 0.25, SoapLeftGPerL: 0.2, HardnessLeft: 0.4, PHBelow: 11.3},
	"dishes":   {AlkalinityGPerL: 0.5, HardnessLeft: 0.4, PHBelow: 12},
	"surfaces": {AlkalinityGPerL: 0.5, SoapLeftGPerL: 0.5, HardnessLeft: -1, PHBelow: 11.5},
	"toilet":   {HardnessLeft: -1, SourBelow: 5},
}

// sourBelow is what a sour good is for, by what it is used on: a last rinse that leaves no
// lime, a surface and a bowl that lime comes off. From memory: chalk dissolves within
// minutes below about pH 4, slowly up to 5.
var sourBelow = map[string]float64{"laundry": 7, "dishes": 7, "surfaces": 4, "toilet": 5}

// WantedOf is what can be asked of a good: nothing of what it has none of. Shares are of
// what is in it beside water, so that a liquid is asked for what a powder is.
func WantedOf(r *formula.Resolved, soil Soil) Wanted {
	info := r.Formula.Kind.Info()
	w := wants[info.UsedOn]
	c := contentsOf(r)
	if info.Kind == "rinse-aid" || c.acidEq > c.alkaliEq && c.acid >= 0.02 && c.soap < 0.03 {
		return Wanted{HardnessLeft: -1, SourBelow: sourBelow[info.UsedOn]} // sour is dosed by what sour does
	}
	if c.soap < 0.03 {
		w.SoapLeftGPerL = 0
	}
	if c.alkali < 0.1 {
		w.AlkalinityGPerL = 0
	}
	if c.alkali < 0.1 && c.chelant < 0.02 || w.SoapLeftGPerL > 0 { // soap that is left tells it already
		w.HardnessLeft = -1
	}
	if c.acid < 0.02 {
		w.SourBelow = 0
	}
	factor := soils[soil]
	w.AlkalinityGPerL *= factor
	w.SoapLeftGPerL *= factor
	return w
}

// nothing reports whether anything is wanted at all.
func (w Wanted) nothing() bool {
	return w.AlkalinityGPerL == 0 && w.SoapLeftGPerL == 0 && w.HardnessLeft < 0 && w.SourBelow == 0
}

// contents are shares of a good by mass, of what is in it beside water; and what it brings
// of acid and alkali, in equivalents.
type contents struct{ soap, alkali, acid, chelant, acidEq, alkaliEq float64 }

func contentsOf(r *formula.Resolved) (c contents) {
	water := 0.0
	for i := range r.Lines {
		l := &r.Lines[i]
		if l.Material == nil {
			continue
		}
		for m, share := range l.Material.Bases() {
			share *= l.Share.Value
			parts, of, _ := solution.Contents(m)
			water += share * of
			dry := share * (1 - of)
			c.soap += share * (m.ShareOf("soap") + m.ShareOf("potassium-soap"))
			if m.Is(material.Alkali) {
				c.alkali += dry
			}
			if m.Is(material.Acid) {
				c.acid += dry
			}
			if m.Is(material.Chelant) || m.Is(material.Citrate) {
				c.chelant += dry
			}
			for _, p := range parts {
				c.acidEq += share * p.MolPerG.Value * p.Compound.AcidEq
				c.alkaliEq += share * p.MolPerG.Value * p.Compound.AlkaliEq
			}
		}
	}
	if rest := 1 - water; rest > 1e-6 {
		c.soap, c.alkali, c.acid, c.chelant = c.soap/rest, c.alkali/rest, c.acid/rest, c.chelant/rest
	}
	return c
}

// misses says what a strength falls short of; empty when it meets all.
func (w Wanted) misses(d solution.Dosed) string {
	switch {
	case w.AlkalinityGPerL > 0 && d.AlkalinityGPerL < w.AlkalinityGPerL:
		return fmt.Sprintf("free alkali %.2f of %.2f g/l", max(0, d.AlkalinityGPerL), w.AlkalinityGPerL)
	case w.HardnessLeft >= 0 && d.HardnessLeft > w.HardnessLeft:
		return fmt.Sprintf("%.0f mg/l of hardness left, %.0f at most", quantity.Hardness(d.HardnessLeft).MGPerL(), quantity.Hardness(w.HardnessLeft).MGPerL())
	case w.SoapLeftGPerL > 0 && d.SoapLeftGPerL < w.SoapLeftGPerL:
		return fmt.Sprintf("soap left %.2f of %.2f g/l", d.SoapLeftGPerL, w.SoapLeftGPerL)
	case w.SourBelow > 0 && d.PH > w.SourBelow:
		return fmt.Sprintf("pH %.1f where %.1f is wanted", d.PH, w.SourBelow)
	}
	return ""
}

// Where is one row of a dose table: a machine, its water and how dirty the load is.
type Where struct {
	Machine  Machine
	Hardness quantity.Hardness
	Celsius  float64 // 0 for 25
	Soil     Soil
	Load     float64 // of a full one, 0 to 1; 0 for full
}

// Voice is who says how much of a good to use. The three are kept apart.
type Voice string

// The formula of the workshop says it, makers do of this kind of good, loads that were
// counted do, or it is reckoned from the water.
const (
	ByFormula Voice = "formula"
	ByMakers  Voice = "makers"
	ByCount   Voice = "counted"
	ByReckon  Voice = "reckoned"
)

// Row is how much of a good to use.
type Row struct {
	Where
	Said   quantity.Amount // as the formula says it, else as makers do; zero where neither does
	SaidG  float64
	SaidBy Voice // ByFormula or ByMakers; empty where nothing is said
	// Chosen is whose dose stands on the label, by what the workshop wants, ChosenG and
	// ChosenAs that dose; zero where there is none.
	Chosen   Voice
	ChosenG  float64
	ChosenAs string
	// Differs says why the chosen dose and the reckoned one are far apart; empty where they
	// are not.
	Differs string

	// Reaches says that Grams meets what is wanted; Says how, or what it falls short
	// of and what to do. Computed is false where nothing can be asked of the good.
	Computed, Reaches bool
	Grams             float64
	Measure           quantity.Amount
	Pieces            int // of tabs and bombs; Measure is zero then
	Uses              float64
	SodaFirstG        float64 // soda ash to be put into the water before it
	Says              string
	Dosed             solution.Dosed
}

// Options are what a table is made for.
type Options struct {
	ScoopML float64 // the scoop of the workshop; 0 for spoons and cups
	PieceG  float64 // of one tab or bomb; 0 for what is scooped
	TotalG  float64 // that uses are counted of; 0 for what the formula makes
	SaidG   float64 // one use as the formula says it, in grams; 0 where it does not
	Said    quantity.Amount
	// CountedG is what a load took by those that were counted, CountedLoads how many they
	// were; 0 for none.
	CountedG, CountedLoads float64
	// Wants is whose dose the workshop's labels carry; empty for what was counted, else what
	// is said, else what is reckoned.
	Wants Voice
}

// mostGramsPerLitre is more than anybody would put into a wash. From memory: the
// strongest soaks are 20 g to a litre.
const mostGramsPerLitre = 20

// Table says how much of a good to use in each place. The error is of
// solution.ErrNothing or a water that cannot be.
func Table(r *formula.Resolved, rows []Where, o Options) ([]Row, error) {
	if o.TotalG == 0 {
		o.TotalG = r.NetG().Value
	}
	out := make([]Row, len(rows))
	for i, w := range rows {
		row, err := doseIn(r, w, o)
		if err != nil {
			return nil, err
		}
		out[i] = row
	}
	return out, nil
}

// magnesiumStays is the share of a hardness that soda leaves: magnesium, a fifth of most
// tap water, and a little chalk; from memory.
const magnesiumStays = 0.25

// measure is an amount a hand can take, and what it weighs.
type measure struct {
	amount quantity.Amount
	pieces int
	grams  float64
}

func doseIn(r *formula.Resolved, w Where, o Options) (row Row, err error) {
	row.Where = w
	if err := w.Machine.Check(); err != nil {
		return row, err
	}
	if w.Soil == "" {
		row.Soil, w.Soil = Normal, Normal
	}
	row.said(r, o)
	defer func() { row.choose(r, o) }()
	if w.Machine.ID == AsItIs.ID {
		row.Grams, row.Measure = row.SaidG, row.Said
		row.Says = "Used as it is: as makers say it."
		row.countUses(o)
		return row, nil
	}
	use := solution.Use{GramsPerLitre: 1, Basis: solution.Given, Dose: quantity.Exactly(1), Hardness: w.Hardness, Celsius: w.Celsius}
	if use.Celsius == 0 {
		use.Celsius = 25
	}
	d, known, err := solution.NewDoser(r, use)
	if err != nil {
		return row, err
	}
	if err := use.Check(); err != nil {
		return row, err
	}
	want := WantedOf(r, w.Soil)
	if w.Load > 0 && w.Load < 1 { // less cloth, less dirt in the same water; from memory: half of it goes by the water
		want.AlkalinityGPerL *= (1 + w.Load) / 2
		want.SoapLeftGPerL *= (1 + w.Load) / 2
	}
	if want.nothing() || !known {
		row.Grams, row.Measure = row.SaidG, row.Said
		row.Says = "Nothing in it that can be worked out: as makers say it."
		if !known {
			row.Says = "What is in it is not known well enough to work out a dose: as makers say it."
		}
		row.countUses(o)
		return row, nil
	}
	if want.HardnessLeft >= 0 {
		want.HardnessLeft = max(want.HardnessLeft, magnesiumStays*float64(w.Hardness))
	}
	row.Computed = true
	measures := measuresOf(r, o, w.Machine.WaterL*mostGramsPerLitre)
	if len(measures) == 0 {
		return row, fmt.Errorf("a dose of %s cannot be measured: its density is not known", r.Formula.Name)
	}
	if err := row.search(d, want, measures); err != nil {
		return row, err
	}
	if !row.Reaches && w.Hardness > 0 && want.SourBelow == 0 {
		if err := row.softened(r, use, want, measures); err != nil {
			return row, err
		}
	}
	if err := row.orSoften(r, use, want, measures); err != nil {
		return row, err
	}
	row.choose(r, o)
	if err := row.compare(d, want, o); err != nil {
		return row, err
	}
	row.countUses(o)
	return row, nil
}

// worthSoftening is how much less good has to be enough for the trouble of softening the
// water first.
const worthSoftening = 0.6

// orSoften says where much less does once the water is soft: soda is cheaper than soap.
func (row *Row) orSoften(r *formula.Resolved, use solution.Use, want Wanted, measures []measure) error {
	if !row.Reaches || row.Hardness <= formula.HardFrom || want.SoapLeftGPerL == 0 {
		return nil
	}
	few := slices.IndexFunc(measures, func(m measure) bool { return m.grams > worthSoftening*row.Grams })
	if few <= 0 { // the dose itself is among them, and is more
		return nil
	}
	soda, less, err := softer(r, row, use, want, measures[:few])
	if err != nil || !less.Reaches {
		return err
	}
	row.Says += fmt.Sprintf(" Or put %.0f g of soda ash into the water first, wait until it is clear, and %s is enough.", math.Ceil(soda), less.words())
	return nil
}

// said notes the dose that the formula says, else the one that is usual for its kind: who
// says a tablespoon is shown no other as what makers say.
func (row *Row) said(r *formula.Resolved, o Options) {
	row.Said, row.SaidBy = o.Said, ByFormula
	if o.Said.IsZero() {
		usual, ok := formula.UsualUse(r.Formula.Kind, row.Machine.ID, row.Hardness)
		if !ok {
			row.SaidBy = ""
			return
		}
		row.Said, row.SaidBy = usual, ByMakers
	}
	if n, counted := row.Said.Pieces(); counted {
		row.SaidG = n.Value * o.PieceG
		if o.PieceG == 0 {
			row.SaidG = o.SaidG
		}
		return
	}
	if ml, isVolume := row.Said.Millilitres(handling(r)); isVolume {
		row.SaidG = ml.Value * r.Density()
	} else if g, isMass := row.Said.MassOnly(); isMass {
		row.SaidG = g.Value
	}
}

// choose takes the dose that the workshop's labels carry: the one it wants, where there is
// one, else what was counted, what is said, what is reckoned.
func (row *Row) choose(r *formula.Resolved, o Options) {
	order := []Voice{ByCount, ByFormula, ByReckon}
	if o.Wants != "" {
		order = append([]Voice{o.Wants}, order...)
	}
	for _, v := range order {
		switch {
		case v == ByCount && o.CountedG > 0:
			row.Chosen, row.ChosenG = ByCount, o.CountedG
			if row.ChosenAs = fmt.Sprintf("%.3g g", o.CountedG); r.Density() > 0 {
				scoop, _ := quantity.NearestScoop(o.CountedG/r.Density(), r.Formula.Measures)
				row.ChosenAs = scoop.String()
			}
			return
		case (v == ByFormula || v == ByMakers) && row.SaidBy != "":
			row.Chosen, row.ChosenG, row.ChosenAs = row.SaidBy, row.SaidG, row.Said.String()
			return
		case v == ByReckon && row.Computed && row.Reaches:
			row.Chosen, row.ChosenG, row.ChosenAs = ByReckon, row.Grams, row.words()
			return
		}
	}
}

// farApart is from how many times on two doses are told to differ.
const farApart = 2.0

// compare says what the chosen dose does in this water, where it is far from the reckoned
// one.
func (row *Row) compare(d *solution.Doser, want Wanted, o Options) error {
	if row.Chosen == ByReckon || row.ChosenG == 0 || !row.Reaches || row.Grams == 0 {
		return nil
	}
	if times := row.ChosenG / row.Grams; times > 1/farApart && times < farApart {
		return nil
	}
	who := "As it is said, a load takes"
	if row.Chosen == ByCount {
		who = fmt.Sprintf("%.0f loads took", o.CountedLoads)
	}
	if row.ChosenG > row.Grams {
		row.Differs = fmt.Sprintf("%s %.3g g each, and %.3g g would do in this water: less of it saves some.", who, row.ChosenG, row.Grams)
		return nil
	}
	dosed, err := d.At(row.ChosenG / row.Machine.WaterL)
	if err != nil {
		return err
	}
	short := want.misses(dosed)
	if short == "" {
		return nil
	}
	row.Differs = fmt.Sprintf("%s %.3g g each; in this water that gives %s. Softer water, more alkali, or accept it.", who, row.ChosenG, short)
	return nil
}

func handling(r *formula.Resolved) quantity.Handling {
	return quantity.Handling{Measures: r.Formula.Measures}
}

// search takes the smallest measure that meets what is wanted. What is wanted grows
// with the dose, so that it is halved towards.
func (row *Row) search(d *solution.Doser, want Wanted, measures []measure) error {
	var failed error
	tried := map[int]solution.Dosed{}
	at := func(i int) solution.Dosed {
		if dosed, known := tried[i]; known {
			return dosed
		}
		dosed, err := d.At(measures[i].grams / row.Machine.WaterL)
		if err != nil {
			failed = err
		}
		tried[i] = dosed
		return dosed
	}
	low, high := 0, len(measures)
	for low < high && failed == nil {
		mid := (low + high) / 2
		if want.misses(at(mid)) == "" {
			high = mid
		} else {
			low = mid + 1
		}
	}
	if failed != nil {
		return failed
	}
	row.Reaches = low < len(measures)
	if row.Reaches {
		row.take(measures[low])
		row.Dosed = at(low)
		row.Says = says(want, row.Dosed)
		if want.PHBelow > 0 && row.Dosed.PH > want.PHBelow {
			row.Says += fmt.Sprintf(" It stands at pH %.1f then: gloves, and not for wool or silk.", row.Dosed.PH)
		}
		return failed
	}
	last := at(len(measures) - 1)
	row.Dosed = last
	row.Grams, row.Measure = row.SaidG, row.Said
	row.Says = fmt.Sprintf("No dose reaches it in this water: %s even at %.0f g/l.", want.misses(last), measures[len(measures)-1].grams/row.Machine.WaterL)
	return failed
}

func (row *Row) take(m measure) {
	row.Grams, row.Measure, row.Pieces = m.grams, m.amount, m.pieces
}

// says tells what a dose brings about.
func says(want Wanted, d solution.Dosed) string {
	var parts []string
	if want.AlkalinityGPerL > 0 {
		parts = append(parts, fmt.Sprintf("%.2f g/l free alkali", d.AlkalinityGPerL))
	}
	if want.SoapLeftGPerL > 0 {
		parts = append(parts, fmt.Sprintf("%.2f g/l of soap still soap", d.SoapLeftGPerL))
	}
	if want.HardnessLeft >= 0 {
		parts = append(parts, fmt.Sprintf("%.0f mg/l of hardness left", quantity.Hardness(d.HardnessLeft).MGPerL()))
	}
	parts = append(parts, fmt.Sprintf("pH %.1f", d.PH))
	return "Gives " + strings.Join(parts, ", ") + "."
}

// chalkSurplus is how much more soda than its match brings hardness down. From
// memory: a tenth over leaves less than a strip shows.
const chalkSurplus = 1.1

const gramsSodaPerMMol = 0.105988

// softer is how much soda makes a water soft, in grams, and the dose in it then.
func softer(r *formula.Resolved, row *Row, use solution.Use, want Wanted, measures []measure) (sodaG float64, in *Row, err error) {
	sodaG = float64(use.Hardness) * row.Machine.WaterL * gramsSodaPerMMol * chalkSurplus
	use.Hardness *= magnesiumStays
	d, _, err := solution.NewDoser(r, use)
	if err != nil {
		return 0, nil, err
	}
	soft := *row
	return sodaG, &soft, soft.search(d, want, measures)
}

// softened says how much soda makes a water soft enough for a dose, and the dose then.
func (row *Row) softened(r *formula.Resolved, use solution.Use, want Wanted, measures []measure) error {
	soda, soft, err := softer(r, row, use, want, measures)
	if err != nil || !soft.Reaches {
		return err
	}
	short := row.Says
	*row = *soft
	row.Reaches = false // not by a dose alone
	row.SodaFirstG = soda
	row.Says = fmt.Sprintf("%s First put %.0f g of soda ash into the water and wait until it is clear, then %s.", short, math.Ceil(soda), row.words())
	return nil
}

// words are the dose as it is measured.
func (row *Row) words() string {
	if row.Pieces > 0 {
		return plural(row.Pieces, "piece")
	}
	return row.Measure.String()
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}

func (row *Row) countUses(o Options) {
	if row.Grams > 0 {
		row.Uses = o.TotalG / row.Grams
	}
}

// A rinse aid's compartment, and how often a dishwasher runs; from memory.
const (
	compartmentML = 120.0
	runsAWeek     = 5.0
)

// RefillDays is how long a full compartment lasts at so many ml of rinse aid a run.
func RefillDays(mlPerRun float64) float64 { return compartmentML / mlPerRun / runsAWeek * 7 }

// DissolvedDays is how long a powder is used once it is dissolved; common practice: it is
// mixed when it is needed.
const DissolvedDays = 1

// scoops are the measures a dose may be, in teaspoons, tablespoons and cups.
var (
	teas   = amounts("1/4 tsp", "1/2 tsp", "1 tsp", "2 tsp")
	spoons = amounts("1 tbsp", "1 1/2 tbsp", "2 tbsp", "3 tbsp")
	cups   = amounts("1/4 cup", "1/3 cup", "1/2 cup", "2/3 cup", "3/4 cup", "1 cup", "1 1/4 cup", "1 1/2 cup", "2 cup", "2 1/2 cup", "3 cup")
	own    = amounts("1/2 scoop", "1 scoop", "1 1/2 scoop", "2 scoop", "3 scoop", "4 scoop", "6 scoop", "8 scoop")
)

func amounts(said ...string) (out []quantity.Amount) {
	for _, s := range said {
		out = append(out, quantity.MustParse(s))
	}
	return out
}

// measuresOf are the measures a dose may be of, the smallest first: pieces of what is
// pressed, the workshop's scoop, else spoons and cups; up to so many grams.
func measuresOf(r *formula.Resolved, o Options, mostG float64) (out []measure) {
	if o.PieceG > 0 {
		for n := 1; float64(n)*o.PieceG <= mostG && n <= 12; n++ {
			out = append(out, measure{pieces: n, grams: float64(n) * o.PieceG})
		}
		if len(out) == 0 {
			out = append(out, measure{pieces: 1, grams: o.PieceG})
		}
		return out
	}
	amounts := slices.Concat(teas, spoons, cups)
	if o.ScoopML > 0 {
		amounts = slices.Concat(teas, own)
	}
	h := handling(r)
	if o.ScoopML > 0 {
		h.ScoopML = quantity.Exactly(o.ScoopML)
	}
	for _, a := range amounts {
		ml, ok := a.Millilitres(h)
		if g := ml.Value * r.Density(); ok && g > 0 && g <= mostG {
			out = append(out, measure{amount: a, grams: g})
		}
	}
	slices.SortStableFunc(out, func(a, b measure) int {
		switch {
		case a.grams < b.grams:
			return -1
		case a.grams > b.grams:
			return 1
		}
		return 0
	})
	return out
}
