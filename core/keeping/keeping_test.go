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
