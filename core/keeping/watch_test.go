package keeping_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/core/keeping"
)

var begun = time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)

func after(days int) time.Time { return begun.AddDate(0, 0, days) }

// A jar that is said to keep 120 days is looked at every 30, until 180.
func TestLooksComeRoundInQuartersOfALife(t *testing.T) {
	w := keeping.Watch{Made: begun, BestBefore: after(120), Kept: begun}
	var got []int
	for range 20 {
		on, ok := w.Next()
		if !ok {
			break
		}
		got = append(got, int(on.Sub(begun).Hours()/24))
		w.Looks = append(w.Looks, keeping.Look{On: on, Good: true})
	}
	assert.Equal(t, []int{30, 60, 90, 120, 150, 180}, got)
	assert.Equal(t, keeping.Lasted, w.Outcome())
	assert.Contains(t, w.Says(), "does not make the date longer")
	_, early := w.SeenDays()
	assert.False(t, early)

	w = keeping.Watch{Made: begun, BestBefore: after(120), Kept: after(70), Looks: []keeping.Look{{On: after(80), Good: true}}}
	on, ok := w.Next()
	require.True(t, ok)
	assert.Equal(t, after(120), on, "a look ten days before counts for day 90")

	short := keeping.Watch{Made: begun, BestBefore: after(3), Kept: begun}
	on, _ = short.Next()
	assert.Equal(t, after(2), on, "never more often than every second day")
}

func TestWhatAWatchShows(t *testing.T) {
	look := func(day int, good bool, signs ...string) keeping.Look {
		return keeping.Look{On: after(day), Good: good, Signs: signs}
	}
	for name, c := range map[string]struct {
		looks []keeping.Look
		out   keeping.Outcome
		keeps int
	}{
		"nobody looked":              {nil, keeping.Watching, 0},
		"good so far":                {[]keeping.Look{look(30, true), look(60, true, "lumps")}, keeping.Watching, 0},
		"gone early":                 {[]keeping.Look{look(30, true), look(60, false, "mould")}, keeping.GoneEarly, 30},
		"gone at the first look":     {[]keeping.Look{look(60, false, "smell")}, keeping.GoneEarly, 30},
		"gone on the second day":     {[]keeping.Look{look(1, false, "swollen")}, keeping.GoneEarly, 1},
		"good on its last day":       {[]keeping.Look{look(120, true)}, keeping.Lasted, 0},
		"lasted, then gone":          {[]keeping.Look{look(125, true), look(150, false, "mould")}, keeping.Lasted, 0},
		"gone after, good before it": {[]keeping.Look{look(90, true), look(130, false, "mould")}, keeping.GoneLate, 0},
	} {
		w := keeping.Watch{Made: begun, BestBefore: after(120), Kept: begun, Looks: c.looks}
		assert.Equal(t, c.out, w.Outcome(), name)
		keeps, _ := w.SeenDays()
		assert.Equal(t, c.keeps, keeps, name)
		assert.NotEmpty(t, w.Says(), name)
		_, more := w.Next()
		assert.Equal(t, len(c.looks) == 0 || c.looks[len(c.looks)-1].Good, more, name)
	}
}

// What is dangerous is said with what to do, and what shows it is gone. Common practice.
func TestSignsThatAreDangerousSaySo(t *testing.T) {
	for _, code := range []string{"mould", "swollen", "leaks"} {
		s := keeping.SignOf(code)
		require.NotNil(t, s)
		assert.True(t, s.Gone, code)
		assert.NotEmpty(t, s.Caution, code)
	}
	assert.Contains(t, keeping.SignOf("swollen").Caution, "burst")
	for _, code := range []string{"curdled", "smell", "no-fizz"} {
		assert.True(t, keeping.SignOf(code).Gone, code)
	}
	for _, code := range []string{"lumps", "parted", "colour", "weak", "thick"} {
		assert.False(t, keeping.SignOf(code).Gone, code)
	}
	assert.Nil(t, keeping.SignOf("moon"))
}

func TestAJarThatWentShortensTheNext(t *testing.T) {
	l := keeping.BySample(begun, "HERON-1", 26)
	assert.Equal(t, after(26), l.Date)
	assert.Contains(t, l.Reason, "HERON-1")
}
