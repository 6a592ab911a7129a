package web_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// Another spelling of an address is no way round the contract: it reaches
// nothing at all.
func TestOneAddressForOneThing(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	body := formulaFile("Slipped in", "1 cup of borax")
	for _, path := range []string{"/api/formulas/", "/API/formulas", "/api/Formulas", "//api/formulas", "/api//formulas", "/api/formulas%2F", "/api/nothing", "/api", "/api/"} {
		a := c.post(path, body)
		assert.Equal(t, http.StatusNotFound, a.status, "%s: %s", a.what, a.body)
	}
	assert.Equal(t, "[]", string(c.get("/api/formulas").gives(http.StatusOK, nil).body), "nothing was kept")
}

func TestAWrongMethodIsToldTheRightOnes(t *testing.T) {
	c := open(t).founded("marl")
	a := c.call("DELETE", "/api/formulas", nil)
	a.refuses(http.StatusMethodNotAllowed, "wrong-method")
	assert.Equal(t, "GET, HEAD, POST", a.header.Get("Allow"))
	c.call("PATCH", "/api/batches/"+uuid.NewString(), nil).refuses(http.StatusMethodNotAllowed, "wrong-method")
	c.call("HEAD", "/api/events", nil).gives(http.StatusMethodNotAllowed, nil)
}

func TestHeadWorksWhereGetDoes(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	for _, path := range []string{"/api/formulas", "/api/shelf.csv", "/api/health", "/"} {
		a := c.call("HEAD", path, nil)
		assert.Equal(t, http.StatusOK, a.status, path)
		assert.Empty(t, a.body)
		assert.Equal(t, c.get(path).header.Get("Content-Type"), a.header.Get("Content-Type"), path)
	}
	h.visitor().call("HEAD", "/api/health", nil).gives(http.StatusOK, nil)
	h.visitor().call("HEAD", "/api/shelf", nil).gives(http.StatusUnauthorized, nil)
}

func TestParametersAreHeldToTheContract(t *testing.T) {
	c := open(t).founded("marl")
	for path, field := range map[string]string{
		"/api/lots?limit=0": "limit", "/api/lots?limit=201": "limit", "/api/lots?limit=x": "limit", "/api/lots?limit=1&limit=2": "limit",
		"/api/batches?state=nope": "state", "/api/pantry?all=maybe": "all", "/api/lots?material=%00": "material", "/api/lots?lmit=3": "lmit",
		"/api/formulas/" + uuid.NewString() + "?version=99999999999999999999": "version", "/api/formulas/" + uuid.NewString() + "?version=0": "version",
	} {
		var p api.Problem
		c.get(path).gives(http.StatusUnprocessableEntity, &p)
		assert.Equal(t, field, p.Field, path)
	}
	for _, path := range []string{"/api/assess?celsius=99", "/api/assess?celsius=cold", "/api/assess?use=" + strings.Repeat("9", 200)} {
		c.post(path, formulaFile("Assessed", "1 cup of borax")).gives(http.StatusUnprocessableEntity, nil)
	}
	c.post("/api/assess?celsius=40&hardness=268%20mg/l", formulaFile("Assessed", "1 cup of borax")).gives(http.StatusOK, nil)
	c.get("/api/lots?limit=200&empty=true").gives(http.StatusOK, nil)
}

// What PostgreSQL cannot keep is refused in words, never an error of the
// server.
func TestWhatCannotBeKeptIsRefused(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	w := h.furnish(c, "OWN")
	for path, body := range map[string]string{
		"/api/spoken":     `{"text": "1 cup\u0000 borax"}`,
		"/api/deliveries": `{"line": "1 kg borax, lot A\u0000B"}`,
		"/api/materials":  `{"name": "Cl\u0000ay", "form": "powder", "function": "abrasive"}`,
		"/api/batches/" + w.open.Id.String() + "/notes":     `{"text": "\u0000"}`,
		"/api/batches/" + w.open.Id.String() + "/weighings": `{"line": 0, "lot": "OWN", "grams": 1e300}`,
		"/api/formulas/" + w.formula.Id.String() + "/plan":  `{"factor": 1e300}`,
		"/api/batches": `{"formula": "` + w.formula.Id.String() + `", "target": {"factor": 99999999999}}`,
	} {
		c.post(path, json.RawMessage(body)).gives(http.StatusUnprocessableEntity, nil)
	}
	c.post("/api/shelf.csv", "material,amount\nborax\x00,1 kg\n").gives(http.StatusUnprocessableEntity, nil)
	c.get("/api/lots/%00").gives(http.StatusUnprocessableEntity, nil)
	// past the column's range, by way of what fits the contract
	heavy := c.keep("Heavy", "900000000 kg of borax")
	a := c.post("/api/batches", api.NewBatch{Formula: heavy.Id, Target: api.Target{Factor: 99999}})
	assert.Equal(t, http.StatusUnprocessableEntity, a.status, "%s", a.body)
	require.Less(t, c.post("/api/deliveries", api.DeliveryLine{Line: "10000 kg borax 9999999.99"}).status, 500)
}
