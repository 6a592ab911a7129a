package e2e

import (
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"
)

// TestScreenshots takes the pictures in docs/screenshots anew, from the demo.
// It runs where KEEN_CROCK_SCREENSHOTS names the folder to put them in.
func TestScreenshots(t *testing.T) {
	folder := os.Getenv("KEEN_CROCK_SCREENSHOTS")
	if folder == "" {
		t.Skip("set KEEN_CROCK_SCREENSHOTS to a folder to take pictures")
	}
	b := startDemo(t).open()
	shot := func(name string) {
		b.until("all of it", "!/^Looking\\.$/m.test(document.querySelector('main')?.innerText ?? '')")
		b.picture(filepath.Join(folder, name+".png"))
	}

	b.goTo("/")
	b.signIn()
	b.see("Washing soda")
	shot("shelf")
	b.openFormula("Towpath")
	shot("crock")
	b.openFormula("Lockgate")
	b.click("Map")
	b.see("other schools")
	b.chooseFrom("Map of", "pH, gas gone")
	b.until("the map", "document.querySelectorAll('.map .line').length > 2")
	b.until("the map of the vented pH", "document.querySelector('.map-panel figcaption').innerText.includes('9.9')")
	shot("crock-map")
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
	b.click("+ 1000 g")
	b.until("the reading to hold still", `document.querySelector('.do-row .main:not(:disabled)')`)
	shot("bench")
	b.goTo("/rack")
	b.seeIn(".board.late", "Willow")
	shot("rack")
	b.click("Bittern vat")
	b.seeIn(".log", "drew 8 l")
	b.goTo("/pantry")
	b.see("a use")
	shot("pantry")
	b.goTo("/settings")
	b.fill(`input[name="jar-origin"]`, "https://lockside.example")
	b.click("Keep")
	b.see("Kept.")
	b.openGood("Towpath Plain", "Label")
	b.chooseFrom("Second language", "Deutsch")
	b.fill(`textarea[name="label-use"]`, "Into the drum. Removes all stains, guaranteed.")
	b.seeIn(".claims", "promises too much")
	b.until("the label in two languages", "document.querySelector('.jar image')?.href.baseVal.includes('Augen')")
	b.until("the label to settle", "!document.querySelector('.jar.behind')")
	shot("label")
	b.fill(`textarea[name="label-use"]`, "Into the drum, under the washing.")
	b.until("the label without the promise", "!document.querySelector('.claims')?.innerText.includes('too much') && !document.querySelector('.jar.behind')")
	b.click("Print for")
	b.see("Kept.")
	printed := b.file(".wishes a[href^='/api/prints']")
	code := codesOn(t, printed)[0]
	b.click("Doses")
	b.see("on the label")
	b.goTo("/crock/new")
	b.fill(`[name="say"]`, "ok so two cups of washing soda, three cups of borax or citrate if you havent any, a third of a cup of fine salt, no, half a cup, then maybe 8 or 12 drops of rosemary oil. Press in moulds and dry for a day. Never on marble!")
	b.seeIn(".talk .heard", "Heard")
	shot("say")
	read, err := url.Parse(code)
	require.NoError(t, err)
	b.goTo("/trials")
	b.click("Is Towpath Plain")
	b.see("Signed ranks")
	shot("trial")
	b.script("to the photos", "document.querySelector('.photos').scrollIntoView()")
	b.until("the photos", "[...document.querySelectorAll('.slider img')].every((i) => i.naturalWidth > 0)")
	shot("swatches")
	b.goTo("/trials/samples")
	b.click("Heron")
	b.see("What else is about")
	shot("samples")
	b.goTo("/trials/figures")
	b.click("drop one holds")
	b.see("What it changed")
	shot("figures")
	b.goTo("/handbook/keeping")
	b.see("dry powder")
	shot("handbook")
	b.goTo("/trials/why")
	b.fill(`[name="why-said"]`, "film on the glasses")
	b.chooseFrom("Of which good", "Heron")
	b.see("Most likely")
	shot("why")
	b.goTo("/almanac")
	b.see("What would help")
	shot("almanac")
	b.goTo("/ledger/goods")
	b.see("costs more than it brings")
	shot("ledger-good")
	b.do("a phone", chromedp.EmulateViewport(390, 844))
	b.goTo("/ledger/stall")
	b.see("Earlier days")
	shot("stall-phone")
	b.goTo("/crock/start")
	b.click("Toilet bomb")
	b.see("Leaves the bowl mildly acid")
	shot("start-phone")
	b.goTo(read.Path)
	b.see("How much")
	shot("jar-phone")
}

// chooseFrom chooses in a list of the library by its label.
func (b *browser) chooseFrom(label, choice string) {
	b.t.Helper()
	list := fmt.Sprintf("(document.querySelector('[aria-label=%[1]q]')?.closest('.ant-select') ?? [...document.querySelectorAll('label')].find(l => l.innerText.startsWith(%[1]q))?.querySelector('.ant-select'))", label)
	b.until("the list "+label, list)
	b.script("open "+label, list+".querySelector('.ant-select-selector').dispatchEvent(new MouseEvent('mousedown', {bubbles: true}))")
	b.until("the choice "+choice, fmt.Sprintf("[...document.querySelectorAll('.ant-select-item-option')].some(o => o.innerText === %q)", choice))
	b.script("choose "+choice, fmt.Sprintf("[...document.querySelectorAll('.ant-select-item-option')].find(o => o.innerText === %q).click()", choice))
}
