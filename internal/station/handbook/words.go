package handbook

import (
	"keencrock/api"
	"keencrock/internal/tenant"
)

// houseWords are the words of the screens that are not everybody's.
var houseWords = [][2]string{
	{"batch", "One making of a formula, with its log."},
	{"best before", "The day until which it is as good as new, kept as the label says: of the sort of good, and of its oldest material."},
	{"bench", "Where it is weighed and made, step by step."},
	{"control", "In a trial, what the others are held against."},
	{"crock", "Where a formula is written and read."},
	{"curdled", "Soap that acid turned back to fat: white flakes that clean nothing."},
	{"dose", "How much is taken for one load, one dish, one spray."},
	{"free alkalinity", "Alkali that no acid has spent: what cleans, and what stings."},
	{"good", "What is made here."},
	{"hardness met", "How much of the water’s lime is held or fallen out before the soap comes."},
	{"kiln", "The dark look."},
	{"ledger", "What goods cost and bring, and who has them."},
	{"lot", "What came at once, with its code."},
	{"lumps", "What a powder becomes that drinks water."},
	{"pantry", "What was made."},
	{"rack", "What stands: drying, steeping, resting; and the vats."},
	{"reading", "What is worked out of a formula: a pH, a cost, how long it keeps."},
	{"school", "A way of making: by soap, by surfactant, by plain minerals, by ferment."},
	{"scum", "Soap that hard water has taken."},
	{"shelf", "What was bought."},
	{"slip", "The light look."},
	{"starter", "A formula that comes with the house, to begin from."},
	{"strata", "What a formula, or a cost, is made of, drawn as layers of the crock."},
	{"use", "One load, one dish, one spray."},
	{"water activity", "How much of the water in it is free for what might grow; 1 is all of it."},
}

func words(*tenant.Settings) []api.HandbookTable {
	t := api.HandbookTable{Title: "Words", Columns: []string{"word", "what it means"}}
	for _, w := range houseWords {
		t.Rows = append(t.Rows, row("", w[0], w[1]))
	}
	return []api.HandbookTable{t}
}
