package web_test

import (
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// What was found to be the cause stays with the good and the batch, counts at the next question,
// stands in the record of the batch, and is taken back by one act.
func TestACauseThatWasFoundCounts(t *testing.T) {
	s := opened(t, 4)
	ask := func() *api.WhyFound {
		var f api.WhyFound
		s.post("/api/why", api.WhyAsked{Seen: "film"}).gives(http.StatusOK, &f)
		return &f
	}
	oddsOf := func(f *api.WhyFound, cause string) (float64, int) {
		for _, c := range f.Causes {
			if c.Cause == cause {
				return c.Odds, c.Here
			}
		}
		t.Fatalf("no cause %s", cause)
		return 0, 0
	}
	first := ask()
	assert.Zero(t, first.FoundHere)
	cause := first.Causes[2].Cause
	was, _ := oddsOf(first, cause)
	var found api.FoundCause
	for range 2 {
		s.post("/api/found-causes", api.NewFoundCause{Seen: "film", Cause: cause, Batch: s.batch.Id, Note: "wiped off with vinegar"}).gives(http.StatusCreated, &found)
	}
	assert.Equal(t, s.formula.Id, found.Formula, "that of the batch")
	assert.Equal(t, s.batch.Code, found.Code)
	assert.NotEqual(t, cause, found.Says, "in words")
	now, here := oddsOf(ask(), cause)
	assert.Greater(t, now, was)
	assert.Equal(t, 2, here)
	var of []api.FoundCause
	s.get("/api/found-causes?formula="+s.formula.Id.String()).gives(http.StatusOK, &of)
	assert.Len(t, of, 2)
	s.get("/api/found-causes?formula="+uuid.NewString()).gives(http.StatusOK, &of)
	assert.Empty(t, of)

	record := pdfWords(t, s.get("/api/batches/"+s.batch.Id.String()+"/record").gives(http.StatusOK, nil).body)
	assert.Contains(t, record, "Found to be the cause")
	assert.Contains(t, record, "wiped off with vinegar")

	s.call("DELETE", "/api/found-causes/"+found.Id.String(), nil).gives(http.StatusNoContent, nil)
	s.call("DELETE", "/api/found-causes/"+found.Id.String(), nil).refuses(http.StatusNotFound, "not-found")
	_, here = oddsOf(ask(), cause)
	assert.Equal(t, 1, here)
	s.get("/api/found-causes").gives(http.StatusOK, &of)
	require.Len(t, of, 1)

	s.post("/api/found-causes", api.NewFoundCause{Seen: "film", Cause: "moon"}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post("/api/found-causes", api.NewFoundCause{Seen: "moon", Cause: cause}).refuses(http.StatusUnprocessableEntity, "bad-value")
	s.post("/api/found-causes", api.NewFoundCause{Seen: "film", Cause: cause, Formula: uuid.New()}).refuses(http.StatusNotFound, "not-found")
	viewer := s.with(s.client, "viewer", api.Viewer)
	viewer.post("/api/found-causes", api.NewFoundCause{Seen: "film", Cause: cause}).refuses(http.StatusForbidden, "not-allowed")
	viewer.get("/api/found-causes").gives(http.StatusOK, nil)
}
