package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
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
