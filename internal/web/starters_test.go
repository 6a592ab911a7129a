package web_test

import (
	"fmt"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// From an empty workshop to a batch on the bench: a starter is taken, what is there is
// noted in its own words, and the batch begins; each once, however often it is asked.
func TestAStarterIsTakenAndMade(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var all []api.Starter
	c.get("/api/starters").gives(http.StatusOK, &all)
	var formulas []api.FormulaSummary
	c.get("/api/formulas").gives(http.StatusOK, &formulas)
	require.Empty(t, formulas, "a starter is nobody's until it is taken")
	var powder api.Starter
	for _, s := range all {
		if s.Id == "wash-powder-borax" {
			powder = s
		}
	}
	require.Len(t, powder.Lines, 3)
	assert.Equal(t, "borax-and-children", powder.Cautions[0].Code)
	assert.Zero(t, powder.Lines[0].EnoughFor)

	var taken, again api.StoredFormula
	key := uuid.NewString()
	c.keyed(key, "POST", "/api/starters/wash-powder-borax/taken", `{"by": "scoop"}`).gives(http.StatusCreated, &taken)
	c.keyed(key, "POST", "/api/starters/wash-powder-borax/taken", `{"by": "scoop"}`).gives(http.StatusCreated, &again)
	assert.Equal(t, taken.Id, again.Id)
	assert.Equal(t, "7 cups", taken.File.Lines[0].Amount)
	assert.Equal(t, powder.School, taken.File.School)
	assert.Contains(t, taken.File.Notes, "From the starters, version 1.")
	assert.NotEmpty(t, taken.File.Steps)

	c.post("/api/deliveries/taken", api.SaidNote{Text: "1 kg Soap flakes, no price yet; 500 g Washing soda, no price yet; 2 cups Borax, no price yet"}).gives(http.StatusCreated, nil)
	c.get("/api/starters").gives(http.StatusOK, &all)
	for _, s := range all {
		if s.Id == powder.Id {
			assert.InDelta(t, 2.5, s.Lines[0].EnoughFor, 1e-9, "the shelf goes for two and a half")
		}
	}
	var batch api.Batch
	c.post("/api/batches", api.NewBatch{Formula: taken.Id, Target: api.Target{Factor: 1}}).gives(http.StatusCreated, &batch)
	assert.Equal(t, "7 cups", batch.Lines[0].Scoop)
	c.post("/api/starters/no-such/taken", api.TakeStarter{By: api.TakeStarterByWeight}).refuses(http.StatusNotFound, "no-starter")
}

// What is ticked is noted in a line of words: the words for everything that goes into a
// starter are read as that.
func TestWhatAStarterTakesIsReadInADelivery(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var all []api.Starter
	c.get("/api/starters").gives(http.StatusOK, &all)
	names := map[string]string{}
	for _, s := range all {
		for _, l := range s.Lines {
			names[l.Name] = l.Material
		}
	}
	for name, material := range names {
		var read api.SaidDelivery
		c.post("/api/deliveries/said", api.SaidNote{Text: fmt.Sprintf("500 g %s, no price yet; 1 kg Borax, no price yet", name)}).gives(http.StatusOK, &read)
		if assert.Len(t, read.Lots, 2, name) {
			assert.Equal(t, material, read.Lots[0].Material, name)
			assert.InDelta(t, 500, read.Lots[0].MassG, 1e-9, name)
		}
		assert.Empty(t, read.Questions, name)
	}
}
