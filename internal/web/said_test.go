package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// A whole good is heard over the wire: lines, steps, doses and what each word became, in
// the workshop's own names too.
func TestAGoodIsSaid(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.post("/api/materials", api.OwnMaterial{Name: "Rottenstone", Form: "powder", Function: "abrasive", Also: []string{"tripoli dust"}}).gives(http.StatusCreated, nil)
	var said api.Said
	c.post("/api/said", api.SpokenText{Text: "Scouring paste: 100 g tripoli dust, same again of bicarb, no bleach. Stir it for five minutes. A teaspoon per use."}).gives(http.StatusOK, &said)
	require.Len(t, said.Formula.Lines, 2)
	assert.Equal(t, "own-rottenstone", said.Formula.Lines[0].Material)
	assert.Equal(t, "100 g", said.Formula.Lines[1].Amount)
	assert.Equal(t, "scouring-paste", said.Formula.Kind)
	assert.Equal(t, "1 tsp", said.Formula.Uses.Amount)
	require.Len(t, said.Not, 1)
	assert.Equal(t, "chlorine-bleach", said.Not[0].Material)
	assert.NotEmpty(t, said.Formula.Steps)

	// as it was said, it can be kept, and where it came from with it
	var kept api.StoredFormula
	c.post("/api/formulas", said.Formula).gives(http.StatusCreated, &kept)
	assert.Equal(t, said.Formula.Said, kept.File.Said)

	// and corrected
	c.post("/api/said", api.SpokenText{Text: "no, make that 150", Lines: kept.File.Lines}).gives(http.StatusOK, &said)
	assert.Equal(t, "150 g", said.Formula.Lines[1].Amount)
	c.post("/api/said", api.SpokenText{Text: strings.Repeat("x", 20_001)}).refuses(http.StatusUnprocessableEntity, "bad-field")

	// programs of before get line by line what they did
	var lines []api.SpokenLine
	c.post("/api/spoken", api.SpokenText{Text: "2 cups borax, 1 cup moon dust"}).gives(http.StatusOK, &lines)
	require.Len(t, lines, 2)
	assert.Equal(t, "borax", lines[0].Line.Material)
	assert.NotEmpty(t, lines[1].Problem.Detail)
}

// Many lots are taken in at once, packaging too; all of a note or nothing.
func TestManyLotsAreTakenInAtOnce(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	note := "from Quayside: 5 kg washing soda 11.40, lot 22B; 3 x 1 kg oxygen bleach at 5.20 each; 24 jars 1 l, 21.60; 2 kg borax free"
	var read api.SaidDelivery
	c.post("/api/deliveries/said", api.SaidNote{Text: note}).gives(http.StatusOK, &read)
	require.Len(t, read.Lots, 4)
	assert.Empty(t, read.Questions)
	assert.Equal(t, api.Money("15.60"), read.Lots[1].Price)
	var taken api.TakenDelivery
	c.post("/api/deliveries/taken", api.SaidNote{Text: note}).gives(http.StatusCreated, &taken)
	require.Len(t, taken.Lots, 3)
	require.Len(t, taken.Packaging, 1)
	assert.Equal(t, "22B", taken.Lots[0].Code)
	for _, l := range taken.Lots {
		assert.Equal(t, "Quayside", l.Supplier)
	}
	// the supplier is known by now, without “from”
	c.post("/api/deliveries/said", api.SaidNote{Text: "1 kg citric acid 4.90 quayside"}).gives(http.StatusOK, &read)
	assert.Equal(t, "Quayside", read.Lots[0].Supplier)

	before := len(c.lots(t))
	p := c.post("/api/deliveries/taken", api.SaidNote{Text: "1 kg citric acid 4.90 and a bag of borax 3.00"}).refuses(http.StatusUnprocessableEntity, "how-much")
	assert.Equal(t, "How much is in the bag?", p.Detail)
	assert.Len(t, c.lots(t), before, "nothing half taken")
}

func (c *client) lots(t *testing.T) []api.Lot {
	t.Helper()
	var page api.LotPage
	c.get("/api/lots").gives(http.StatusOK, &page)
	return page.Lots
}

// What is said at the bench is the call that keeps it, by what was weighed.
func TestWhatIsSaidAtTheBenchIsKept(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	c.take("1 kg borax 3.00, lot B1")
	c.take("1 kg table salt 1.00, lot S1")
	b := c.begin(c.keep("Towpath", "200 g of borax", "100 g of table salt"), api.Target{Factor: 1})
	at := "/api/batches/" + b.Id.String()
	c.post(at+"/weighings", api.Weighing{Line: 0, Lot: "B1", Grams: 200}).gives(http.StatusCreated, nil)
	means := func(text string) api.BenchMeaning {
		var said api.BenchSaid
		c.post(at+"/said", api.BenchTalk{Text: text}).gives(http.StatusOK, &said)
		require.Len(t, said.Meanings, 1, text)
		return said.Meanings[0]
	}
	m := means("that was three, not two")
	assert.Equal(t, 300.0, m.Correct.Grams)
	c.post(at+"/corrections", m.Correct).gives(http.StatusCreated, &b)
	assert.Equal(t, 300.0, b.Lines[0].WeighedG)
	c.post(at+"/corrections", m.UndoCorrect).gives(http.StatusCreated, &b)
	assert.Equal(t, 200.0, b.Lines[0].WeighedG)
	assert.NotEmpty(t, means("that was three").Question, "grams are meant where the figure is near what was weighed, and no other")
	assert.Equal(t, 212.0, means("I actually weighed 212 of borax").Correct.Grams)
	assert.Equal(t, 210.0, means("200 of borax, no 210").Correct.Grams)
	assert.NotEmpty(t, means("borax 15").Question)
	var both api.BenchSaid
	c.post(at+"/said", api.BenchTalk{Text: "left the salt out and put in 20 g of citric acid"}).gives(http.StatusOK, &both)
	require.Len(t, both.Meanings, 2)
	assert.True(t, both.Meanings[0].LeaveOut.Out)
	assert.Equal(t, "citric-acid", both.Meanings[1].Add.Material)
	c.post(at+"/said", api.BenchTalk{Text: "swapped the salt for citric acid"}).gives(http.StatusOK, &both)
	require.Len(t, both.Meanings, 2)
	assert.NotEmpty(t, both.Meanings[1].Question, "how much of it went in was not said")

	m = means("another teaspoon of table salt")
	c.post(at+"/lines", m.Add).gives(http.StatusCreated, &b)
	assert.Len(t, b.Lines, 3)
	assert.NotEmpty(t, means("some more borax").Question)
	assert.Equal(t, "the bowl was wet", means("the bowl was wet").Note.Text)
	m = means("pH 9.2 by strip")
	c.post(at+"/measurements", m.Measure).gives(http.StatusCreated, nil)
}

// A gift is known to have cost nothing; a price that nobody noted is not known. A price
// that is put right to nothing is a gift too.
func TestAGiftIsKnownToBeFree(t *testing.T) {
	h := open(t)
	c := h.founded("marl")
	cost := func(l api.Lot) api.Batch {
		b := c.begin(c.keep("With "+l.Code, "100 g of borax"), api.Target{Factor: 1})
		b = c.weigh(b, 0, l.Code, 100)
		c.post("/api/batches/"+b.Id.String()+"/finish", api.Finish{Jars: 1}).gives(http.StatusOK, &b)
		return b
	}
	gift := c.take("1 kg borax lot G1, a gift from Ada")
	assert.True(t, gift.Free)
	assert.Equal(t, api.Money("0.00"), gift.Landed)
	assert.Empty(t, cost(gift).Unpriced)
	unknown := c.take("1 kg borax lot U1")
	assert.False(t, unknown.Free)
	assert.Empty(t, unknown.Landed)
	assert.NotEmpty(t, cost(unknown).Unpriced)
	c.call("PATCH", "/api/lots/"+unknown.Id.String(), api.LotMark{Correct: api.LotCorrection{Landed: "0"}}).gives(http.StatusOK, &unknown)
	assert.True(t, unknown.Free)
	c.call("PATCH", "/api/lots/"+gift.Id.String(), api.LotMark{Correct: api.LotCorrection{Landed: "3.00"}}).gives(http.StatusOK, &gift)
	assert.False(t, gift.Free)
	assert.Equal(t, api.Money("3.00"), gift.Landed)

	// as a file it comes back as what it was
	other := h.founded("teasel")
	other.take("2 kg borax lot G2, a gift")
	out := other.get("/api/shelf.csv").gives(http.StatusOK, nil).body
	third := h.founded("sedge")
	third.keyed(uuid.NewString(), "POST", "/api/shelf.csv", string(out)).gives(http.StatusOK, nil)
	var page api.LotPage
	third.get("/api/lots").gives(http.StatusOK, &page)
	require.Len(t, page.Lots, 1)
	assert.True(t, page.Lots[0].Free)
}
