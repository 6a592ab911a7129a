package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// openFormula goes to a formula of the demo and waits for its chemistry.
func (b *browser) openFormula(name string) {
	b.t.Helper()
	b.goTo("/crock")
	b.click(name + "\n")
	b.see("Hardness")
	b.until("the readings", "document.querySelector('.ph-strip')")
}

// value is the number of a reading.
func (b *browser) value(reading string) string {
	b.t.Helper()
	script := fmt.Sprintf("[...document.querySelectorAll('.reading')].find(r => r.querySelector('.what').innerText.trim() === %q)?.querySelector('.value')?.innerText ?? ''", reading)
	b.until("the reading "+reading, script)
	return strings.TrimSpace(b.evaluate(script))
}

func (b *browser) choose(selector, value string) {
	b.t.Helper()
	b.until("a choice "+selector, fmt.Sprintf("document.querySelector(%q)", selector))
	b.script("choose "+value, fmt.Sprintf("(s => { s.value = %q; s.dispatchEvent(new Event('change', { bubbles: true })) })(document.querySelector(%q))", value, selector))
}

// The readings follow the formula and the water, and open to their numbers.
func TestReadingsSayWhatAMixtureWillDo(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	soft := b.value("pH")
	assert.Contains(t, b.value("Soap"), "is scum", "in water of 268 mg/l")
	b.fill(`input[name="strength"]`, "10 g/l")
	b.until("the pH to follow", fmt.Sprintf("!document.body.innerText.includes(%q)", "pH\n"+soft))
	b.see("10 g/l, as you say")
	b.fill(`input[name="strength"]`, "lots")
	b.see("expected so much to so much water")
	b.fill(`input[name="strength"]`, "neat")
	b.fill(`input[name="strength"]`, "")
	// an acid in the powder costs soda, and is said so
	b.fill(`[name="say"]`, "2 cups citric acid")
	b.press(kb.Enter)
	b.see("of soap flakes back into fat")
	b.until("the soap to be lost", "[...document.querySelectorAll('.reading .value.stop')].some(v => v.innerText.includes('curdles'))")
	b.see("Fizz")
	// each opens to its arithmetic
	b.script("open the pH", "document.querySelector('.ph-strip').closest('details').open = true")
	b.see("Plummer & Busenberg 1982")
	b.openFormula("Coracle Gel")
	b.see("already in the bottle")
	b.openFormula("Heron Gel")
	b.see("will not all dissolve")
	b.goTo("/crock")
	b.click("Toll Scour\n")
	b.see("It cannot vouch for Wood ash")
}

// Wood ash has no computed pH; a strip held into the scour gives it one, which
// every reading and caution then goes by.
func TestAMeasuredPHStandsInPlaceOfTheReckoned(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`[name="say"]`, "1 l water, 100 g borax")
	b.press(kb.Enter)
	b.see("In the bottle")
	b.fill(`input[name="measured-ph"]`, "12.4")
	b.see("measured, 11.9–12.9")
	b.see("pH 12.4")
	b.see("burn") // alkaline as lye now, whatever was worked out
	b.chooseFrom("pH as measured, measured with", "by meter, ±0.05")
	b.see("measured, 12.35–12.45")
	b.fill(`input[name="measured-ph"]`, "15")
	b.see("at most 14")
	b.fill(`input[name="measured-ph"]`, "")
	b.until("the reckoned pH again", "document.body.innerText.includes('pH 9')")
}

// What sulfonic acid takes to become a salt is said before it is mixed: 0.170 g
// of soda ash to a gram at an acid value of 180 mg KOH/g (stoichiometry).
func TestSulfonicAcidSaysWhatItTakes(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`[name="say"]`, "200 g sulfonic acid, 800 g water")
	b.press(kb.Enter)
	assert.Equal(t, "▲ 34.0 g", b.value("To neutralise"))
	b.see("burns skin and eyes")
	b.script("open it", `[...document.querySelectorAll('.reading')].find(r => r.innerText.includes('To neutralise')).open = true`)
	b.see("Never the water to the acid")
	b.see("Lye")
}

// A map of two amounts: moving the point changes the formula, and one undo
// takes it back.
func TestAMapMovesTheFormula(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Lockgate")
	b.click("Map")
	b.until("the map", "document.querySelectorAll('.map .line').length > 2")
	b.see("other schools")
	b.chooseFrom("Map of", "pH, gas gone")
	b.chooseFrom("Map of", "gas")
	before := b.evaluate(`document.querySelector('[data-cell="0-amount"]').value`)
	b.script("focus the map", "document.querySelector('.map').focus()")
	b.press(kb.ArrowRight)
	b.until("the amount to follow", fmt.Sprintf(`document.querySelector('[data-cell="0-amount"]').value !== %q`, before))
	assert.Contains(t, b.evaluate(`document.querySelector('[data-cell="0-amount"]').value`), " g")
	b.script("leave the map", "document.querySelector('.map').blur()")
	b.chord("z", chromedp.ModifierCtrl)
	b.until("it to be taken back", fmt.Sprintf(`document.querySelector('[data-cell="0-amount"]').value === %q`, before))

	// dragged, it lands where it is let go
	box, err := chromedp.Run(b.ctx, chromedp.Evaluate[[]float64](`(r => [r.x, r.y, r.width, r.height])(document.querySelector('.map').getBoundingClientRect())`))
	require.NoError(t, err)
	b.script("drag the point", fmt.Sprintf(`(m => ['pointerdown', 'pointermove', 'pointerup'].forEach(e => m.dispatchEvent(new PointerEvent(e, { pointerId: 1, bubbles: true, clientX: %g, clientY: %g }))))(Object.assign(document.querySelector('.map'), { setPointerCapture() {} }))`,
		box[0]+0.3*box[2], box[1]+0.3*box[3]))
	b.until("the amounts to follow", fmt.Sprintf(`document.querySelector('[data-cell="0-amount"]').value !== %q && document.querySelector('[data-cell="1-amount"]').value.endsWith(' g')`, before))
}

func TestTwoSchoolsSideBySide(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Lockgate")
	b.click("Beside")
	b.see("Lockgate Even")
	b.see("worth acting on")
	first := b.read(".sides tbody tr")
	assert.Contains(t, first, "◆", "what matters most stands first")
	b.seeIn(".sides", "pH, gas gone")
	b.seeIn(".sides", "A use costs")
}

// Swaps and goals are one step to undo.
func TestSwapsAndGoalsAreOneStep(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	materials := func() string {
		return b.evaluate(`[...document.querySelectorAll('.line .material')].map(m => m.value).join(', ')`)
	}
	b.until("the names of the materials", `[...document.querySelectorAll('.line .material')].some(m => m.value === 'Borax')`)
	before := materials()
	b.click("Swap")
	b.chooseFrom("of", "Borax")
	b.see("The same alkali as borax")
	b.see("holds the pH at 9.2")
	b.click("Swap it in")
	b.until("borax to be replaced", `![...document.querySelectorAll('.line .material')].some(m => m.value === 'Borax')`)
	b.chord("z", chromedp.ModifierCtrl)
	b.until("it to be taken back", fmt.Sprintf(`[...document.querySelectorAll('.line .material')].map(m => m.value).join(', ') === %q`, before))

	b.click("Wish")
	b.fill(`input[name="goal-ph-low"]`, "3")
	b.fill(`input[name="goal-ph-high"]`, "4")
	b.click("Propose a formula")
	b.see("contradict each other")
	b.see("a pH of 3 to 4")
	b.fill(`input[name="goal-ph-low"]`, "9.3")
	b.fill(`input[name="goal-ph-high"]`, "9.4")
	b.click("Propose a formula")
	b.see("Take it over")
	b.click("Take it over")
	b.until("the formula to be taken over", `[...document.querySelectorAll('.line .amount')].every(a => a.value.endsWith(' g'))`)
	b.click("Readings")
	b.until("the pH that was wished for", `/^9\.[34]$/.test([...document.querySelectorAll('.reading')].find(r => r.innerText.includes('pH')).querySelector('.value').innerText.trim())`)
	b.chord("z", chromedp.ModifierCtrl)
	b.until("it to be taken back", fmt.Sprintf(`[...document.querySelectorAll('.line .material')].map(m => m.value).join(', ') === %q`, before))
}
