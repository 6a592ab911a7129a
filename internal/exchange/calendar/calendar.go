// Package calendar writes days as a calendar file (RFC 5545), for the calendar somebody keeps
// anyway.
package calendar

import (
	"fmt"
	"io"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Event is what stands on a day, or comes round.
type Event struct {
	ID        string // the same each time the same thing is written
	Title     string
	Detail    string
	From      time.Time // a day, at midnight UTC
	Days      int       // that it takes; 0 for one
	EveryDays int       // that it comes round in; 0 for once
}

// product names the program that wrote a calendar, in the form the standard asks for.
const product = "-//Keen Crock//Almanac//EN"

// Write writes events as whole days, which are the same wherever they are read: a calendar
// that is looked at again every few hours.
func Write(w io.Writer, name string, now time.Time, events []Event) error {
	c := ics.NewCalendarFor(product)
	c.SetProductId(product)
	c.SetMethod(ics.MethodPublish)
	c.SetName(name)
	c.SetXWRCalName(name)
	c.SetRefreshInterval("PT6H")
	for _, e := range events {
		one := c.AddEvent(e.ID + "@keencrock")
		one.SetDtStampTime(now)
		one.SetSummary(e.Title)
		if e.Detail != "" {
			one.SetDescription(e.Detail)
		}
		one.SetAllDayStartAt(e.From)
		one.SetAllDayEndAt(e.From.AddDate(0, 0, max(1, e.Days)))
		one.SetTimeTransparency(ics.TransparencyTransparent)
		if e.EveryDays > 0 {
			one.AddRrule(fmt.Sprintf("FREQ=DAILY;INTERVAL=%d", e.EveryDays))
		}
	}
	return c.SerializeTo(w, ics.WithNewLineWindows)
}
