package e2e

import (
	"fmt"
	"testing"
	"unicode/utf8"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// What has no steps is asked about once before it goes to the bench: it takes the usual way, or
// begins without.
func TestABatchWithoutStepsIsAskedAboutOnce(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Quay Spray")
	b.fill(`[name="say"]`, "200 g white vinegar, 300 g water, 10 g alcohol")
	b.press(kb.Enter)
	b.seeIn(".lines", "300 g")
	b.click("Keep this formula")
	b.see("version 1")
	at := b.path()
	b.goTo(at + "?panel=make")
	b.click("To the bench")
	b.see("No steps are said")
	b.click("Take the usual way")
	b.click("Keep as version 2")
	b.see("version 2")
	b.click("To the bench")
	b.see("Abandon this batch")
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Quay Plain")
	b.fill(`[name="say"]`, "200 g white vinegar, 300 g water")
	b.press(kb.Enter)
	b.seeIn(".lines", "300 g")
	b.click("Keep this formula")
	b.see("version 1")
	at = b.path()
	b.goTo(at + "?panel=make")
	b.click("To the bench")
	b.click("Begin without")
	b.see("Abandon this batch")
	b.goTo(at + "?panel=make")
	b.click("To the bench")
	b.see("Abandon this batch")
}

// From a good that is said to all of it weighed takes few clicks and few keys, and none of them
// is in vain.
func TestFromSaidToWeighedTakesFewClicksAndKeys(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.until("the place to say it", `document.activeElement?.name === 'say'`)
	clicks, keys := 0, 0
	typed := func(text string) {
		keys += utf8.RuneCountInString(text)
		b.do("type "+text, keyboard(text, 0))
	}
	press := func(text string) {
		clicks++
		b.click(text)
	}
	typed("Quay wash: 300 g baking soda, 100 g salt" + kb.Enter)
	b.seeIn(".lines", "300 g")
	press("Keep this formula")
	b.see("version 1")
	press("Make it")
	press("To the bench")
	if b.evaluate(`String(document.body.innerText.includes('No steps are said'))`) == "true" {
		press("Begin without")
	}
	b.see("weigh out")
	clicks++ // a scale is on the bench: to type instead is said once
	b.script("go to the field", `document.querySelector('[name=typed-grams]').focus()`)
	for _, g := range []string{"300", "100"} {
		b.until("the field for a weight", `document.activeElement?.name === 'typed-grams'`)
		typed(g + kb.Enter)
		b.seeIn(".log", g+" g ")
	}
	b.see("All is weighed")
	t.Logf("%d clicks, %d keys", clicks, keys)
	assert.Less(t, clicks, 6)
	assert.Less(t, keys, 79)
}

// onTheBench opens the demo's batch that is being weighed.
func (b *browser) onTheBench() {
	b.t.Helper()
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
}

// events is how many lines the log of the batch has.
func (b *browser) events() string {
	b.t.Helper()
	return b.evaluate("String(document.querySelectorAll('.log ol li').length)")
}

// A key never writes by surprise: what has the focus takes it, and single keys
// can be switched off.
func TestAKeyNeverWritesBySurprise(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.onTheBench()
	b.click("pour to the mark")
	b.until("the reading to hold still", `document.querySelector('.do-row .main:not(:disabled)')`)
	before, asked := b.events(), b.asked()
	b.script("focus a step", "[...document.querySelectorAll('.step')].find(s => !s.classList.contains('here')).focus()")
	b.press(" ")
	b.until("the step to be picked", fmt.Sprintf("(%s) !== %q", askedScript, asked))
	b.script("focus a bag", "document.querySelector('.lot').focus()")
	b.press(" ", "t", "2")
	b.goTo(b.path())
	b.see("weigh out")
	assert.Equal(t, before, b.events(), "nothing was recorded")
	assert.Equal(t, asked, b.asked())

	b.goTo("/settings")
	b.see("Single keys act")
	b.script("switch them off", "document.querySelector('[name=single-keys]').click()")
	b.goTo("/shelf")
	b.see("Soap flakes")
	b.press("2", "n")
	assert.Equal(t, "/shelf", b.path())
	b.chord("k", 2) // Ctrl
	b.until("find or do", `document.activeElement?.getAttribute('aria-label') === 'Find or do'`)
}

// A batch is abandoned on the page, after saying what goes back to which bag.
func TestABatchIsAbandoned(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.onTheBench()
	b.weighOnScale()
	b.click("Abandon this batch")
	b.seeIn(".ask", "goes back to the bags")
	b.seeIn(".ask", "lot F3")
	b.press(kb.Escape)
	b.see("Abandon this batch")
	b.click("Abandon this batch")
	b.fill("input[name=abandon-reason]", "the phone rang")
	b.press(kb.Enter)
	b.see("Nothing more is done to batch")
	b.see("abandoned: the phone rang")
}

// An optional line is left out, at the step that would add it, and the batch finished
// without it.
func TestAnOptionalLineIsLeftOut(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath Plain")
	b.click("Make it")
	b.see("to weigh")
	b.click("To the bench")
	b.see("weigh out")
	for b.asked() != "Mix" {
		b.weighOnScale()
	}
	b.click("Done")
	b.step("Are there lumps?")
	b.click("None")
	b.see("This line is optional")
	b.click("Leave it out")
	b.seeIn(".step", "left out")
	b.click("Done")
	b.see("went in, about")
	b.click("Finish the batch")
	b.see("To the pantry")
}

// Drops are counted where the scale is too coarse for them, and what has no
// figure is weighed as it goes in.
func TestDropsAreCountedAndTheRestIsWeighedAsItGoesIn(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Quay Paste")
	b.fill(`[name="say"]`, "300 g baking soda, 10 drops lavender oil, glycerine as needed")
	b.press(kb.Enter)
	b.seeIn(".lines", "left open")
	b.click("Keep this formula")
	b.see("version 1")
	b.click("Make it")
	b.click("times")
	b.seeIn(".make", "10 drops")
	b.click("To the bench")
	b.click("Begin without")
	b.see("weigh out")
	b.seeIn(".steps", "10 drops")
	b.weighOnScale()
	b.see("too little for this scale")
	b.click("10 drops went in")
	b.see("as much as it takes")
	b.seeIn(".say", "weigh what went in")
	b.idle()
	b.fill(`input[name="typed-grams"]`, "42")
	b.press(kb.Enter)
	b.see("All is weighed")
	b.seeIn(".log", "42.0 g")
	b.click("Finish the batch")
	b.see("To the pantry")
}

// A pH that was measured while it was made stands in the log, and its cautions go
// by it.
func TestAPHIsNotedAtTheBench(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.onTheBench()
	b.fill(`input[name="batch-ph"]`, "12.6")
	b.click("Note it")
	b.see("pH 12.6, with a strip")
	b.until("the caution", "document.querySelector('.log .cautions')?.innerText.includes('stings skin')")
}

// What nobody can work out is measured of a lot.
func TestAPHIsMeasuredOfALot(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/shelf")
	b.fill(`[name="delivery"]`, "500 g wood ash from Towpath, lot ASH")
	b.press(kb.Enter)
	b.see("Taken in: 500 g Wood ash")
	b.goTo("/shelf/wood-ash")
	b.see("nobody can work it out")
	b.click("measure its pH")
	b.fill(`input[name="lot-ph"]`, "11.2")
	b.chooseFrom("pH, measured with", "by meter, ±0.05")
	b.press(kb.Enter)
	b.until("it to be kept", "document.querySelector('.lot')?.innerText.includes('pH 11.2 by a meter')")
}

// Who weighed too much keeps the way out in sight whatever is typed, and goes on once it
// is settled: also on a line that was picked by hand.
func TestTooMuchIsSettledAndLeft(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.onTheBench()
	weigh := func(grams string) {
		b.fill("input[name=typed-grams]", grams)
		b.press(kb.Enter)
	}
	tooMuch := func(name, grams string) {
		weigh(grams)
		b.see("too much")
		weigh("12")
		b.see("First say what becomes of what is too much")
		b.see("too much")
		b.click("Keep it and note it")
		b.until("the bench to go on from "+name, fmt.Sprintf("document.querySelector('.what h1')?.textContent !== %q", name))
		b.see("Kept")
	}
	weigh("2116") // all of the first lot
	b.see("61 g more borax")
	tooMuch("Borax", "150")
	b.script("pick a line that waits", "[...document.querySelectorAll('.steps .step')].find(l => /Baking soda/.test(l.textContent)).click()")
	tooMuch("Baking soda", "2610")
}
