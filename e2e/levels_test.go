package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// A good that was made is a material like another: found by its name, weighed
// out of its jars, and traced back to the bags.
func TestAGoodGoesIntoAnother(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Towpath for the bucket")
	b.fill(`[name="say"]`, "200 g Towpath, 300 g washing soda")
	b.press(kb.Enter)
	b.seeIn(".lines .mass", "200 g")
	b.fill(`input[name="uses"]`, "20 g")
	b.see("A use costs")
	b.see("Borax harms when swallowed") // which is in Towpath
	b.click("Keep this formula")
	b.see("version 1")
	b.click("Make it")
	b.see("to weigh")
	b.click("To the bench")
	b.click("Begin without")
	b.see("weigh out")
	for b.asked() != "All is weighed" {
		b.weighOnScale()
	}
	b.click("Finish the batch")
	b.see("Best before")
	b.click("To the pantry")
	b.see("Back to the bags")
	b.seeIn(".bags", "made here")
	b.seeIn(".bags", "Soap flakes")
}

// A weighing that was typed wrongly is put right in the log, and what it was
// stays there.
func TestAWeighingIsPutRight(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.onTheBench()
	b.see("begun")
	b.click("not so")
	b.fill(`input[name="put-right"]`, "12.5")
	b.press(kb.Enter)
	b.seeIn(".log", "put right: 12.5 g")
	b.seeIn(".log", ", not ") // and what it was
	b.seeIn(".step.here", "12.5 g")
}

// A vat is set up, fed, stirred and drawn, and says how old what came out is.
func TestAVatIsKept(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/rack")
	b.see("Bittern vat") // the demo's own
	b.press("n")
	b.fill(`input[name="vat-name"]`, "Peel bin")
	b.press(kb.Enter)
	b.see("0 ml of 10 l")
	b.fill(`input[name="feed-ml"]`, "8000")
	b.fill(`input[name="feed-sugar"]`, "80000")
	b.until("the lots", "document.querySelector('.feed')?.innerText.includes('Jaggery')")
	b.click("Goes in")
	b.seeIn(".bad", "has only")
	b.fill(`input[name="feed-sugar"]`, "800")
	b.fill(`input[name="feed-text"]`, "orange peel")
	b.click("Goes in")
	b.see("8 l of 10 l")
	b.seeIn(".log", "from Jaggery J-")
	b.see("Never close it tight")
	b.see("stir, in 3 days")
	b.click("Stirred")
	b.seeIn(".log", "stirred")
	b.fill(`input[name="draw-ml"]`, "9000")
	b.fill(`input[name="draw-ml"]`, "2000")
	b.click("Comes out")
	b.see("6 l of 10 l")
	b.seeIn(".log", "drew 2 l")
	b.click("undo")
	b.see("8 l of 10 l")
	b.until("it to be struck out", "document.querySelector('.log s')?.innerText.includes('drew')")
}

// A browser has six connections for one server: seven tabs share the stream of
// changes, and all of them hear.
func TestMoreTabsThanABrowserHasLinesHearOfAChange(t *testing.T) {
	a := startDemo(t)
	first := a.open()
	first.signIn()
	tabs := []*browser{first}
	for range 6 { // a browser has six lines to one server
		ctx, stop := chromedp.NewContext(first.ctx)
		t.Cleanup(stop)
		require.NoError(t, chromedp.Do(ctx, chromedp.EmulateViewport(1280, 800)))
		tabs = append(tabs, &browser{t: t, ctx: ctx, app: a})
	}
	for _, tab := range tabs {
		tab.goTo("/shelf/borax")
		tab.see("Price over time")
	}
	first.goTo("/shelf")
	first.fill(`[name="delivery"]`, "5 kg borax 17.25 from Quayside, lot MANYTABS, best 2031-06")
	first.see("€3.45 a kg")
	first.press(kb.Enter)
	first.see("Taken in")
	for _, tab := range tabs[1:] {
		tab.see("MANYTABS")
	}
}
