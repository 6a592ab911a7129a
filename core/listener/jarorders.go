package listener

import "time"

// dueSaid reads when something is wanted, where that is what is spoken of or can only be
// meant, and returns where the next token begins.
func (j *jarReader) dueSaid(i int) int {
	if i > 0 && j.toks[i-1].kind == isSign && j.toks[i-1].word == "-" {
		return i
	}
	d, n := dueAt(j.clean[j.toks[i].from:], j.o.Today)
	wanted := j.wanted || j.act >= 0 && !j.fresh && j.acts[j.act].ordered
	if n == 0 || !wanted && (!d.ahead || j.movedSaid()) {
		return i
	}
	end := j.toks[i].from + n
	to := i
	for to < len(j.toks) && j.toks[to].from < end {
		to++
	}
	into := &j.due
	if j.count > 0 && j.hasGood && j.act >= 0 && !j.fresh && !d.day.IsZero() && !j.acts[j.act].due.day.IsZero() { // “two more by Friday”
		j.fresh, j.to, j.toKnown = true, j.acts[j.act].To, j.acts[j.act].Known
		j.alone("", false)
	}
	if j.act >= 0 && !j.fresh {
		into = &j.acts[j.act].due
		j.acts[j.act].ordered = true
	}
	j.wanted = true
	if !d.day.IsZero() {
		into.day = d.day
	}
	if !d.until.IsZero() {
		into.until = d.until
	}
	if d.every > 0 {
		into.every, into.monthly = d.every, d.monthly
	}
	j.becomes(i, to, AsDate, j.lineIfRead())
	return to
}

// movedSaid reports whether it was said that the jars went or came: then no day to come is
// meant.
func (j *jarReader) movedSaid() bool {
	return j.kind != "" || j.act >= 0 && !j.fresh && j.acts[j.act].said
}

// isDue reports whether a day to come begins at a token.
func (j *jarReader) isDue(i int) bool {
	d, n := dueAt(j.clean[j.toks[i].from:], j.o.Today)
	return n > 0 && d.ahead
}

// usual makes a line of a number that is wanted and of which nobody said what: “40 more”.
func (j *jarReader) usual() {
	wanted := j.wanted || j.act >= 0 && !j.fresh && j.acts[j.act].ordered
	if j.count == 0 || !wanted {
		return
	}
	a := j.now("")
	if len(a.Lines) == 0 {
		a.ordered = true
		a.Lines = append(a.Lines, MovedLine{Good: -1, Count: j.count})
		j.becomes(j.countAt, j.countAt+1, AsAmount, a.line)
	}
	j.count = 0
}

// wholeOrder asks for what an order lacks.
func (j *jarReader) wholeOrder(a *actSaid) {
	d := &a.due
	if d.day.IsZero() && d.every > 0 { // the first is wanted when the first such time is over
		d.day = time.Date(j.o.Today.Year(), j.o.Today.Month(), j.o.Today.Day(), 0, 0, 0, 0, j.o.Today.Location()).AddDate(0, 0, 7*d.every)
	}
	if len(a.Lines) > 0 && d.day.IsZero() {
		j.doubt("no-day", "For which day are they wanted? Say “by Friday week”, “for 12 June”, “every Saturday”.")
	}
	if d.monthly {
		j.doubt("monthly", "Every month is planned as every four weeks.")
	}
	if !d.until.IsZero() && d.every == 0 {
		j.doubt("until", "Until when is of what is wanted again and again: say how often.")
	}
}

// orders are what is wanted.
func (j *jarReader) orders() []Ordered {
	out := []Ordered{}
	for _, a := range j.acts {
		if len(a.Lines) > 0 && a.ordered {
			out = append(out, Ordered{To: a.To, Known: a.Known, Lines: a.Lines, Day: a.due.day, EveryWeeks: a.due.every, Until: a.due.until})
		}
	}
	return out
}
