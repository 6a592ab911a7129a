package e2e

import (
	"fmt"
	"strings"
	"syscall"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// beginTabs writes a formula of tabs, with its usual steps, and brings it to the bench.
func (b *browser) beginTabs() {
	b.t.Helper()
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Quay Tabs")
	b.fill(`[name="say"]`, "300 g washing soda, 150 g citric acid, 25 g water")
	b.press(kb.Enter)
	b.seeIn(".lines .share", "%")
	b.script("open the kinds", "document.querySelector('.kind .ant-select-selector').dispatchEvent(new MouseEvent('mousedown', {bubbles: true}))")
	b.until("the kinds", `document.querySelector('.ant-select-item-option[title="Dish tab"]')`)
	b.script("a tab", `document.querySelector('.ant-select-item-option[title="Dish tab"]').click()`)
	b.fill(`input[name="yield"]`, "12 tabs")
	b.see("No steps yet")
	b.click("wetted and pressed")
	b.seeIn(".making", "Add slowly")
	b.seeIn(".side", "Press")
	b.click("Keep this formula")
	b.see("version 1")
	b.click("Make it")
	b.click("times")
	b.click("To the bench")
	b.see("weigh out")
}

// step waits for a step to be at hand.
func (b *browser) step(name string) {
	b.t.Helper()
	b.until("the step "+name, fmt.Sprintf("document.querySelector('.work h1')?.innerText === %q && document.querySelector('.work[aria-busy=false]')", name))
}

// passTime lets so much time pass for the program, as its restart under a clock that
// is ahead. The browser's own clock stays.
func (a *app) passTime(ahead string) {
	a.t.Helper()
	a.stop(syscall.SIGTERM)
	a.env = append(a.env, "KEEN_CROCK_CLOCK_AHEAD="+ahead)
	a.restart()
}

// The whole life of a batch of tabs: its steps taken over in the crock, weighed,
// mixed under a timer that outlives a reload and a kill, wetted by drops, a check with
// its remedy, pressed, dried by weight over two days, packed in two parts.
func TestTabsFromTheFormulaToTheJar(t *testing.T) {
	a := startDemo(t)
	b := a.open()
	b.signIn()
	b.beginTabs()
	for b.asked() != "Mix" {
		b.weighOnScale()
	}

	b.step("Mix")
	b.click("Timer, 5 min")
	b.seeIn(".timers", "Quay Tabs")
	b.script("reload", "(window.before = true, location.reload())")
	b.until("the page anew", "!window.before && document.querySelector('.work h1')?.innerText === 'Mix'")
	b.seeIn(".work [role=timer]", "4:")
	a.stop(syscall.SIGKILL) // the power goes in mid-step
	a.restart()
	b.goTo(b.path())
	b.step("Mix")
	b.seeIn(".work [role=timer]", "4:")
	b.click("Stop it")
	b.until("no timer of it", "![...document.querySelectorAll('.timers')].some(e => e.innerText.includes('Quay Tabs'))")
	b.click("Done")

	b.step("Water")
	b.click("+ 20 drops")
	b.seeIn(".slow .facts", "0.90 g of 25.0 g in") // by the drops that were measured here: 20 of 0.045 ml
	b.idle()
	b.fill(`input[name="typed-grams"]`, "14")
	b.press(kb.Enter)
	b.seeIn(".slow .facts", "14.9 g of 25.0 g in")
	b.idle()
	b.click("It is enough")

	// the handful crumbles: more water, once it is known what that does
	b.step("Squeeze a handful: does it hold?")
	b.click("Crumbles")
	b.seeIn(".work", "Half a teaspoon more of the liquid")
	b.click("What would it do?")
	b.seeIn(".tried", "does no harm")
	b.click("Add it")
	b.see("added at the bench")
	b.weighOnScale()
	b.step("Squeeze a handful: does it hold?")
	b.click("Holds, breaks clean")

	b.step("Press")
	b.until("the pieces of the formula", `document.querySelector('input[name="pieces"]')?.value === '12'`)
	b.fill(`input[name="pieces"]`, "13")
	b.click("Count them")
	b.seeIn(".work", "13 counted")
	b.click("Done")

	// it stands on the rack, is weighed in over two days, and says when it is dry
	b.step("Dry")
	b.goTo("/rack")
	b.click("Quay Tabs\n")
	for _, w := range []struct{ after, grams string }{{"", "460"}, {"10h", "455,4"}, {"20h", "453"}, {"48h", "451"}} {
		if w.after != "" {
			a.passTime(w.after)
			b.goTo(b.path())
		}
		b.fill(`input[name="weigh-in"]`, w.grams)
		b.click("Weigh in")
		b.until("it to be noted", `document.querySelector('input[name="weigh-in"]')?.value === ''`)
	}
	b.until("all four on the curve", "document.querySelectorAll('.drying .point').length === 4")
	b.seeIn(".until", "Dry.")
	b.click("Dry: done")
	b.see("at the bench")
	b.click("Go there")
	b.step("Does it hold when it is turned out?")
	b.click("Holds")

	b.see("went in, about")
	b.fill(`input[name="filled-jars"]`, "1")
	b.fill(`input[name="each-grams"]`, "225")
	b.click("Pack these, the rest later")
	b.see("1 jar are filled")
	b.fill(`input[name="filled-jars"]`, "1")
	b.fill(`input[name="each-grams"]`, "220")
	b.click("Finish the batch")
	b.see("dried off")
	b.click("To the pantry")
	b.see("Back to the bags")
}

// Two people at one batch: what one does the other sees, and a step that was done
// meanwhile is not done again.
func TestTwoDevicesAtOneBatch(t *testing.T) {
	a := startDemo(t)
	one, two := a.open(), a.open()
	one.signIn()
	two.signInAs("mate", "lockside-demo")
	for _, b := range []*browser{one, two} {
		b.goTo("/bench")
		b.click("Coracle\n")
		b.step("Mix")
	}
	one.seeIn(".timers", "mix, Coracle")
	two.seeIn(".timers", "mix, Coracle")
	two.block("*://*/api/events*") // this one hears nothing more for a while
	before := two.read(".head.here")
	one.click("Done")
	one.until("the next step", fmt.Sprintf("document.querySelector('.head.here').innerText !== %q", before))
	at := one.path()[strings.LastIndex(one.path(), "/")+1:]
	answer := two.evaluateAsync(fmt.Sprintf(`fetch('/api/session').then(r => r.json()).then(s => fetch('/api/batches/%s/acts', {method: 'POST',
		headers: {'Content-Type': 'application/json', 'X-CSRF-Token': s.csrf_token, 'Idempotency-Key': crypto.randomUUID()},
		body: JSON.stringify({kind: 'step-done', step: 2})})).then(r => r.json()).then(p => p.detail)`, at))
	assert.Contains(t, answer, "was done already, by")
	two.goTo(two.path())
	two.until("the same step", fmt.Sprintf("document.querySelector('.head.here')?.innerText !== %q", before))
	one.click("hand over")
	one.fill(`[name="hand-over"]`, "Mate")
	one.click("Hand it over")
	two.goTo(two.path())
	two.see("with Mate now")
}

// What stands is stirred from the rack with one tap, and that is taken back.
func TestTheRackIsStirred(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/rack")
	b.seeIn(".board.late", "Willow")
	b.click("Willow\n")
	b.click("Stirred")
	b.until("no longer late", "![...document.querySelectorAll('.board.late')].some(e => e.innerText.includes('Willow'))")
	b.click("take back “stirred”")
	b.seeIn(".board.late", "Willow")
	b.click("Lockgate\n")
	b.click("Pack it")
	b.see("are filled")
}
