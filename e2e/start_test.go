package e2e

import (
	"encoding/json"
	"fmt"
	"image/png"
	"net/http"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/internal/testdb"
)

// foundedOn makes a workshop of one's own on a screen of that size.
func foundedOn(t *testing.T, width, height int64) *browser {
	t.Helper()
	t.Parallel()
	needs(t)
	b := start(t, testdb.New(t), "--empty").openAt(width, height)
	b.goTo("/")
	b.see("Name your workshop")
	b.fill(`input[name="workshop"]`, "Toll House")
	b.fill(`input[name="name"]`, "Marl")
	b.fill(`input[name="login"]`, "marl")
	b.fill(`input[name="password"]`, "long enough now")
	b.press(kb.Enter)
	b.see("The shelf is empty")
	return b
}

// From an empty workshop to a labelled jar on a telephone: what to make, which way, what is
// in the cupboard, how much; weighed by typing, packed, labelled. Left and come back to, the
// way stands where it stood.
func TestAFirstBatchOnAPhone(t *testing.T) {
	b := foundedOn(t, 390, 844)
	b.installs()
	b.click("Make a first batch")
	b.click("Drain cleaner")
	b.see("Keeps a drain open")
	b.see("fizzes up in the pipe") // what is to be minded of another way stands beside it
	assert.Empty(t, b.evaluate(cutScript), "the ways")
	b.click("Make it this way")
	b.see("What of it is there?")
	b.see("Missing: washing soda")
	b.click("Washing soda")
	assert.Empty(t, b.evaluate(cutScript), "the cupboard")
	b.goTo("/shelf")
	b.see("The shelf is empty") // nothing is written before the last press
	b.goTo("/crock/start")
	b.see("What of it is there?")
	b.until("the tick of before", "document.querySelector('[name=has-washing-soda]')?.checked")
	b.fill(`[name="amount-washing-soda"]`, "800 g")
	b.click("How much")
	b.see("All that is there allows, 1.6 times")
	b.see("Twice 1.00 kg, about 10 uses: more than is there")
	b.click("To the bench")
	b.see("weigh out")
	assert.Empty(t, b.evaluate(cutScript), "the bench")
	assert.Equal(t, "72", b.evaluate("String(document.querySelector('[name=typed-grams]').offsetHeight)"))
	assert.Equal(t, "false", b.evaluate("String(!!document.querySelector('[data-testid=reading]'))"), "no scale is on the bench")
	b.fill(`[name="typed-grams"]`, "0.5 kg")
	b.press(kb.Enter)
	b.see("All is weighed")
	b.idle()
	b.click("Finish the batch")
	b.see("1 jar of 500 g")
	b.see("No price is known of Washing soda")
	b.click("To the pantry")
	b.see("Drain soda")
	b.click("Label")
	b.until("the label", "document.querySelector('.jar image')")
	b.goTo("/crock")
	b.see("alkali, regular") // what was taken is a formula of one's own
}

// installs checks that a telephone is offered all it needs to keep the page as a program.
func (b *browser) installs() {
	b.t.Helper()
	answer, err := http.Get(b.app.url + b.evaluate("document.querySelector('link[rel=manifest]').getAttribute('href')"))
	require.NoError(b.t, err)
	defer answer.Body.Close()
	assert.Equal(b.t, "application/manifest+json", answer.Header.Get("Content-Type"))
	var manifest struct {
		Start string `json:"start_url"`
		Icons []struct{ Src, Sizes, Type string }
	}
	require.NoError(b.t, json.NewDecoder(answer.Body).Decode(&manifest))
	assert.Equal(b.t, "/bench", manifest.Start)
	for _, icon := range manifest.Icons {
		got, err := http.Get(b.app.url + icon.Src)
		require.NoError(b.t, err)
		defer got.Body.Close()
		assert.Equal(b.t, icon.Type, got.Header.Get("Content-Type"), icon.Src)
		if drawn, err := png.DecodeConfig(got.Body); icon.Type == "image/png" && assert.NoError(b.t, err, icon.Src) {
			assert.Equal(b.t, icon.Sizes, fmt.Sprintf("%dx%d", drawn.Width, drawn.Height))
		}
	}
}

// Whoever scoops is told the scoop: at the cupboard and at the bench.
func TestABatchIsScooped(t *testing.T) {
	b := foundedOn(t, 390, 844)
	b.goTo("/crock/start")
	b.click("Toilet bomb")
	b.see("Leaves the bowl mildly acid")
	b.script("choose equal parts", "document.querySelectorAll('.take')[1].click()")
	b.click("I scoop")
	b.see("1 1/2 cups") // of cornstarch
	b.script("tick all", "document.querySelectorAll('input[type=checkbox]').forEach(i => i.click())")
	b.click("How much")
	b.see("18 pieces")
	b.click("To the bench")
	b.seeIn("[data-testid=target]", "3/4 cup + 2 tbsp")
	b.click("3/4 cup + 2 tbsp went in")
	b.seeIn("[data-testid=target]", "1 cup")
}

// What one does not have asks for nothing: the other ways that can be made are named.
func TestTheCupboardNamesWhatElseCanBeMade(t *testing.T) {
	b := foundedOn(t, 1280, 800)
	b.fill(`[name="delivery"]`, "2 kg washing soda; 1 kg baking soda; 1 kg soap flakes")
	b.press(kb.Enter)
	b.see("Taken in")
	b.goTo("/crock")
	b.click("From a school")
	b.click("Laundry powder")
	b.click("Make it this way") // with borax, which is not there
	b.see("Missing: borax")
	b.click("Wash powder with soap")
	b.see("on the shelf")
	b.click("How much")
	b.see("Twice")
	b.click("Only keep the formula")
	b.see("version 1")
}
