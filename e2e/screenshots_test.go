package e2e

import (
	"fmt"
	"net/url"
	"os"
	"os/exec"
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
	shot := func(name string) { b.picture(filepath.Join(folder, name+".png")) }

	b.goTo("/")
	b.signIn()
	b.see("Washing soda")
	shot("shelf")
	b.openFormula("Towpath")
	shot("crock")
	b.openFormula("Heron")
	b.seeIn(".making", "Add slowly")
	b.script("to the steps", "document.querySelector('details.method').scrollIntoView()")
	b.script("open a step", "document.querySelector('[data-step=\"5\"]').click()")
	shot("crock-steps")
	b.openFormula("Lockgate")
	b.click("Map")
	b.see("pH, gas gone")
	b.choose("select[name=map-reading]", "vented-ph")
	b.until("the map", "document.querySelectorAll('.map .line').length > 2")
	b.until("the map of the vented pH", "document.querySelector('.map-panel figcaption').innerText.includes('9.9')")
	shot("crock-map")
	b.click("Beside")
	b.see("worth acting on")
	shot("crock-beside")
	b.openFormula("Coracle Gel")
	b.see("already in the bottle")
	b.click("Kiln")
	b.until("the glaze to have changed", "getComputedStyle(document.querySelector('.ant-select-selector')).color === 'rgb(239, 230, 214)' || (window.since ??= performance.now(), performance.now() - window.since > 1200)")
	shot("crock-kiln")
	b.click("Slip")
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
	b.click("+ 1000 g")
	b.until("the reading to hold still", `document.querySelector('.do-row .main:not(:disabled)')`)
	shot("bench")
	b.goTo("/rack")
	b.seeIn(".board.late", "Willow")
	shot("rack")
	b.click("Heron\n")
	b.until("the curve", "document.querySelectorAll('.drying .point').length === 3")
	shot("rack-drying")
	b.click("Bittern vat")
	b.seeIn(".log", "drew 8 l")
	shot("rack-vat")
	b.do("a tablet", chromedp.EmulateViewport(820, 1180))
	b.goTo("/bench")
	b.click("Coracle\n")
	b.seeIn(".work [role=timer]", ":")
	shot("bench-step")
	b.click("Done")
	b.seeIn(".with", "Lavender oil")
	b.click("Done")
	b.see("Is it smooth, all one?")
	b.click("Curdled or settled")
	b.seeIn(".say", "The mixing was short")
	b.idle()
	shot("bench-check")
	b.do("a desk", chromedp.EmulateViewport(1280, 800))
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
	sheet := filepath.Join(t.TempDir(), "sheet.pdf")
	require.NoError(t, os.WriteFile(sheet, printed, 0o600))
	require.NoError(t, exec.Command("pdftoppm", "-png", "-r", "90", "-singlefile", sheet, filepath.Join(folder, "label-sheet")).Run())
	code := codesOn(t, printed)[0]
	b.click("Doses")
	b.see("on the label")
	shot("doses")
	b.goTo("/pantry/cards")
	b.see("Windows of a narrowboat")
	shot("cards")
	b.goTo("/crock/new")
	b.fill(`[name="say"]`, "ok so two cups of washing soda, three cups of borax or citrate if you havent any, a third of a cup of fine salt, no, half a cup, then maybe 8 or 12 drops of rosemary oil. Press in moulds and dry for a day. Never on marble!")
	b.seeIn(".talk .heard", "Heard")
	shot("say")
	read, err := url.Parse(code)
	require.NoError(t, err)
	b.do("a phone", chromedp.EmulateViewport(390, 844))
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
