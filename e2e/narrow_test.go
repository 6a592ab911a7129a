package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// cutScript lists what of a page lies beyond the sides of the window, and what
// has to be scrolled sideways to be seen. Fields scroll their own text.
const cutScript = `(() => {
	const wide = document.documentElement.clientWidth
	const said = e => e.tagName + '.' + e.className + ' ' + (e.innerText || e.ariaLabel || e.name || '').slice(0, 30)
	const out = []
	const page = document.documentElement // its parts scroll: the bar below stays where it is
	if (page.scrollHeight > page.clientHeight + 1) out.push('the page is ' + page.scrollHeight + ' high')
	for (const e of document.querySelectorAll('html, main, main *, nav *')) {
		const r = e.getBoundingClientRect(), style = getComputedStyle(e)
		if (e.closest('svg, .unseen') || r.width < 2 || style.visibility === 'hidden' || /INPUT|TEXTAREA|SELECT/.test(e.tagName) && r.right <= wide) continue
		if (e.scrollWidth > e.clientWidth + 1 && e.clientWidth > 1 && /auto|scroll/.test(style.overflowX)) out.push('scrolls sideways: ' + said(e))
		if (r.left < -1 || r.right > wide + 1) out.push(Math.round(r.left) + ' to ' + Math.round(r.right) + ': ' + said(e))
	}
	return out.slice(0, 8).join('\n')
})()`

// A telephone's width, and a laptop's screen at 200 %, cut nothing.
func TestNarrowScreensCutNothing(t *testing.T) {
	app := startDemo(t)
	for _, size := range [][2]int64{{390, 844}, {640, 400}} {
		b := app.openAt(size[0], size[1])
		b.signIn()
		look := func(where string) {
			t.Helper()
			assert.Empty(t, b.evaluate(cutScript), "%s at %d px", where, size[0])
		}
		for path, there := range map[string]string{"/shelf": "Soap flakes", "/shelf/soap-flakes": "Price over time", "/shelf/new": "What you call it",
			"/crock": "Towpath Plain", "/crock/new": "One use is", "/pantry": "a use", "/settings": "Let someone in", "/settings/sheets": "Bring in a sheet",
			"/ledger/goods": "costs more than it brings", "/ledger/sales": "café on the Long Reach", "/ledger/stall": "Earlier days", "/ledger/buying": "A tenth dearer", "/ledger/year": "in stock, at cost", "/almanac": "What to make", "/almanac/need": "in the next four", "/trials": "Is Towpath Plain", "/trials/new": "Draw the lots", "/trials/samples": "how long it really keeps", "/trials/figures": "What did you measure", "/trials/why?seen=film": "Wipe one glass", "/handbook/keeping": "dry powder"} {
			b.goTo(path)
			b.see(there)
			look(path)
		}
		b.openFormula("Lockgate")
		b.see("In the jar")
		look("the crock")
		for tab, there := range map[string]string{"Make it": "To the bench", "Map": "other schools", "Swap": "What replaces", "Wish": "Propose", "Beside": "Beside"} {
			b.click(tab)
			b.see(there)
			look("the panel " + tab)
		}
		b.goTo("/pantry/cards")
		b.see("Windows of a narrowboat")
		look("the use cards")
		b.openGood("Towpath Plain", "Label")
		b.until("the label", "document.querySelector('.jar image')")
		look("a label")
		for tab, there := range map[string]string{"Check a fill": "The fill passes", "Doses": "on the label", "Dilute": "The bottle", "Use cards": "Café aprons", "To hand out": "Made by"} {
			b.click(tab)
			b.see(there)
			look("the page " + tab)
		}
		b.goTo("/bench")
		b.click("Towpath\n")
		b.see("weigh out")
		look("the bench")
	}
}
