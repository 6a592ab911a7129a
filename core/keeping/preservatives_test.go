package keeping_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/keeping"
	"keencrock/core/material"
)

// Each preservative at its lines: so much of it works and a tenth less does not, between
// these pH and not a tenth beyond. Of sorbic and benzoic acid 0.03 % undissociated (common
// practice), at a pH where half of it is (their pKa, CRC Handbook); of the others what sellers
// advise, from memory.
func TestEveryPreservativeAtItsLines(t *testing.T) {
	for id, c := range map[string]struct{ share, low, high float64 }{
		"potassium-sorbate":   {0.0003 / (0.746 / 2), 0, 4.76},
		"sodium-benzoate":     {0.0003 / (0.847 / 2), 0, 4.20},
		"dehydroacetic-blend": {0.004, 2, 6.5},
		"benzyl-alcohol":      {0.005, 3, 8.5},
		"paraben-blend":       {0.002, 4, 8},
		"methylparaben":       {0.001, 4, 8},
		"propylparaben":       {0.0005, 4, 8},
		"phenoxyethanol":      {0.005, 3, 10},
		"isothiazolinone":     {0.0005, 4, 9},
		"preservative":        {0.003, 4, 7.5},
	} {
		m, err := material.Shipped().Find(id)
		require.NoError(t, err)
		works := func(share, ph float64) bool {
			p, ok := keeping.Preserves(m, share, at(ph), true)
			require.True(t, ok, id)
			return p.Works
		}
		assert.True(t, works(c.share*1.01, c.high), "%s at its high end", id)
		assert.False(t, works(c.share*0.9, c.high), "%s, too little", id)
		assert.False(t, works(c.share*1.01, c.high+0.1), "%s above it", id)
		if c.low > 0 {
			assert.True(t, works(c.share*1.01, c.low), "%s at its low end", id)
			assert.False(t, works(c.share*1.01, c.low-0.1), "%s below it", id)
		}
	}
}

// Each class keeps as long as it is said to: common practice, and the lines of the classes
// (21 CFR 114 and 110, ISO 29621) on both sides.
func TestEveryClassAtItsLine(t *testing.T) {
	wet := func(change func(*keeping.Bottle)) keeping.Class {
		b := keeping.Bottle{Wet: true, PH: at(7), Fresh: at(7), Aired: at(7), PHKnown: true}
		change(&b)
		return keeping.Classify(&b)
	}
	ph := func(v float64) func(*keeping.Bottle) {
		return func(b *keeping.Bottle) { b.PH, b.Fresh, b.Aired = at(v), at(v), at(v) }
	}
	for what, c := range map[string]struct {
		got  keeping.Class
		code string
		days int
	}{
		"dry":                      {keeping.Classify(&keeping.Bottle{}), "dry", 730},
		"dry bleach":               {keeping.Classify(&keeping.Bottle{Peroxide: true}), "dry-bleach", 180},
		"fizz":                     {keeping.Classify(&keeping.Bottle{AcidAndSoda: true}), "effervescent", 270},
		"pH 4.19":                  {wet(ph(4.19)), "wet-strong", 365},
		"pH 4.2":                   {wet(ph(4.2)), "wet-mild", 14},
		"pH 10.01":                 {wet(ph(10.01)), "wet-strong", 365},
		"pH 10":                    {wet(ph(10)), "wet-alkaline", 180},
		"pH 9.51":                  {wet(ph(9.51)), "wet-alkaline", 180},
		"pH 9.5":                   {wet(ph(9.5)), "wet-mild", 14},
		"air takes it to 9.4":      {wet(func(b *keeping.Bottle) { ph(10.6)(b); b.Aired = at(9.4) }), "wet-mild", 14},
		"closed at 8.3":            {wet(func(b *keeping.Bottle) { ph(10.1)(b); b.Fresh = at(8.3) }), "wet-mild", 14},
		"sour only once vented":    {wet(func(b *keeping.Bottle) { ph(4)(b); b.Fresh = at(4.5) }), "wet-mild", 14},
		"a fifth of alcohol":       {wet(func(b *keeping.Bottle) { b.Alcohol = 0.2 }), "with-alcohol", 730},
		"19.9 % of alcohol":        {wet(func(b *keeping.Bottle) { b.Alcohol = 0.199 }), "wet-mild", 14},
		"activity 0.85":            {wet(func(b *keeping.Bottle) { b.WaterActivity = 0.85 }), "wet-strong", 365},
		"activity 0.86":            {wet(func(b *keeping.Bottle) { b.WaterActivity = 0.86 }), "wet-mild", 14},
		"soap 15 % at 9.1":         {wet(func(b *keeping.Bottle) { ph(9.1)(b); b.Soap = 0.15 }), "wet-soap", 365},
		"soap 15 % at 9":           {wet(func(b *keeping.Bottle) { ph(9)(b); b.Soap = 0.15 }), "wet-mild", 14},
		"soap 14 %":                {wet(func(b *keeping.Bottle) { ph(9.1)(b); b.Soap = 0.14 }), "wet-mild", 14},
		"a ferment fifth at 4.5":   {wet(func(b *keeping.Bottle) { ph(4.5)(b); b.Ferment = 0.2 }), "ferment", 365},
		"a ferment fifth at 4.6":   {wet(func(b *keeping.Bottle) { ph(4.6)(b); b.Ferment = 0.2 }), "wet-mild", 14},
		"less of a ferment":        {wet(func(b *keeping.Bottle) { ph(4.5)(b); b.Ferment = 0.19 }), "wet-mild", 14},
		"infused at 4.1":           {wet(func(b *keeping.Bottle) { ph(4.1)(b); b.Infused = true }), "infused-vinegar", 365},
		"fruit with salt, cooked":  {wet(func(b *keeping.Bottle) { ph(4)(b); b.Perishable, b.Cooked, b.Salt = true, true, 0.05 }), "sour-salted", 90},
		"fruit with less salt":     {wet(func(b *keeping.Bottle) { ph(4)(b); b.Perishable, b.Cooked, b.Salt = true, true, 0.049 }), "wet-perishable", 7},
		"peroxide at 8":            {wet(func(b *keeping.Bottle) { ph(8)(b); b.Peroxide = true }), "with-peroxide", 30},
		"peroxide at 8.1":          {wet(func(b *keeping.Bottle) { ph(8.1)(b); b.Peroxide = true }), "peroxide-spent", 1},
		"bleach as it is sold":     {wet(func(b *keeping.Bottle) { ph(12)(b); b.Chlorine = 0.9 }), "with-bleach", 90},
		"bleach, thinned":          {wet(func(b *keeping.Bottle) { ph(12)(b); b.Chlorine = 0.89 }), "bleach-thinned", 1},
		"half a preserved base":    {wet(func(b *keeping.Bottle) { b.PreservedBase = 0.5 }), "wet-preserved", 365},
		"less of a preserved base": {wet(func(b *keeping.Bottle) { b.PreservedBase = 0.49 }), "wet-mild", 14},
		"soap-nut water":           {wet(func(b *keeping.Bottle) { b.SoapNut = true }), "soap-nut", 10},
		"fresh fruit":              {wet(func(b *keeping.Bottle) { b.Perishable = true }), "wet-perishable", 7},
		"a bar of soap":            {wet(func(b *keeping.Bottle) { b.Saponified = true }), "bar-soap", 730},
		"soap nut in a ferment": {wet(func(b *keeping.Bottle) {
			b.PH = at(5)
			b.PH.Low = 4.5
			b.Fresh = b.PH
			b.SoapNut, b.Ferment = true, 0.2
		}), "ferment", 365},
		"a ferment measured at 4.6": {wet(func(b *keeping.Bottle) { ph(4.6)(b); b.Ferments, b.PHMeasured = true, true }), "wet-mild", 14},
		"a ferment measured at 4.5": {wet(func(b *keeping.Bottle) { ph(4.5)(b); b.Ferments, b.PHMeasured = true, true }), "ferment", 365},
	} {
		assert.Equal(t, c.code, c.got.Code, what)
		assert.Equal(t, c.days, c.got.Days, what)
	}
	assert.Equal(t, 28, keeping.BarSoap.ReadyDays)
	assert.Equal(t, 90, keeping.FermentToRipen.ReadyDays)
}
