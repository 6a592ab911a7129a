package exchange

import (
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/internal/problem"
)

// How many rows a page has, and at most.
const (
	defaultPage = 50
	maxPage     = 200
)

// PageLimit is how many rows are on a page of n; the usual for 0.
func PageLimit(n int) int {
	if n <= 0 {
		return defaultPage
	}
	return min(n, maxPage)
}

// PageAfter marks the page that follows a row by its time and id.
func PageAfter(t time.Time, id uuid.UUID) string {
	return t.UTC().Format(time.RFC3339Nano) + "," + id.String()
}

// ParsePage reads the mark of a page; zero for the first.
func ParsePage(after string) (t time.Time, id uuid.UUID, err error) {
	if after == "" {
		return t, id, nil
	}
	at, idText, _ := strings.Cut(after, ",")
	if t, err = time.Parse(time.RFC3339Nano, at); err == nil {
		id, err = uuid.Parse(idText)
	}
	if err != nil {
		return t, id, problem.Malformed("bad-page", "That page is not known: begin at the first.").At("after")
	}
	return t, id, nil
}
