package e2e

import (
	"context"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
)

// forcedColours is a browser whose colours its owner has chosen: few, and full of contrast.
func (b *browser) forcedColours() {
	b.t.Helper()
	b.do("force its colours", chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "forced-colors", Value: "active"}}})
		return err
	}))
}

// edgesScript lists buttons that nothing bounds, and what is chosen that looks as what is not.
// A line in the colour of the ground is none.
const edgesScript = `(() => {
	const out = []
	const shown = e => e.checkVisibility() && e.getBoundingClientRect().width > 2
	const lines = e => { const s = getComputedStyle(e); return ['Top', 'Right', 'Bottom', 'Left'].map(side =>
		parseFloat(s['border' + side + 'Width']) > 0 && s['border' + side + 'Style'] !== 'none' && s['border' + side + 'Color'] !== s.backgroundColor && s['border' + side + 'Color'] !== 'rgba(0, 0, 0, 0)' ? s['border' + side + 'Color'] : '').join() }
	const look = e => { const s = getComputedStyle(e); return [lines(e), s.backgroundColor, s.color, s.outlineStyle].join('|') }
	for (const b of document.querySelectorAll('main .ant-btn'))
		if (shown(b) && lines(b).split(',').filter(Boolean).length < 4) out.push('no edge: ' + b.innerText)
	for (const [chosen, all] of [['[role=tab][aria-selected=true]', '[role=tab]'], ['.station.here', '.station'], ['[role=radio][aria-checked=true]', '[role=radio]']])
		for (const c of document.querySelectorAll(chosen)) {
			const other = [...document.querySelectorAll(all)].find(o => !o.matches(chosen) && o.parentElement === c.parentElement && shown(o))
			if (shown(c) && other && look(c) === look(other)) out.push('looks as the others: ' + c.innerText)
			if (shown(c) && getComputedStyle(c).color === getComputedStyle(c).backgroundColor) out.push('cannot be read: ' + c.innerText)
		}
	return out.join('\n')
})()`

// Where colours are forced, buttons keep their edge, and what is chosen is told from the rest.
func TestForcedColoursLeaveEdgesAndWhatIsChosen(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.forcedColours()
	b.openFormula("Towpath")
	b.see("In the jar")
	assert.Empty(t, b.evaluate(edgesScript), "the crock")
	b.onTheBench()
	b.see("Add a photo")
	assert.Empty(t, b.evaluate(edgesScript), "the bench")
	b.openGood("Towpath Plain", "Doses")
	b.see("on the label")
	assert.Empty(t, b.evaluate(edgesScript), "the pantry")
}
