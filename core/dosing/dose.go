package dosing

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"keencrock/core/formula"
	"keencrock/core/quantity"
	"keencrock/core/solution"
)

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
	// SaidFor is one use by machine, by its id, where the formula says it apart.
	SaidFor map[string]quantity.Amount
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
	if apart, ok := o.SaidFor[row.Machine.ID]; ok {
		row.Said = apart
	}
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
		if o.PieceG == 0 && row.Said == o.Said {
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
			if row.ChosenAs = quantity.FormatFigures(o.CountedG, 3) + " g"; r.Density() > 0 {
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
		row.Differs = fmt.Sprintf("%s %s g each, and %s g would do in this water: less of it saves some.", who, quantity.FormatFigures(row.ChosenG, 3), quantity.FormatFigures(row.Grams, 3))
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
	row.Differs = fmt.Sprintf("%s %s g each; in this water that gives %s. Softer water, more alkali, or accept it.", who, quantity.FormatFigures(row.ChosenG, 3), short)
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

// RefillDays is how long a full compartment lasts at so many grams of rinse aid a run, of so
// many g/ml; ok is false for what goes into no compartment.
func RefillDays(kind formula.Kind, gramsPerRun, gPerML float64) (days float64, ok bool) {
	if kind != "rinse-aid" || gramsPerRun <= 0 || gPerML <= 0 {
		return 0, false
	}
	return compartmentML / (gramsPerRun / gPerML) / runsAWeek * 7, true
}

// TableWaters are the waters a dose table shows beside that of the workshop, in mg/l as
// CaCO3: in the middle of each class of the US Geological Survey.
var TableWaters = []float64{30, 90, 150, 300}
