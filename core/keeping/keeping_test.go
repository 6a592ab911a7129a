package keeping_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/keeping"
)

var made = time.Date(2026, 6, 1, 0, 0, 0, 0, time.UTC)

// What makers commonly see of each sort of good (common practice).
func TestClassOfCommonGoods(t *testing.T) {
	for name, c := range map[string]struct {
		makeup keeping.Makeup
		want   keeping.Class
	}{
		"laundry powder":           {keeping.Makeup{}, keeping.Dry},
		"powder with percarbonate": {keeping.Makeup{Peroxide: true}, keeping.DryBleach},
		"toilet bomb":              {keeping.Makeup{AcidAndSoda: true}, keeping.Effervescent},
		"vinegar spray":            {keeping.Makeup{Wet: true, Water: 0.5, StrongAcid: 0.025}, keeping.WetStrong},
		"diluted soap":             {keeping.Makeup{Wet: true, Water: 0.95, Soap: 0.02}, keeping.WetMild},
		"diluted soap, preserved":  {keeping.Makeup{Wet: true, Water: 0.95, Soap: 0.02, Preserved: true}, keeping.WetPreserved},
		"strong soap":              {keeping.Makeup{Wet: true, Water: 0.6, Soap: 0.3}, keeping.WetSoap},
		"soap with vinegar":        {keeping.Makeup{Wet: true, Water: 0.8, Soap: 0.05, StrongAcid: 0.03}, keeping.WetMild},
		"glass spray":              {keeping.Makeup{Wet: true, Water: 0.6, Alcohol: 0.3}, keeping.WithAlcohol},
		"peroxide spray":           {keeping.Makeup{Wet: true, Water: 0.9, Peroxide: true}, keeping.WithPeroxide},
		"peel ferment":             {keeping.Makeup{Wet: true, Kind: "ferment", Water: 0.8}, keeping.Ferment},
		"soap-nut water":           {keeping.Makeup{Wet: true, Kind: "soap-nut-extract", Water: 0.9}, keeping.SoapNutLiquid},
		"lemon juice spray":        {keeping.Makeup{Wet: true, Water: 0.9, StrongAcid: 0.03, PerishableLeft: true}, keeping.WetMild},
	} {
		assert.Equal(t, c.want.Code, keeping.Classify(c.makeup).Code, name)
	}
}

func TestBestBeforeNamesWhatLimitsIt(t *testing.T) {
	fresh := keeping.Ingredient{Name: "Borax", Lot: "B1", BestBefore: made.AddDate(4, 0, 0)}
	old := keeping.Ingredient{Name: "Citric acid", Lot: "C1", BestBefore: made.AddDate(0, 2, 0)}
	opened := keeping.Ingredient{Name: "Oxygen bleach", Lot: "O1", Opened: made.AddDate(0, -5, -20), OpenDays: 180}

	first, all := keeping.BestBefore(made, keeping.Dry, []keeping.Ingredient{fresh})
	assert.Equal(t, "class", first.By)
	assert.Equal(t, made.AddDate(0, 0, 730), first.Date)
	assert.Len(t, all, 2)

	first, _ = keeping.BestBefore(made, keeping.Dry, []keeping.Ingredient{fresh, old})
	assert.Equal(t, "lot", first.By)
	assert.Contains(t, first.Reason, "lot C1")

	first, _ = keeping.BestBefore(made, keeping.Dry, []keeping.Ingredient{fresh, old, opened})
	assert.Equal(t, "opened", first.By)
	assert.Contains(t, first.Reason, "keeps 180 days open")
}

func TestBestBeforeIsNeverLaterThanAnyLimit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var ingredients []keeping.Ingredient
		for range rapid.IntRange(0, 8).Draw(t, "ingredients") {
			ingredients = append(ingredients, keeping.Ingredient{
				BestBefore: made.AddDate(0, 0, rapid.IntRange(-10, 2000).Draw(t, "date")),
				Opened:     made.AddDate(0, 0, -rapid.IntRange(0, 400).Draw(t, "opened")),
				OpenDays:   rapid.IntRange(0, 900).Draw(t, "open"),
			})
		}
		first, all := keeping.BestBefore(made, keeping.Effervescent, ingredients)
		for _, l := range all {
			require.False(t, l.Date.Before(first.Date))
		}
	})
}

func TestLifeFromNew(t *testing.T) {
	life := keeping.FromNew(keeping.Dry, []keeping.Ingredient{{Name: "Borax", SealedDays: 1825}, {Name: "Oxygen bleach", SealedDays: 540}})
	assert.Equal(t, 540, life.Days)
	assert.Equal(t, "Oxygen bleach", life.LimitedBy)
	life = keeping.FromNew(keeping.WetMild, nil)
	assert.Equal(t, "wet-mild", life.LimitedBy)
	assert.Equal(t, 14, life.Days)
}
