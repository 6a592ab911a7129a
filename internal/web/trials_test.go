package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/demo"
)

// A trial of a good against another: judged by codes, without knowing; its answer comes when it is
// ended, stays with the formula, and no mark is changed after it.
func TestATrialIsJudgedBlindAndAnswered(t *testing.T) {
	s := opened(t, 2)
	var tr, seen api.Trial
	s.post("/api/trials", api.NewTrial{Question: "Is Towpath as good as water?", Measure: "film on the glass", Better: "lower", LowWord: "clear", HighWord: "white",
		Goods: []api.TrialGood{{Name: "water"}, {Name: "Towpath", Formula: s.formula.Id}}, Pairs: 7}).gives(http.StatusCreated, &tr)
	require.Len(t, tr.Sheet, 7)
	assert.Equal(t, 1, tr.Goods[1].Version)
	at := "/api/trials/" + tr.Id.String()
	text := string(s.get(at).gives(http.StatusOK, &seen).body)
	for _, pair := range seen.Sheet {
		for _, code := range pair.Codes {
			assert.Empty(t, code.Good, "who judges does not know")
		}
	}
	assert.NotContains(t, text, "seed")
	var key api.Trial
	s.get(at+"?key=true").gives(http.StatusOK, &key)
	for i, pair := range key.Sheet {
		for _, code := range pair.Codes {
			mark := 5.0 + float64(i%2)
			if code.Good == "Towpath" {
				mark -= 2 + float64(i%3)/2
			}
			s.post(at+"/marks", api.NewMark{Pair: pair.Pair, Code: code.Code, Mark: mark, Judge: "Maud"}).gives(http.StatusOK, &seen)
			s.post(at+"/marks", api.NewMark{Pair: pair.Pair, Code: strings.ToLower(code.Code), Mark: mark + 1, Judge: "Ines"}).gives(http.StatusOK, &seen)
		}
	}
	assert.Equal(t, 28, seen.Marked, "of two judges")
	assert.Empty(t, seen.Answer.Comparisons, "no answer before it is over")
	s.post(at+"/marks", api.NewMark{Pair: 8, Code: "A", Mark: 1}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post(at+"/marks", api.NewMark{Pair: 1, Code: "C", Mark: 1}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post(at+"/end", nil).gives(http.StatusOK, &seen)
	require.Len(t, seen.Answer.Comparisons, 1)
	c := seen.Answer.Comparisons[0]
	assert.Equal(t, api.SeenBetter, c.Verdict, "less film")
	assert.Equal(t, 7, c.Pairs)
	assert.InDelta(t, 1.0/64, c.P, 1e-9)
	assert.Less(t, c.Value, 0.0)
	assert.NotEmpty(t, seen.Sheet[0].Codes[0].Good)
	s.post(at+"/marks", api.NewMark{Pair: 1, Code: "A", Mark: 9}).refuses(http.StatusConflict, "ended")

	var of []api.Trial
	s.get("/api/trials?formula="+s.formula.Id.String()).gives(http.StatusOK, &of)
	require.Len(t, of, 1)
	assert.False(t, of[0].Goods[1].Changed)
	s.put("/api/formulas/"+s.formula.Id.String(), api.FormulaEdit{BaseVersion: 1, File: formulaFile("Towpath", "1100 g of borax")}).gives(http.StatusOK, nil)
	s.get("/api/trials?formula="+s.formula.Id.String()).gives(http.StatusOK, &of)
	assert.True(t, of[0].Goods[1].Changed, "it was of another version")
	s.get("/api/trials?formula="+tr.Id.String()).gives(http.StatusOK, &of)
	assert.Empty(t, of)
	viewer := s.with(s.client, "viewer", api.Viewer)
	viewer.get(at+"?key=true").refuses(http.StatusForbidden, "not-allowed")
	viewer.get(at).gives(http.StatusOK, nil)
}

// Pairs that are put in order: places stand for marks, what is alike shares one, and a mark is
// refused as a place is in a trial of marks.
func TestATrialIsJudgedByOrder(t *testing.T) {
	s := opened(t, 2)
	var tr, key, seen api.Trial
	s.post("/api/trials", api.NewTrial{Question: "Which smells cleaner?", Ranked: true, Goods: []api.TrialGood{{Name: "plain"}, {Name: "lavender"}}, Pairs: 6}).gives(http.StatusCreated, &tr)
	assert.True(t, tr.Ranked)
	assert.Equal(t, api.LowerIsBetter, tr.Better, "the first place is the best")
	at := "/api/trials/" + tr.Id.String()
	s.get(at+"?key=true").gives(http.StatusOK, &key)
	for _, pair := range key.Sheet {
		order := []string{pair.Codes[0].Code, pair.Codes[1].Code}
		if pair.Codes[0].Good == "plain" {
			order[0], order[1] = order[1], order[0]
		}
		s.post(at+"/ranks", api.NewRanks{Pair: pair.Pair, Order: []string{"AB"}, Judge: "Maud"}).gives(http.StatusOK, &seen)
		assert.InDelta(t, 1.5, seen.Sheet[pair.Pair-1].Codes[0].Marks[0].Mark, 1e-9, "both are alike")
		s.post(at+"/ranks", api.NewRanks{Pair: pair.Pair, Order: order, Judge: "Maud"}).gives(http.StatusOK, &seen)
	}
	assert.Equal(t, 12, seen.Marked, "an order takes the place of the one before")
	s.post(at+"/marks", api.NewMark{Pair: 1, Code: "A", Mark: 3}).refuses(http.StatusConflict, "ranked")
	for _, bad := range [][]string{{"A"}, {"A", "A"}, {"A", "C"}, {"A", "BA"}} {
		a := s.post(at+"/ranks", api.NewRanks{Pair: 1, Order: bad})
		a.refuses(http.StatusUnprocessableEntity, "bad-value")
	}
	s.post(at+"/ranks", api.NewRanks{Pair: 7, Order: []string{"A", "B"}}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post(at+"/end", nil).gives(http.StatusOK, &seen)
	c := seen.Answer.Comparisons[0]
	assert.Equal(t, api.SeenBetter, c.Verdict)
	assert.InDelta(t, 2.0/64, c.P, 1e-12, "six of six, two-sided")
	assert.Contains(t, c.Says, "lavender was placed before plain")
	s.post(at+"/ranks", api.NewRanks{Pair: 1, Order: []string{"A", "B"}}).refuses(http.StatusConflict, "ended")

	var marked api.Trial
	s.post("/api/trials", api.NewTrial{Question: "By marks", Goods: []api.TrialGood{{Name: "a"}, {Name: "b"}}, Pairs: 6}).gives(http.StatusCreated, &marked)
	s.post("/api/trials/"+marked.Id.String()+"/ranks", api.NewRanks{Pair: 1, Order: []string{"A", "B"}}).refuses(http.StatusConflict, "marked")
}

func TestTrialsThatCannotBe(t *testing.T) {
	s := opened(t, 2)
	two := []api.TrialGood{{Name: "A"}, {Name: "B"}}
	s.post("/api/trials", api.NewTrial{Question: " ", Goods: two, Pairs: 6}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post("/api/trials", api.NewTrial{Question: "Q", Goods: []api.TrialGood{{Name: "A"}, {Name: "a"}}, Pairs: 6}).refuses(http.StatusUnprocessableEntity, "twice")
	s.post("/api/trials", api.NewTrial{Question: "Q", Goods: two, Control: 2, Pairs: 6}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post("/api/trials", api.NewTrial{Question: "Q", Goods: []api.TrialGood{{Name: "A", Formula: s.batch.Id}, {Name: "B"}}, Pairs: 6}).refuses(http.StatusNotFound, "not-found")
	var tr api.Trial
	s.post("/api/trials", api.NewTrial{Question: "Q", Goods: two, Pairs: 6}).gives(http.StatusCreated, &tr)
	s.post("/api/trials/"+tr.Id.String()+"/end", nil).gives(http.StatusOK, &tr)
	assert.Empty(t, tr.Answer.Comparisons, "nothing was marked")
	var needed api.PairsNeeded
	s.get("/api/trial-pairs?difference=1&spread=1").gives(http.StatusOK, &needed)
	assert.True(t, needed.Enough)
	assert.InDelta(t, 11, needed.Pairs, 2)
	s.get("/api/trial-pairs?difference=0.1&spread=3").gives(http.StatusOK, &needed)
	assert.False(t, needed.Enough)
}

// Why is asked of a good with the workshop's own water, and with what is answered.
func TestWhyIsAskedOfAGood(t *testing.T) {
	s := opened(t, 2)
	var seen []api.WhySeen
	s.get("/api/why").gives(http.StatusOK, &seen)
	assert.Greater(t, len(seen), 40)
	var f api.WhyFound
	s.post("/api/why", api.WhyAsked{Seen: "film on the glasses", Hardness: "320 mg/l", File: formulaFile("Tab", "60 g of washing soda", "20 g of citric acid")}).gives(http.StatusOK, &f)
	assert.Equal(t, "film", f.Seen)
	assert.NotEmpty(t, f.Ask.Test)
	s.post("/api/why", api.WhyAsked{Seen: "film", Answers: []api.WhyAnswer{{Test: f.Ask.Test, Shown: "yes"}}}).gives(http.StatusOK, &f)
	s.post("/api/why", api.WhyAsked{Seen: "the moon is blue"}).refuses(http.StatusUnprocessableEntity, "not-seen")
	s.post("/api/why", api.WhyAsked{Seen: "film", Dose: "blue"}).refuses(http.StatusUnprocessableEntity, "bad-amount")
	s.post("/api/why", api.WhyAsked{Seen: "film", Hardness: "blue"}).refuses(http.StatusUnprocessableEntity, "bad-amount")
	viewer := s.with(s.client, "viewer", api.Viewer)
	viewer.post("/api/why", api.WhyAsked{Seen: "film"}).gives(http.StatusOK, nil)
}

// A photo that shows nothing to go by is not sure; half of the way back is half of the stain.
func TestAStainIsMeasured(t *testing.T) {
	s := opened(t, 1)
	var found api.SwatchFound
	s.post("/api/swatch", api.SwatchPhoto{Jpeg: photo(320, 240)}).gives(http.StatusOK, &found)
	assert.False(t, found.Sure)
	assert.NotEmpty(t, found.Says)
	s.post("/api/swatch", api.SwatchPhoto{Jpeg: []byte("no picture")}).refuses(http.StatusUnprocessableEntity, "no-picture")
	var left api.StainLeft
	s.post("/api/stain", api.StainAsked{Clean: api.LabColour{L: 90}, Stained: api.LabColour{L: 70, A: 10, B: 20}, Washed: api.LabColour{L: 80, A: 5, B: 10}}).gives(http.StatusOK, &left)
	assert.InDelta(t, 0.5, left.Removed, 1e-9)
	assert.Contains(t, left.Says, "50 % of the stain is gone")
	s.post("/api/stain", api.StainAsked{Clean: api.LabColour{L: 90}, Stained: api.LabColour{L: 90}, Washed: api.LabColour{L: 90}}).gives(http.StatusOK, &left)
	assert.False(t, left.Stain)
}

// Photos of a trial are kept beside its marks, stripped of where they were taken; what is left
// of the stain is measured on them, and is a mark where somebody says so. A wrong guess of
// what is cloth and what is stain is put right, and photos of a trial that is over stay.
func TestPhotosOfATrial(t *testing.T) {
	s := opened(t, 2)
	var tr api.Trial
	s.post("/api/trials", api.NewTrial{Question: "Is tea gone?", Better: "lower", Goods: []api.TrialGood{{Name: "water"}, {Name: "Towpath"}}, Pairs: 6}).gives(http.StatusCreated, &tr)
	at := "/api/trials/" + tr.Id.String()
	keep := func(side api.SwatchSide, left float64) *answer {
		photo, err := demo.DrawSwatch(left)
		require.NoError(t, err)
		return s.post(at+"/swatches", api.NewSwatch{Pair: 1, Code: "a", Side: side, Jpeg: photo})
	}
	keep(api.SwatchBefore, 1).gives(http.StatusCreated, &tr)
	swatch := tr.Sheet[0].Codes[0].Swatch
	assert.True(t, swatch.Before.Found.Sure, swatch.Before.Found.Says)
	assert.Nil(t, swatch.Mark, "one photo tells nothing")
	keep(api.SwatchAfter, 0.3).gives(http.StatusCreated, &tr)
	swatch = tr.Sheet[0].Codes[0].Swatch
	require.NotNil(t, swatch.Mark)
	assert.InDelta(t, 3, *swatch.Mark, 0.4, "three tenths of the way in sRGB, and about that in CIELAB")
	first := swatch.After.Id
	keep(api.SwatchAfter, 0.1).gives(http.StatusCreated, &tr)
	swatch = tr.Sheet[0].Codes[0].Swatch
	assert.NotEqual(t, first, swatch.After.Id)
	s.get("/api/swatches/"+first.String()).refuses(http.StatusNotFound, "not-found")
	kept := s.get("/api/swatches/"+swatch.After.Id.String()).gives(http.StatusOK, nil)
	assert.Equal(t, "image/jpeg", kept.header.Get("Content-Type"))

	// the guess is put right
	s.patch("/api/swatches/"+swatch.Before.Id.String(), api.SwatchAreas{Cloth: swatch.Before.Cloth, Stain: swatch.Before.Cloth}).gives(http.StatusOK, &tr)
	assert.False(t, tr.Sheet[0].Codes[0].Swatch.Left.Stain, "cloth against cloth is no stain")
	s.patch("/api/swatches/"+swatch.Before.Id.String(), api.SwatchAreas{Cloth: 99, Stain: 0}).refuses(http.StatusUnprocessableEntity, "bad-value")

	s.post(at+"/swatches", api.NewSwatch{Pair: 9, Code: "A", Side: api.SwatchAfter, Jpeg: photo(64, 48)}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post(at+"/swatches", api.NewSwatch{Pair: 1, Code: "A", Side: api.SwatchAfter, Jpeg: []byte("no picture")}).refuses(http.StatusUnprocessableEntity, "no-picture")
	s.post(at+"/end", nil).gives(http.StatusOK, &tr)
	assert.NotEmpty(t, tr.Sheet[0].Codes[0].Swatch.After.Id, "they stay with the answer")
	keep(api.SwatchAfter, 0).refuses(http.StatusConflict, "ended")
	broken, err := s.store().Verify(t.Context())
	require.NoError(t, err)
	assert.Empty(t, broken)
}
