package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// manyFormulas keeps so many formulas more, as a program of a workshop might.
const manyFormulas = `(async () => {
	const {csrf_token} = await (await fetch('/api/session')).json()
	const kinds = ['spray', 'dish-powder', 'hand-soap', 'rinse-aid']
	const add = i => fetch('/api/formulas', {method: 'POST', headers: {'Content-Type': 'application/json', 'X-CSRF-Token': csrf_token, 'Idempotency-Key': crypto.randomUUID()},
		body: JSON.stringify({format: 'keencrock/formula', version: 3, name: 'Reach ' + String(i).padStart(3, '0'), kind: kinds[i % 4], school: i % 2 ? 'weak' : 'strong',
			lines: [{material: 'citric-acid', amount: i + ' g'}, {material: 'water', amount: '1 l'}]})})
	for (let i = 1; i <= 120; i += 10) await Promise.all([...Array(10).keys()].map(k => add(i + k)))
	return 'added'
})()`

// Among hundreds a formula is found by words, sorted, and several are put away at once and
// brought back; how the list was left is how it is found again.
func TestAFormulaIsFoundInHundreds(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	assert.Equal(t, "added", b.evaluateAsync(manyFormulas))
	b.goTo("/crock")
	b.see("136 formulas")
	b.tabTo("find-formula")
	b.press("reach", " ", "strong", " ", "04")
	b.see("of 136 formulas")
	b.see("Reach 042")
	assert.Equal(t, "7", b.evaluate("String(document.querySelectorAll('.formula').length)"), "004, 104, and the even ones from 040 on")
	b.chord("a", 2)
	b.press(kb.Backspace)
	b.chooseFrom("In which order", "made last first")
	b.until("Bittern, which was made last, first", "document.querySelector('.formula strong')?.innerText === 'Bittern'")
	b.chooseFrom("Which kind", "Dish powder")
	b.goTo("/crock")
	b.see("of 136 formulas")
	b.see("Heron Loose")
	b.until("no other kind", "![...document.querySelectorAll('.formula strong')].some(f => f.innerText === 'Towpath')")
	b.click("Choose several")
	b.fill(`[name="find-formula"]`, "reach weak")
	b.until("only those", "[...document.querySelectorAll('.formula strong')].every(f => f.innerText.startsWith('Reach'))")
	b.script("choose all", "[...document.querySelectorAll('.many button')].find(x => x.innerText.startsWith('All')).click()")
	b.click("Put away")
	b.see("30 formulas put away.")
	b.see("None of them is like that.")
	b.click("Bring them back")
	b.see("30 of 136 formulas")
}

// lotsOfBorax takes the lots of borax in whose numbers lie in a range.
const lotsOfBorax = `(async () => {
	const {csrf_token} = await (await fetch('/api/session')).json()
	const add = i => fetch('/api/deliveries', {method: 'POST', headers: {'Content-Type': 'application/json', 'X-CSRF-Token': csrf_token, 'Idempotency-Key': crypto.randomUUID()},
		body: JSON.stringify({line: i + ' kg borax ' + (i * 2) + '.00 from ' + (i %% 2 ? 'Quayside' : 'Marrow Stores') + ', lot MANY-' + String(i).padStart(3, '0') + ', best ' + (2028 + i %% 3) + '-06'})})
	for (let i = %d; i <= %d; i += 5) { const r = await Promise.all([...Array(5).keys()].map(k => add(i + k))); if (r.some(x => !x.ok)) return await r.find(x => !x.ok).text() }
	return 'taken in'
})()`

// Of two hundred lots of one material one is found by its code, those of a supplier are set
// aside in one act, and the shelf, the pantry and what was made before are searched alike.
func TestALotIsFoundAmongTwoHundred(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	for from := 1; from <= 200; from += 20 { // in parts: each is waited for by itself, on a slow machine too
		assert.Equal(t, "taken in", b.evaluateAsync(fmt.Sprintf(lotsOfBorax, from, from+19)))
	}
	b.goTo("/shelf/borax")
	b.see("of them: ")
	b.until("twenty at first", "document.querySelectorAll('.lot').length === 20")
	b.fill(`[name="find-lot"]`, "many-137")
	b.until("that one alone", "[...document.querySelectorAll('.lot strong')].map(l => l.innerText).join() === 'MANY-137'")
	b.fill(`[name="find-lot"]`, "marrow 13")
	b.until("five of them", "document.querySelectorAll('.lot').length === 5")
	b.script("choose several", "[...document.querySelectorAll('.lots button')].find(x => x.innerText.includes('Choose several')).click()")
	b.script("choose all", "[...document.querySelectorAll('.lots .many button')].find(x => x.innerText.startsWith('All')).click()")
	b.click("Set aside")
	b.until("all of them set aside", "[...document.querySelectorAll('.lot')].length === 5 && [...document.querySelectorAll('.lot')].every(l => l.innerText.includes('set aside'))")
	assert.Empty(t, b.evaluate(cutScript))

	b.goTo("/shelf")
	b.fill(`[name="find-material"]`, "bicarb")
	b.until("by its other name", "[...document.querySelectorAll('.jars li')].length === 1 && document.querySelector('.jars').innerText.includes('Baking soda')")
	b.goTo("/shelf")
	b.chooseFrom("Which jars", "set aside")
	b.until("borax, of which some is", "[...document.querySelectorAll('.jars li')].length === 2 && document.querySelector('.jars').innerText.includes('Borax')")
	b.goTo("/pantry")
	b.see("16 goods")
	b.until("no older ones, and none twice", "!document.querySelector('main').innerText.includes('older ones') && document.querySelectorAll('.goods li').length === 16")
	b.fill(`[name="find-good"]`, "heron")
	b.until("only Heron", "[...document.querySelectorAll('.goods strong')].every(g => g.innerText.includes('Heron')) && document.querySelectorAll('.goods li').length > 0")
	b.goTo("/bench")
	b.fill(`[name="find-batch"]`, "bittern")
	b.until("only Bittern", "[...document.querySelectorAll('.earlier a')].every(g => g.innerText.includes('Bittern')) && document.querySelectorAll('.earlier tr').length > 0")
}

// What is short when something is to be made goes on the list with a press, and off it when
// it comes.
func TestWhatIsShortGoesOnTheList(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Lockgate")
	b.click("Make it")
	b.see("to weigh")
	b.fill(`input[aria-label="Times"]`, "40")
	b.press(kb.Tab)
	b.see("The shelf is short of")
	b.click("Put it on the list")
	b.click("It is on the list")
	b.see("What to buy")
	b.seeIn("table", "for Lockgate")
	b.seeIn("table", "below its reorder point")
	assert.Empty(t, b.evaluate(cutScript))
	b.click("It came: note a delivery")
	b.until("the delivery as it is noted", "document.querySelector('[name=delivery]').value.includes('g citric acid')")
	b.fill(`[name="delivery"]`, "10 kg citric acid 38.00")
	b.press(kb.Enter)
	b.see("Taken in")
	b.goTo("/shelf/list")
	b.see("What to buy")
	b.until("citric acid to be off it", "document.querySelector('section table') && !document.querySelector('section table').innerText.includes('Citric acid')")
}

// On paper a formula and a batch stand alone, in black on white: what goes in with boxes to
// tick, how it is made, what to mind; none of what is around them on the screen.
func TestAFormulaAndABatchOnPaper(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	onPaper := func() string {
		t.Helper()
		programs(t, "pdftotext")
		pdf, err := chromedp.Run(b.ctx, chromedp.PrintToPDF(chromedp.PDFPaper(chromedp.PaperA4)))
		require.NoError(t, err)
		assert.Regexp(t, `Pages:\s+[12]\b`, infoOf(t, pdf))
		path := filepath.Join(t.TempDir(), "sheet.pdf")
		require.NoError(t, os.WriteFile(path, pdf, 0o600))
		text, err := exec.Command("pdftotext", "-layout", path, "-").Output()
		require.NoError(t, err)
		return string(text)
	}
	b.openFormula("Lockgate")
	b.see("A use costs")
	sheet := onPaper()
	for _, said := range []string{"Lockgate", "much soda, little acid", "Baking soda", "2 cups", "441 g", "How it is made", "Press", "It gives", "one use is 2 pieces"} {
		assert.Contains(t, sheet, said)
	}
	for _, not := range []string{"Shelf", "Find or do", "Keep this", "Make it", "Undo"} {
		assert.NotContains(t, sheet, not)
	}
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
	sheet = onPaper()
	for _, said := range []string{"TOW-", "Borax", "B-2210", "or scoop", "Weighed", "Steps", "To mind", "Borax harms when swallowed", "By:"} {
		assert.Contains(t, sheet, said)
	}
	assert.NotContains(t, sheet, "Take this reading")
}

// What is waiting leads to what it is: something that comes round stands marked in its list,
// and is taken for no batch.
func TestWhatComesRoundIsFoundFromTheStrip(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	const note = "[...document.querySelectorAll('.waiting li button, .waiting li a')].find(n => n.innerText.includes('Drain of the wash-house'))"
	b.until("it to be told in the strip", note)
	b.script("go to what waits", note+".click()")
	b.until("it to be marked", "document.querySelector('.chores .here')?.innerText.includes('Drain of the wash-house')")
	assert.NotContains(t, b.evaluate("document.body.innerText"), "no such batch")
}
