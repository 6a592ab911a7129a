package calendar_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	"github.com/emersion/go-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/exchange/calendar"
)

// What is written is read back by another library, which works out what comes round, too.
func TestACalendarIsReadBackByAnother(t *testing.T) {
	day := time.Date(2026, 6, 5, 0, 0, 0, 0, time.UTC)
	name := "Lockside Works; plan, of “Häger”"
	long := "24 jars, then it dries in the tray; " + strings.Repeat("über die ganze Zeit, ", 9) + "\nand a new line"
	var b bytes.Buffer
	require.NoError(t, calendar.Write(&b, name, day.Add(9*time.Hour), []calendar.Event{
		{ID: "make-1", Title: "Make Heron, 60 min", Detail: long, From: day},
		{ID: "stir", Title: "Stir: Bittern vat", From: day, EveryDays: 3},
		{ID: "dry", Title: "Heron dries", From: day, Days: 2},
	}))
	for line := range strings.SplitSeq(strings.TrimSuffix(b.String(), "\r\n"), "\r\n") {
		assert.LessOrEqual(t, len(line), 75, "RFC 5545, 3.1: %q", line)
		assert.NotContains(t, line, "\n")
	}
	c, err := ical.NewDecoder(&b).Decode()
	require.NoError(t, err)
	text, err := c.Props.Text("NAME")
	require.NoError(t, err)
	assert.Equal(t, name, text)
	events := c.Events()
	require.Len(t, events, 3)
	title, err := events[0].Props.Text(ical.PropSummary)
	require.NoError(t, err)
	assert.Equal(t, "Make Heron, 60 min", title)
	detail, err := events[0].Props.Text(ical.PropDescription)
	require.NoError(t, err)
	assert.Equal(t, long, detail)
	from, err := events[2].DateTimeStart(time.UTC)
	require.NoError(t, err)
	to, err := events[2].DateTimeEnd(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, []time.Time{day, day.AddDate(0, 0, 2)}, []time.Time{from, to}, "two whole days")
	round, err := events[1].RecurrenceSet(time.UTC)
	require.NoError(t, err)
	assert.Equal(t, []time.Time{day, day.AddDate(0, 0, 3), day.AddDate(0, 0, 6)}, round.Between(day, day.AddDate(0, 0, 8), true))
	var empty bytes.Buffer
	require.NoError(t, calendar.Write(&empty, "nothing yet", day, nil))
	assert.Contains(t, empty.String(), "END:VCALENDAR")
}
