package web_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// What is short is put on the list, of the same good said anew and not twice; what came is
// off it; and what falls below its reorder point stands there by itself.
func TestWhatIsShortIsWantedUntilItComes(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	list := func() []api.WantedLine {
		var l []api.WantedLine
		c.get("/api/wanted").gives(http.StatusOK, &l)
		return l
	}
	require.Empty(t, list())
	lines := func(g float64) api.ToWant {
		return api.ToWant{For: "Towpath", Lines: []api.ShortLine{{Material: "borax", Grams: g}, {Material: "soap-flakes", Grams: 200}}}
	}
	c.post("/api/wanted", lines(500)).gives(http.StatusCreated, nil)
	c.post("/api/wanted", lines(800)).gives(http.StatusCreated, nil)
	other := lines(300)
	other.For, other.Lines = "Heron", other.Lines[:1]
	c.post("/api/wanted", other).gives(http.StatusCreated, nil)
	got := list()
	require.Len(t, got, 2)
	assert.Equal(t, "Borax", got[0].Name)
	assert.InDelta(t, 1100, got[0].Grams, 1e-9, "800 for one, 300 for the other")
	assert.ElementsMatch(t, []string{"Towpath", "Heron"}, got[0].For)

	c.post("/api/deliveries/taken", api.SaidNote{Text: "2 kg borax 9.40"}).gives(http.StatusCreated, nil)
	got = list()
	require.Len(t, got, 1)
	assert.Equal(t, "soap-flakes", got[0].Material)
	c.call("DELETE", "/api/wanted/soap-flakes", nil).gives(http.StatusNoContent, nil)
	assert.Empty(t, list())

	reorder := 3000.0
	c.call("PUT", "/api/materials/borax/figures", api.OwnFigures{ReorderG: &reorder}).gives(http.StatusOK, nil)
	got = list()
	require.Len(t, got, 1)
	assert.True(t, got[0].Low)
	assert.InDelta(t, 1000, got[0].Grams, 1e-9)
	assert.Equal(t, api.Money("4.70"), got[0].PricePerKg)

	bad := lines(1)
	bad.Lines[0].Material = "moon dust"
	c.post("/api/wanted", bad).refuses(http.StatusUnprocessableEntity, "unknown-material")
}

// A deposit is told and keeps nothing from being taken in.
func TestADeliveryWithADepositIsTakenIn(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	var taken api.TakenDelivery
	c.post("/api/deliveries/taken", api.SaidNote{Text: "3 litres of ethanol at 4.10 a litre, plus 5 euro deposit"}).gives(http.StatusCreated, &taken)
	assert.Equal(t, api.Money("12.30"), taken.Lots[0].Landed)
}
