package quantity_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/quantity"
)

const day = 24 * time.Hour

func TestParseWaitReadsWhatPeopleWrite(t *testing.T) {
	for written, want := range map[string]quantity.Wait{
		"":                      {},
		"10 min":                {Low: 10 * time.Minute, High: 10 * time.Minute},
		"5–10 min":              {Low: 5 * time.Minute, High: 10 * time.Minute},
		"5-10 minutes":          {Low: 5 * time.Minute, High: 10 * time.Minute},
		"30 to 40 min":          {Low: 30 * time.Minute, High: 40 * time.Minute},
		"24h":                   {Low: day, High: day},
		"1 h 30 min":            {Low: 90 * time.Minute, High: 90 * time.Minute},
		"an hour":               {Low: time.Hour, High: time.Hour},
		"half an hour":          {Low: 30 * time.Minute, High: 30 * time.Minute},
		"two days":              {Low: 2 * day, High: 2 * day},
		"a day or two":          {Low: day, High: 2 * day},
		"1–4 weeks":             {Low: 7 * day, High: 28 * day},
		"about 2 months":        {Low: 60 * day, High: 60 * day},
		"30 min to 1 h":         {Low: 30 * time.Minute, High: time.Hour},
		"overnight":             {Low: 8 * time.Hour, High: 12 * time.Hour},
		"1.5 h":                 {Low: 90 * time.Minute, High: 90 * time.Minute},
		"one and a half hours":  {Low: 90 * time.Minute, High: 90 * time.Minute},
		"an hour and a half":    {Low: 90 * time.Minute, High: 90 * time.Minute},
		"two days and a half":   {Low: 60 * time.Hour, High: 60 * time.Hour},
		"an hour and a quarter": {Low: 75 * time.Minute, High: 75 * time.Minute},
	} {
		got, err := quantity.ParseWait(written)
		require.NoError(t, err, written)
		assert.Equal(t, want, got, written)
	}
	for _, bad := range []string{"soon", "10", "10 g", "10 min later", "-3 h", "10–5 min", "0 h", "99 years", "900 months"} {
		_, err := quantity.ParseWait(bad)
		assert.Error(t, err, bad)
	}
}

func TestAWaitIsFoundInASentence(t *testing.T) {
	for text, want := range map[string]string{
		"Simmer the nuts for 30–40 min, then let them cool.": "30–40 min",
		"Leave it overnight.":                       "8–12 h",
		"Mix 3 cups of soda well":                   "",
		"Stir it every three days for two weeks":    "3 days",
		"let it dry for at least a day":             "1 day",
		"Add 2 tbsp of vinegar, wait (10 minutes).": "10 min",
	} {
		w, _ := quantity.FindWait(text)
		assert.Equal(t, want, w.String(), text)
	}
}

func TestAWaitPrintedIsReadAsTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		unit := rapid.SampledFrom([]time.Duration{time.Second, time.Minute, time.Hour, day, 7 * day}).Draw(t, "unit")
		low := time.Duration(rapid.IntRange(1, 90).Draw(t, "low")) * unit
		w := quantity.Wait{Low: low, High: low + time.Duration(rapid.IntRange(0, 90).Draw(t, "more"))*unit}
		again, err := quantity.ParseWait(w.String())
		require.NoError(t, err, w.String())
		require.Equal(t, w, again, w.String())
	})
}
