package web_test

import (
	"context"
	"net/http"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// A jar is kept to be looked at, looks come round, it goes early: the next batch is dated by
// what was seen, its brothers that are about are named, and a look that was a slip is taken
// back with all that followed from it.
func TestAJarThatGoesEarlyMarksItsBrothersAndShortensTheNext(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("9 kg borax 30.00, lot B1")
	f := c.keep("Plain", "500 g of borax")
	batch := func(jars int) (api.Batch, api.PantryLot) {
		b := c.weigh(c.begin(f, api.Target{Factor: 1}), 0, "B1", 500)
		c.post(at(b, "finish"), api.Finish{Jars: jars}).gives(http.StatusOK, &b)
		var good api.PantryLot
		c.get("/api/pantry/"+b.Id.String()).gives(http.StatusOK, &good)
		return b, good
	}
	first, good := batch(3)
	brother, theirs := batch(2)
	c.patch("/api/jars/"+theirs.JarList[0].Id.String(), api.JarMove{Gone: true, GoneTo: "the guest house"}).gives(http.StatusOK, nil)

	var kept []api.Sample
	c.post("/api/samples", api.NewSamples{Jars: []uuid.UUID{good.JarList[0].Id}, Stands: "on the sill"}).gives(http.StatusCreated, &kept)
	require.Len(t, kept, 1)
	s := kept[0]
	assert.Equal(t, api.SampleWatching, s.Outcome)
	assert.False(t, s.Due)
	c.post("/api/samples", api.NewSamples{Jars: []uuid.UUID{good.JarList[0].Id}}).refuses(http.StatusConflict, "sample")
	c.get("/api/pantry/"+first.Id.String()).gives(http.StatusOK, &good)
	assert.Equal(t, 2, good.Left, "what is kept is not sold")
	assert.Equal(t, "kept here as a sample", good.JarList[0].GoneTo)
	assert.Empty(t, good.Warns)
	// it is no jar that somebody has: it is not brought back, nor sold, by the way of others
	jar := good.JarList[0].Id
	for _, gone := range []bool{false, true} {
		p := c.patch("/api/jars/"+jar.String(), api.JarMove{Gone: gone, GoneTo: "the stall"}).refuses(http.StatusConflict, "sample")
		assert.Contains(t, p.Detail, "among the samples")
	}
	c.post("/api/acts", api.NewAct{Kind: "returned", Lines: []api.ActWish{{Batch: first.Id}}}).refuses(http.StatusConflict, "more-back")
	var holders []api.Holder
	c.get("/api/batches/"+first.Id.String()+"/holders").gives(http.StatusOK, &holders)
	assert.Empty(t, holders)

	// a quarter of its two years on it is due, in the strip and today
	h.now = s.NextLook.Time.AddDate(0, 0, 1)
	c = h.signIn("marl")
	var waiting []api.WaitingNote
	c.get("/api/waiting").gives(http.StatusOK, &waiting)
	assert.True(t, slices.ContainsFunc(waiting, func(n api.WaitingNote) bool { return n.Text == "look at the sample of "+first.Code }))
	var today api.DayWork
	c.get("/api/today").gives(http.StatusOK, &today)
	assert.True(t, slices.ContainsFunc(today.Tasks, func(k api.DayTask) bool { return k.Title == "Look at the sample of "+first.Code }))
	looks := "/api/samples/" + s.Id.String() + "/looks"
	ph := 9.2
	c.post(looks, api.NewLook{Signs: []string{"lumps"}, Good: true, Ph: &ph}).gives(http.StatusCreated, &s)
	assert.False(t, s.Due)
	assert.Contains(t, s.Says, "but lumps")
	c.post(looks, api.NewLook{Signs: []string{"moon"}, Good: true}).refuses(http.StatusUnprocessableEntity, "bad-value")
	c.post(looks, api.NewLook{Signs: []string{}, Good: true, On: s.BestBefore}).refuses(http.StatusUnprocessableEntity, "bad-value")

	// it is swollen: gone, whatever is said beside it, with the caution first
	h.now = s.NextLook.Time
	c = h.signIn("marl")
	c.post(looks, api.NewLook{Signs: []string{"swollen"}, Good: true}).gives(http.StatusCreated, &s)
	assert.Equal(t, api.SampleGoneEarly, s.Outcome)
	require.NotEmpty(t, s.Cautions)
	assert.Contains(t, s.Cautions[0], "burst")
	require.Len(t, s.Brothers, 2)
	of := slices.IndexFunc(s.Brothers, func(b api.SampleBrother) bool { return b.Batch == brother.Id })
	require.GreaterOrEqual(t, of, 0)
	assert.Equal(t, 1, s.Brothers[of].Here)
	assert.Equal(t, 1, s.Brothers[of].Out)
	assert.True(t, s.Brothers[of].Older)
	c.get("/api/pantry/"+brother.Id.String()).gives(http.StatusOK, &theirs)
	assert.Contains(t, theirs.Warns, first.Code)

	// the next batch keeps what the sample kept, and says why; unless it is told not to
	days := 184 // of the look at which it was good
	fig := c.figure(api.FigureKeeping, f.Id.String())
	assert.InDelta(t, days, fig.Value, 2)
	_, shortGood := batch(1)
	assert.InDelta(t, fig.Value, shortGood.BestBefore.Sub(shortGood.Made.Time).Hours()/24, 0.1)
	assert.Contains(t, shortGood.BestBeforeReason, first.Code)
	assert.Empty(t, shortGood.Warns, "it is dated by it already")
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureKeeping, Of: f.Id.String(), AsUsual: true}).gives(http.StatusOK, &fig)
	assert.True(t, fig.AsUsual)
	_, usual := batch(1)
	assert.InDelta(t, 730, usual.BestBefore.Sub(usual.Made.Time).Hours()/24, 1)
	c.put("/api/own-figures", api.FigureUse{Kind: api.FigureKeeping, Of: f.Id.String()}).gives(http.StatusOK, &fig)

	c.post("/api/samples/"+s.Id.String()+"/end", api.SampleEnd{Back: true}).refuses(http.StatusUnprocessableEntity, "gone")
	// the look was a slip
	last := s.Looks[len(s.Looks)-1].Id.String()
	c.patch("/api/looks/"+last, api.MeasuringCounts{}).gives(http.StatusOK, &s)
	assert.Equal(t, api.SampleWatching, s.Outcome)
	assert.Empty(t, s.Brothers)
	c.get("/api/pantry/"+brother.Id.String()).gives(http.StatusOK, &theirs)
	assert.Empty(t, theirs.Warns)
	c.post("/api/samples/"+s.Id.String()+"/end", api.SampleEnd{Back: true}).gives(http.StatusOK, &s)
	assert.True(t, s.Ended)
	c.post(looks, api.NewLook{Signs: []string{}, Good: true}).refuses(http.StatusConflict, "ended")
	c.get("/api/pantry/"+first.Id.String()).gives(http.StatusOK, &good)
	assert.Equal(t, 3, good.Left, "it is back among the goods")
	broken, err := h.store().Verify(context.Background())
	require.NoError(t, err)
	assert.Empty(t, broken)
}
