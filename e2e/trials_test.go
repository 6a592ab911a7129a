package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/demo"
)

// A whole trial by keyboard alone: planned, judged by codes, ended, and its answer stays with the
// formula.
func TestATrialByKeyboardOnly(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	b.click("Try it against another")
	b.until("the form", `document.querySelector('[name="trial-question"]')`)
	b.script("to the first field", `document.querySelector('[name="trial-question"]').focus()`)
	b.typeIn("Is Towpath better than plain water?")
	for range 40 { // past the list of formulas to its name
		if b.evaluate(`document.activeElement.name ?? ''`) == "trial-good-0" {
			break
		}
		b.press(kb.Tab)
	}
	b.typeIn("plain water")
	for range 40 {
		if b.evaluate(`document.activeElement.name ?? ''`) == "trial-measure" {
			break
		}
		b.press(kb.Tab)
	}
	b.typeIn("stain left")
	b.press(kb.Enter)
	b.see("Pair 1 of 8")
	b.see("A stain left")
	assert.Equal(t, "", b.evaluate(`document.querySelector('.judging').innerText.includes('plain water') ? 'told' : ''`), "who judges does not know")
	for range 40 {
		if b.evaluate(`document.activeElement.getAttribute('aria-label') ?? ''`) == "A: 4" {
			break
		}
		b.press(kb.Tab)
	}
	b.press(kb.Enter)
	b.see("1 of 16 marks are given")
	b.press(kb.Tab)
	b.press(" ")
	b.until("the mark to be put right", `document.querySelector('[aria-label="A: 5"]').getAttribute('aria-pressed') === 'true'`)
	for range 40 {
		if b.evaluate(`document.activeElement.innerText ?? ''`) == "End it and see the answer" {
			break
		}
		b.press(kb.Tab)
	}
	b.press(kb.Enter)
	b.see("Nothing was marked in it")
	b.goTo("/trials")
	b.see("Is Towpath better than plain water?")
	b.openFormula("Towpath Plain")
	b.see("What trials said")
	b.see("After 8 pairs Towpath Plain was marked higher")
}

// typeIn types where the focus is.
func (b *browser) typeIn(text string) {
	b.t.Helper()
	b.do("type "+text, keyboard(text, 0))
}

// From a good in the pantry, on a phone, to why it went wrong, an answer, and the change.
func TestWhyIsAskedFromAJarOnAPhone(t *testing.T) {
	b := startDemo(t).openAt(390, 844)
	b.signIn()
	b.goTo("/pantry")
	b.click("Heron\n")
	b.click("Something wrong with it?")
	b.until("the question", `document.querySelector('[name="why-said"]')`)
	b.fill(`[name="why-said"]`, "film on the glasses")
	b.see("Most likely: lime from hard water")
	b.see("fall out as chalk")
	b.see("Wipe one glass with vinegar")
	b.click("it stays")
	b.until("another first", `!document.querySelector('.says').innerText.includes('Most likely: lime')`)
	assert.Empty(t, b.evaluate(cutScript))
	b.click("take back")
	b.see("Most likely: lime from hard water")
	// what was found of it before stands there, and what is found now counts, until it is taken back
	b.see("Found of it before")
	b.click("That was it")
	b.see("it counts from now on")
	b.see("found here 1 of 1 times")
	assert.Empty(t, b.evaluate(cutScript))
	b.script("take it back", `document.querySelector('.found li button').click()`)
	b.until("it is gone", `!document.body.innerText.includes('found here')`)
	// what to change in the formula, with what it does, and into it by one press
	b.click("What to change in the formula")
	b.see("what that does")
	b.click("Take it into Heron")
	b.see("Heron is version 2 now")
	b.click("Try it against the one before")
	b.until("both versions", `[...document.querySelectorAll('[name^="trial-good"]')].map((e) => e.value).join() === 'as before,changed'`)
	b.back()
	b.until("the question", `document.querySelector('[name="why-said"]')`)
	b.fill(`[name="why-said"]`, "the bottle swells")
	b.see("Glass can burst")
	b.fill(`[name="why-said"]`, "the moon is blue")
	b.see("What is seen is not understood")
}

// A number is followed to where it is from: found by a word, with its source, on a page that is
// printed.
func TestANumberIsFollowedToItsSource(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.press("/")
	b.until("the box", "document.activeElement.matches('dialog input')")
	b.typeIn("film on the glasses")
	b.see("Why: film on the glasses")
	b.press(kb.Enter)
	b.see("A film on the glasses")
	b.goTo("/handbook")
	b.fill(`[name="find-handbook"]`, "soap flakes")
	b.see("What a cup weighs")
	b.seeIn(".source", "common practice")
	b.click("What a cup weighs")
	b.see("A cup of one is not a cup of another")
	b.goTo("/handbook/schools")
	b.see("worked out in your water")
	b.click("Words of the house")
	b.see("white flakes that clean nothing")
}

// A stain is measured on two photos, here a pair that the program draws and says it drew.
func TestAStainIsMeasuredOnPhotos(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/trials/stain")
	b.click("Try it with a pair drawn by the program")
	b.until("most of it gone", `/^[78]\d % of the stain is gone/.test(document.querySelector('.says')?.innerText ?? '')`)
	b.until("both pictures", `document.querySelectorAll('figure image').length === 2`)
	assert.Empty(t, b.evaluate(cutScript))
}

// A drop that is measured narrows what the drops of a formula weigh, and goes back to what is
// usual by one press.
func TestALearnedDropNarrowsAReadingAndIsTakenBack(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/trials/figures")
	b.click("drop one holds")
	b.see("3 measurings")
	b.fill(`#measured`, "100 drops make 4.5 ml")
	b.press(kb.Enter)
	b.see("4 measurings")
	b.see("What it changed")
	width := `(() => { const cells = [...document.querySelectorAll('.panel td.band')].slice(0, 2).map((c) => c.innerText.match(/\(([\d.]+)–([\d.]+)\)/)); return cells.map((m) => m[2] - m[1]).join(' ') })()`
	var usual, here float64
	_, err := fmt.Sscan(b.evaluate(width), &usual, &here)
	require.NoError(t, err)
	assert.Less(t, here, usual, "what a formula weighs is told more narrowly")
	b.click("Back to what is usual")
	b.see("not used")
	b.until("nothing changed", `!document.querySelector('.panel').innerText.includes('What it changed')`)
	b.click("Use what was measured here")
	b.see("What it changed")
	b.fill(`#measured`, "a cup of moonstone weighs 20 g")
	b.press(kb.Enter)
	b.seeIn("[role=alert]", "moonstone")
	assert.Equal(t, "a cup of moonstone weighs 20 g", b.evaluate(`document.querySelector('#measured').value`), "what was typed stays")
}

// A jar is kept to be looked at, on a phone, and a look with what is seen is one tap each.
func TestASampleIsKeptAndLookedAtOnAPhone(t *testing.T) {
	b := startDemo(t).openAt(390, 844)
	b.signIn()
	b.goTo("/pantry")
	b.click("Heron\n")
	b.see("look at it before it goes out")
	b.goTo("/pantry")
	b.click("Willow Glass\n")
	b.click("keep one as a sample")
	b.see("kept here as a sample")
	b.goTo("/trials/samples")
	b.see("Willow Glass")
	b.click("Willow Glass")
	b.click("mould, or a skin")
	b.seeIn("[role=alert]", "Do not smell at it")
	b.until("only one way to judge it", `![...document.querySelectorAll('.verdict button')].some((e) => e.innerText.includes('Good'))`)
	b.click("mould, or a skin")
	b.click("Good, as new")
	b.see("Good after")
	b.click("Take back")
	b.see("nobody has looked yet")
	assert.Empty(t, b.evaluate(cutScript))
}

// Two photos of what goes by a code are chosen, what is left of the stain is measured on them,
// both stand under one slider, and the mark is taken from them.
func TestPhotosGiveAMark(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/trials")
	b.click("Does Lockgate Even")
	b.see("Pair 4")
	b.script("open the photos", `document.querySelector('.code-photos').open = true`)
	for side, left := range map[string]float64{"before": 1, "after": 0.2} {
		path := filepath.Join(t.TempDir(), side+".png")
		photo, err := demo.DrawSwatch(left)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(path, photo, 0o600))
		b.do("choose the photo "+side, chromedp.SetUploadFiles(fmt.Sprintf(`[name="swatch-A-%s"]`, side), []string{path}))
		b.until("it is kept", fmt.Sprintf(`document.querySelector('.code-photos summary').innerText.includes('%s')`, side))
	}
	b.until("what is left of it", `/[78]\d % of the stain is gone/.test(document.querySelector('.code-photos').innerText)`)
	b.until("both pictures", `[...document.querySelectorAll('.slider img')].filter((i) => i.naturalWidth > 0).length === 2`)
	b.click("Mark A")
	b.until("the mark", `!document.querySelector('.code-photos').innerText.includes('Mark A')`)
	b.see("by them")
}

// A trial on a phone in which each pair is put in order: tapped best first, alike ones at one place.
func TestAPairIsPutInOrderOnAPhone(t *testing.T) {
	b := startDemo(t).openAt(390, 844)
	b.signIn()
	b.goTo("/trials/new")
	b.fill(`[name="trial-question"]`, "Which smells cleaner?")
	b.chooseFrom("How is it judged?", "by putting each pair in order, best first")
	b.see("An order tells which is the better")
	b.fill(`[name="trial-good-0"]`, "plain")
	b.fill(`[name="trial-good-1"]`, "lavender")
	b.click("Draw the lots")
	b.see("Tap them in order, best first")
	b.script("B is the best", `document.querySelector('.codes [aria-label="B"]').click()`)
	b.script("and A", `document.querySelector('.codes [aria-label="A"]').click()`)
	b.see("2 of 16 marks are given")
	b.until("B at the first place", `document.querySelector('[aria-label="B: place 1"]')`)
	b.click("Put it anew")
	b.script("A", `document.querySelector('.codes [aria-label="A"]').click()`)
	b.click("The next is alike")
	b.script("and B", `document.querySelector('.codes [aria-label="B"]').click()`)
	b.until("both at the first place", `document.querySelector('[aria-label="B: place 1"]') && document.querySelector('[aria-label="A: place 1"]')`)
	b.until("nothing wider than the phone", "document.documentElement.scrollWidth <= 390")
	b.goTo("/trials/figures")
	b.see("Steps")
}
