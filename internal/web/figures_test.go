package web_test

import (
	"math"
	"net/http"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// figure is a figure of the workshop's own, as it stands.
func (c *client) figure(kind api.OwnFigureKind, of string) api.OwnFigure {
	c.t.Helper()
	var all []api.OwnFigure
	c.get("/api/own-figures").gives(http.StatusOK, &all)
	at := slices.IndexFunc(all, func(f api.OwnFigure) bool { return f.Kind == kind && f.Of == of })
	require.GreaterOrEqual(c.t, at, 0, "%s of %s", kind, of)
	return all[at]
}

// Drops that were counted narrow every reading that goes by drops, from the first count on;
// each is taken back by itself, or all of them by one act, and none is lost.
func TestDropsThatWereCountedNarrowAReading(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.keep("Scented", "1 kg of washing soda", "60 drops of lavender oil")
	weighs := func() api.Range {
		var a api.Assessment
		c.post("/api/assess", formulaFile("Scented", "1 kg of washing soda", "60 drops of lavender oil")).gives(http.StatusOK, &a)
		return a.Lines[1].MassG
	}
	wide := func(r api.Range) float64 { return r.High / r.Low }
	usual := weighs()
	var f api.OwnFigure
	c.post("/api/own-figures", api.SaidMeasuring{Said: "100 drops make 4.2 ml"}).gives(http.StatusCreated, &f)
	assert.Equal(t, api.FigureSize, f.Kind)
	assert.Equal(t, "drop", f.Of)
	assert.Equal(t, 1, f.Count)
	// by hand: 0.0375 to 0.0625 ml is usual, a variance of (ln(0.0625/0.0375)/3.92)² = 0.01698; less
	// 0.08² for one count from the next that is 0.01058, and one counts for 0.01058/0.01698
	assert.InDelta(t, 0.623, f.Share, 0.002)
	assert.InDelta(t, 0.05*math.Pow(0.042/0.05, 0.623), f.Value, 1e-4)
	once := weighs()
	assert.Less(t, once.Value, usual.Value)
	assert.Less(t, wide(once), wide(usual))
	for _, said := range []string{"100 drops = 4.3 ml", "50 drops of water weigh 2.1 g", "200 drops make 8.5 ml"} {
		c.post("/api/own-figures", api.SaidMeasuring{Said: said}).gives(http.StatusCreated, &f)
	}
	assert.Equal(t, 4, f.Count)
	assert.Greater(t, f.Share, 0.85)
	often := weighs()
	assert.Less(t, wide(often), wide(once))
	assert.Contains(t, f.Says, "4 measurings")

	var changes []api.FigureChange
	c.get("/api/own-figures/changes?kind=size&of=drop").gives(http.StatusOK, &changes)
	require.NotEmpty(t, changes)
	assert.Equal(t, "Scented", changes[0].Name)
	assert.NotEqual(t, changes[0].Before, changes[0].After)

	// one is taken back, and counted again
	first := f.Measured[0].Id.String()
	c.patch("/api/measurings/"+first, api.MeasuringCounts{}).gives(http.StatusOK, &f)
	assert.Equal(t, 3, f.Count)
	require.Len(t, f.Measured, 4)
	assert.False(t, f.Measured[0].Counts)
	c.patch("/api/measurings/"+first, api.MeasuringCounts{Counts: true}).gives(http.StatusOK, &f)
	assert.Equal(t, often, weighs())

	// all by one act, and back
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureSize, Of: "drop", AsUsual: true}).gives(http.StatusOK, &f)
	assert.True(t, f.AsUsual)
	assert.Equal(t, usual, weighs())
	c.get("/api/own-figures/changes?kind=size&of=drop").gives(http.StatusOK, &changes)
	assert.Empty(t, changes, "what is not used changes nothing")
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureSize, Of: "drop"}).gives(http.StatusOK, &f)
	assert.Equal(t, often, weighs())
}

func TestWhatIsNoMeasuringIsRefusedInItsField(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	for _, said := range []string{"hello", "a cup of moonstone weighs 200 g", "a cup of borax weighs 20 kg", "about 100 drops make 5 ml", "a cup of borax", "100 drops of borax weigh a lot", "\x00"} {
		a := c.post("/api/own-figures", api.SaidMeasuring{Said: said})
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, said)
	}
	var all []api.OwnFigure
	c.get("/api/own-figures").gives(http.StatusOK, &all)
	assert.Empty(t, all, "nothing half kept")
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureDensity, Of: "borax", AsUsual: true}).refuses(http.StatusNotFound, "not-found")
	var f api.OwnFigure
	c.post("/api/own-figures", api.SaidMeasuring{Said: "a cup of borax weighs 120 g"}).gives(http.StatusCreated, &f)
	assert.True(t, f.Apart, "far from what is usual")
	assert.Contains(t, f.Says, "is it the same thing")
}

// What was said of a mug before counts as one measuring as soon as it is measured; the cup
// that is weighed on the shelf is the same figure.
func TestWhatWasSaidBeforeCounts(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.put("/api/sizes", api.OwnSize{Unit: "mug", Amount: "320 ml"}).gives(http.StatusOK, nil)
	f := c.figure(api.FigureSize, "mug")
	assert.InDelta(t, 320, f.Value, 1e-9)
	assert.Equal(t, f.Low, f.High, "as it was said")
	c.post("/api/own-figures", api.SaidMeasuring{Said: "my mug holds 330 ml"}).gives(http.StatusCreated, &f)
	assert.Equal(t, 2, f.Count)
	assert.InDelta(t, 324.9, f.Value, 1)
	assert.Less(t, f.Low, f.High)

	c.put("/api/materials/borax/figures", api.OwnFigures{Weighed: api.WeighedMeasure{Measure: "1 cup", MassG: 200}}).gives(http.StatusOK, nil)
	f = c.figure(api.FigureDensity, "borax")
	assert.Equal(t, "1 cup = 200 g", f.Measured[0].Said)
	c.put("/api/materials/borax/figures", api.OwnFigures{ForgetDensity: true}).gives(http.StatusOK, nil)
	f = c.figure(api.FigureDensity, "borax")
	assert.Zero(t, f.Count)
	assert.InDelta(t, f.Usual.Value, f.Value, 1e-9)
}

// A tray that is weighed until it is dry tells how long it dries here, beside what the step
// says: until it is told not to.
func TestDryingIsLearnedFromTrays(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("2 kg washing soda 8.00, lot WS-1")
	c.take("1 kg citric acid 6.00, lot CA-1")
	file := formulaFile("Slow tabs", "600 g of washing soda", "300 g of citric acid", "25 g of water")
	file.Kind, file.Version, file.Steps = "dish-tab", 3, []api.FormulaStep{{Kind: "weigh", Lines: []int{0, 1, 2}}, {Kind: "dry", For: "12 h"}, {Kind: "fill"}}
	var f api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	b := c.begin(f, api.Target{Factor: 1})
	b = c.weigh(c.weigh(c.weigh(b, 0, "WS-1", 600), 1, "CA-1", 300), 2, "", 25)
	began := h.now
	for _, hours := range []float64{0, 6, 14, 24, 40, 60, 72} {
		h.now = began.Add(time.Duration(hours * float64(time.Hour)))
		c = h.signIn("marl")
		c.act(&b, api.BatchAct{Kind: "weighed-in", Step: step(1), Grams: math.Round(10*(906+19*math.Exp(-0.08*hours))) / 10})
	}
	assert.Equal(t, api.DryingVerdict("dry"), b.Steps[1].Drying.Verdict)
	c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
	c.post(at(b, "finish"), api.Finish{Jars: 1}).gives(http.StatusOK, &b)

	// the law that was weighed: within half a per cent of 906 g after ln(19/4.53)/0.08 = 17.9 h
	fig := c.figure(api.FigureDrying, f.Id.String())
	assert.Equal(t, "Slow tabs", fig.Name)
	assert.Equal(t, 1, fig.Count)
	assert.InDelta(t, 12, fig.Usual.Value, 1e-9)
	assert.Greater(t, fig.Value, 13.5)
	assert.Less(t, fig.Value, 18.0)
	assert.False(t, fig.CanMeasure)
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureDrying, Of: f.Id.String(), AsUsual: true}).gives(http.StatusOK, &fig)
	assert.InDelta(t, 12, fig.Value, 1e-9)
}

// What the logs say of the minutes of steps pulls what is usual, and tells how long hands are at a
// good that nobody made yet.
func TestMinutesOfStepsAreLearnedFromTheLogs(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("2 kg washing soda 8.00, lot WS-1")
	file := formulaFile("Grated powder", "300 g of washing soda")
	file.Version, file.Steps = 3, []api.FormulaStep{{Kind: "weigh", Lines: []int{0}}, {Kind: "grate"}, {Kind: "mix"}, {Kind: "fill"}}
	var f, never api.StoredFormula
	c.post("/api/formulas", file).gives(http.StatusCreated, &f)
	other := file
	other.Name = "Grated twice"
	other.Steps = []api.FormulaStep{{Kind: "weigh", Lines: []int{0}}, {Kind: "grate"}, {Kind: "grate"}, {Kind: "fill"}}
	c.post("/api/formulas", other).gives(http.StatusCreated, &never)
	for range 3 {
		b := c.begin(f, api.Target{Factor: 1})
		h.now = h.now.Add(5 * time.Minute)
		b = c.weigh(b, 0, "WS-1", 300)
		h.now = h.now.Add(19 * time.Minute)
		c.act(&b, api.BatchAct{Kind: "step-done", Step: step(1)})
		h.now = h.now.Add(3 * time.Minute)
		c.act(&b, api.BatchAct{Kind: "step-done", Step: step(2)})
		h.now = h.now.Add(8 * time.Minute)
		c.post(at(b, "finish"), api.Finish{Jars: 1}).gives(http.StatusOK, &b)
		h.now = h.now.Add(time.Hour)
	}
	fig := c.figure(api.FigureStep, "grate")
	assert.Equal(t, "Grate", fig.Name)
	assert.Equal(t, 3, fig.Count)
	assert.InDelta(t, 12, fig.Usual.Value, 1e-9)
	assert.Greater(t, fig.Value, 16.0, "pulled to the 19 minutes that were counted")
	assert.Less(t, fig.Value, 19.0)
	assert.Contains(t, fig.Says, "3 such steps in the logs of batches")
	var changes []api.FigureChange
	c.get("/api/own-figures/changes?kind=step&of=grate").gives(http.StatusOK, &changes)
	require.Len(t, changes, 1, "of the other good the minutes were counted whole")
	assert.Equal(t, "Grated twice", changes[0].Name)
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureStep, Of: "grate", AsUsual: true}).gives(http.StatusOK, &fig)
	assert.InDelta(t, 12, fig.Value, 1e-9)
	c.get("/api/own-figures/changes?kind=step&of=grate").gives(http.StatusOK, &changes)
	assert.Empty(t, changes)
}
