package web_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// Every page opens, has rows, and leads only where there is something; its numbers are those of
// published definitions where there are some (a US cup is 236.588 ml, a metric one 250; NIST
// Handbook 44, appendix C), and of the tables the program works by.
func TestTheHandbookSaysWhatTheProgramWorksBy(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var pages []api.HandbookPage
	c.get("/api/handbook").gives(http.StatusOK, &pages)
	require.GreaterOrEqual(t, len(pages), 9)
	for _, p := range pages {
		var one api.HandbookPage
		c.get("/api/handbook/"+p.Page).gives(http.StatusOK, &one)
		require.NotEmpty(t, one.Tables, p.Page)
		for _, table := range one.Tables {
			require.NotEmpty(t, table.Rows, "%s: %s", p.Page, table.Title)
			for _, r := range table.Rows {
				require.Len(t, r.Cells, len(table.Columns), "%s: %v", p.Page, r.Cells)
				if p.Page != "words" {
					assert.NotEmpty(t, r.Source, "%s: %v has a source, or says it is from memory", p.Page, r.Cells)
				}
			}
		}
	}
	var measures api.HandbookPage
	c.get("/api/handbook/measures").gives(http.StatusOK, &measures)
	cup := measures.Tables[0].Rows[0].Cells
	assert.Equal(t, []string{"1 cup", "236.59", "250", "284.13", "250"}, cup)
	c.get("/api/handbook/moon").refuses(http.StatusNotFound, "not-found")

	var found []api.HandbookPage
	c.get("/api/handbook?find=borax+swallowed").gives(http.StatusOK, &found)
	require.NotEmpty(t, found)
	assert.Equal(t, "cautions", found[0].Page)
	c.get("/api/handbook?find=chalk+moon").gives(http.StatusOK, &found)
	assert.Empty(t, found)
}
