package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp/kb"
)

// pick chooses in a list that is searched by typing.
func (b *browser) pick(label, words string) {
	b.t.Helper()
	find := fmt.Sprintf("[...document.querySelectorAll('form label')].find(l => l.innerText.startsWith(%q))?.querySelector('input')", label)
	b.until("the list "+label, find)
	b.script("open the list "+label, fmt.Sprintf("(%s).focus()", find))
	b.press(words)
	b.until("the choice "+words, fmt.Sprintf("[...document.querySelectorAll('.ant-select-item-option-active')].some(o => o.innerText.toLowerCase().includes(%q))", words))
	b.press(kb.Enter)
}

// What the library does not have is made in a minute: asked for in a formula,
// described by what it is like, taken in, and used.
func TestAMaterialOfOnesOwn(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`[name="say"]`, "100 g essence of loft")
	b.press(kb.Enter)
	b.click("a material of your own")
	b.fill(`input[name="own-name"]`, "Borax")
	b.pick("It is like", "white vinegar")
	b.fill(`input[name="own-strength"]`, "25")
	b.click("Keep")
	b.seeIn("form [role=alert]", "means borax already")
	b.fill(`input[name="own-name"]`, "Loft essence")
	b.fill(`input[name="own-also"]`, "essence of loft")
	b.press(kb.Enter)
	b.see("A material of your own, like white vinegar")
	b.seeIn(".panel", "None left")
	b.fill(`[name="delivery"]`, "1 kg loft essence 4.20, lot VE-1")
	b.press(kb.Enter)
	b.seeIn(".panel", "VE-1")

	b.click("Change it")
	b.fill(`input[name="own-name"]`, "Sharp essence")
	b.press(kb.Enter)
	b.seeIn(".panel h2", "Sharp essence")
	b.goTo("/crock/new")
	b.seeIn(".lines .mass", "100 g") // the line that asked is answered
	b.fill(`[name="say"]`, "900 g water")
	b.press(kb.Enter)
	b.see("not all its dangers are known here")
	b.until("what it costs", `document.querySelector('.reading.large .value')?.innerText.includes('€0.42')`)
}

// A price that was noted wrongly is put right, and what it was stays to be read.
func TestALotIsPutRight(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/shelf")
	b.fill(`[name="delivery"]`, "500 g wood ash 20.00 from Quayside, lot ASH")
	b.press(kb.Enter)
	b.see("Taken in: 500 g Wood ash")
	b.goTo("/shelf/wood-ash")
	b.click("correct it")
	b.fill(`input[name="lot-landed"]`, "2,00")
	b.fill(`input[name="lot-reason"]`, "a slip of the pen")
	b.click("Put it right")
	b.see("€4.00 a kg")
	b.click("where it went")
	b.see("price was 20.00, is 2.00; a slip of the pen")
}
