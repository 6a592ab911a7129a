package tenant

import (
	"strconv"
	"strings"

	"github.com/google/uuid"

	"keencrock/internal/problem"
)

// What the rows of any sheet say in the same way.

// FormulaNamed is the formula of a name as somebody wrote it, the one that was there first where
// several have it; ok is false where none has.
func FormulaNamed(names map[uuid.UUID]string, written string) (id uuid.UUID, ok bool) {
	written = strings.TrimSpace(written)
	for known, name := range names {
		if strings.EqualFold(name, written) && (!ok || known.String() < id.String()) {
			id, ok = known, true
		}
	}
	return id, ok
}

// WholeNumber reads a whole number of a cell, which a spreadsheet may have written as 3.0; the
// least where nothing is written. The error says between which it may be.
func WholeNumber(text, field string, least, most int) (int, error) {
	text = strings.TrimSpace(text)
	if text == "" {
		return least, nil
	}
	x, err := strconv.ParseFloat(text, 64)
	if err != nil || x != float64(int(x)) || int(x) < least || int(x) > most {
		return 0, problem.Unfit("bad-value", "“%s” is no whole number from %d to %d.", text, least, most).At(field)
	}
	return int(x), nil
}
