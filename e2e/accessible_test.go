package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// axe is the checker of axe-core, a kept library of rules after WCAG 2.2.
func axe(t *testing.T) string {
	t.Helper()
	text, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	return string(text)
}

// Rules of axe-core: of WCAG 2.2 AA and its best practice, or contrast alone, or all but
// contrast, which takes most of the time and is the same at every width.
const (
	allRules  = `{ type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'] }`
	contrast  = `{ type: 'rule', values: ['color-contrast'] }`
	structure = allRules + `, rules: { 'color-contrast': { enabled: false } }`
)

// violations are what axe-core finds on the page as it stands, one a line.
func (b *browser) violations(axe, rules string) []string {
	b.t.Helper()
	if b.evaluate(`String(!!window.axe)`) == "false" {
		b.evaluate(axe + "; 'there'")
	}
	found := b.evaluateAsync(`(async () => {
		await Promise.all(document.getAnimations().map((a) => a.finished.catch(() => 0)))
		const r = await window.axe.run(document, { resultTypes: ['violations'], preload: false, selectors: false, iframes: false, runOnly: ` + rules + ` })
		return JSON.stringify(r.violations.flatMap((v) => v.nodes.map((n) => v.id + ': ' + n.html.slice(0, 160) + ' ' + (n.any[0] ?? n.all[0] ?? n.none[0])?.message)))
	})()`)
	var list []string
	require.NoError(b.t, json.Unmarshal([]byte(found), &list), found)
	return list
}

// small lists the targets that are too small for a finger: under so many pixels, but for
// links in running text and what stands well apart (WCAG 2.2, 2.5.8).
func (b *browser) small(least int) string {
	b.t.Helper()
	return b.evaluate(fmt.Sprintf(`(() => {
		const least = %d, out = []
		for (const e of document.querySelectorAll('main button, main input, main select, nav a, nav button')) {
			const label = e.closest('label')
			const r = (label && e.matches('input[type=checkbox], input[type=radio]') ? label : e.closest('.ant-select, .ant-input-number, .ant-input-affix-wrapper') ?? e).getBoundingClientRect()
			if (!r.width || e.type === 'file' || e.closest('.unseen, p, td, li, summary') || getComputedStyle(e).visibility === 'hidden') continue
			if (r.height < least - 0.5 || r.width < least - 0.5) out.push(Math.round(r.width) + 'x' + Math.round(r.height) + ' ' + e.outerHTML.slice(0, 100))
		}
		return out.join('\n')
	})()`, least))
}

// views are all views there are, with what is seen on them when they are there. Those
// behind a click are opened by it.
var views = []struct{ path, there, click, then string }{
	{"/shelf", "Soap flakes", "", ""},
	{"/shelf/soap-flakes", "Price over time", "", ""},
	{"/shelf/new", "What you call it", "", ""},
	{"/crock", "Towpath Plain", "", ""},
	{"/crock/new", "One use is", "", ""},
	{"/crock/start", "Infused vinegar", "", ""},
	{"/crock/start", "Infused vinegar", "Infused vinegar\n", "Dried flowers take no water"},
	{"/crock/start", "Dried flowers take no water", "Make it this way", "Tick what is in the cupboard"},
	{"/crock", "Towpath Plain", "Lockgate\n", "In the jar"},
	{"/bench", "Towpath", "", ""},
	{"/bench", "Towpath", "Towpath\n", "weigh out"},
	{"/rack", "Willow", "", ""},
	{"/pantry", "a use", "", ""},
	{"/pantry/cards", "Windows of a narrowboat", "", ""},
	{"/settings/sheets", "Bring in a sheet", "", ""},
	{"/ledger/goods", "costs more than it brings", "Hands", "Minutes at the bench"},
	{"/ledger/sales", "café on the Long Reach", "", ""},
	{"/ledger/sales/new", "What must be minded", "", ""},
	{"/ledger/stall", "Earlier days", "", ""},
	{"/ledger/buying", "A tenth dearer", "", ""},
	{"/ledger/year", "in stock, at cost", "", ""},
	{"/almanac", "What to make", "Within which limits", "Days of work"},
	{"/almanac/today", "Comes round", "", ""},
	{"/almanac/need", "in the next four", "", ""},
	{"/trials", "Is Towpath Plain as good", "Is Towpath Plain", "Signed ranks"},
	{"/trials", "Does Lockgate Even fizz", "Does Lockgate Even", "Pair 4 of 8"},
	{"/trials/new", "Draw the lots", "", ""},
	{"/trials/why?seen=bottle-swells", "Glass can burst", "", ""},
	{"/trials/stain", "Choose a photo", "", ""},
	{"/trials/samples", "how long it really keeps", "Heron", "What else is about"},
	{"/trials/figures", "What did you measure", "Washing soda", "What it changed"},
	{"/handbook", "where each of its numbers is from", "", ""},
	{"/handbook/weights", "1 tbsp", "", ""},
	{"/settings", "Who came and went", "", ""},
}

// Nothing that the rules of WCAG 2.2 AA can see is wrong on any view, in both themes,
// at the widths of a laptop, a tablet and a phone, and targets are large enough: 24 px
// everywhere, 44 at the bench. Each rule is tried where it can come out otherwise:
// contrast in each theme, the rest at the widest and the narrowest. KEEN_CROCK_AXE=all tries all of them
// everywhere.
func TestEveryViewIsAccessible(t *testing.T) {
	b := startDemo(t).open()
	rules := axe(t)
	b.goTo("/")
	b.see("Sign in to your workshop")
	b.checked(rules, "sign-in", 24)
	b.signIn()
	for _, v := range views {
		b.turnTo(v.path)
		b.see(v.there)
		least := 24
		if v.click != "" {
			b.click(v.click)
			b.see(v.then)
			if v.path == "/bench" {
				least = 44
			}
		}
		b.checked(rules, strings.TrimSpace(v.path+" "+v.click), least)
	}
	b.openGood("Towpath Plain", "Label")
	for tab, there := range map[string]string{"Check a fill": "The fill passes", "Doses": "on the label", "Dilute": "The bottle", "Use cards": "Café aprons", "To hand out": "Made by"} {
		b.click(tab)
		b.see(there)
		b.checked(rules, tab, 24)
	}
}

// checked looks at the page at each width and in each theme.
func (b *browser) checked(axe, where string, least int) {
	b.t.Helper()
	everywhere := os.Getenv("KEEN_CROCK_AXE") == "all"
	themes := []string{"slip", "kiln"}
	if b.evaluate(`String(!!document.querySelector('nav[aria-label=Stations]'))`) == "false" {
		themes = themes[:1] // it is chosen inside
	}
	for _, size := range [][2]int64{{390, 844}, {820, 1180}, {1280, 800}} {
		if size[0] == 820 && !everywhere {
			continue // what can come out otherwise does so at the ends
		}
		b.do("be so wide", chromedp.EmulateViewport(size[0], size[1]))
		for _, theme := range themes {
			of := structure
			switch {
			case everywhere || size[0] == 1280 && theme == "slip":
				of = allRules
			case theme == "kiln" && size[0] == 1280:
				of = contrast
			case theme == "kiln":
				continue
			}
			if theme == "kiln" {
				b.evaluate(`(document.querySelector('nav button[title^=Dark]').click(), '')`)
				b.until("the kiln", "document.documentElement.dataset.theme === 'kiln'")
			}
			assert.Empty(b.t, b.violations(axe, of), "%s %s at %d", theme, where, size[0])
			if theme == "kiln" {
				b.evaluate(`(document.querySelector('nav button[title^=Light]').click(), '')`)
				b.until("the slip", "document.documentElement.dataset.theme === 'slip'")
			}
		}
	}
	assert.Empty(b.t, b.small(least), where)
}

// What rules cannot see: where the focus goes, that it is held and given back, and that
// the work is reached without passing the stations each time.
func TestTheFocusGoesWhereTheWorkIs(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	focused := func(condition string) { t.Helper(); b.until("the focus", "document.activeElement && ("+condition+")") }
	b.goTo("/shelf")
	b.see("Soap flakes")
	b.press(kb.Tab)
	focused(`document.activeElement.innerText === 'Skip to the work'`)
	b.press(kb.Enter)
	focused(`document.activeElement.matches('main h1')`)
	for key, title := range map[string]string{"2": "Crock", "4": "Rack", "5": "Pantry"} {
		b.press(key)
		b.until("the title "+title, `document.title.startsWith('`+title+`')`)
		focused(`document.activeElement.matches('main h1') && document.activeElement.innerText === '` + title + `'`)
	}
	// a dialog holds the focus and gives it back
	b.press("/")
	focused(`document.activeElement.matches('dialog input')`)
	b.press(kb.Tab, kb.Tab, kb.Tab)
	assert.Equal(t, "false", b.evaluate(`String(!!document.activeElement.closest('main, nav'))`))
	b.press(kb.Escape)
	focused(`document.activeElement.matches('main h1')`)
	b.press("?")
	focused(`document.activeElement.getAttribute('aria-label') === 'Keys of this station'`)
	b.press(kb.Escape)
	focused(`document.activeElement.matches('main h1')`)
	// tabs are one stop, and the arrows go round them
	b.openFormula("Lockgate")
	b.script("to the tabs", `document.querySelector('[role=tab][tabindex="0"]').focus()`)
	for _, to := range []struct{ key, tab string }{{kb.ArrowRight, "Make it"}, {kb.End, "Beside"}, {kb.ArrowRight, "Readings"}, {kb.ArrowLeft, "Beside"}, {kb.Home, "Readings"}} {
		b.press(to.key)
		focused(`document.activeElement.matches('[role=tab][aria-selected=true]') && document.activeElement.innerText === '` + to.tab + `'`)
	}
	assert.Equal(t, "1", b.evaluate(`String(document.querySelectorAll('[role=tab][tabindex="0"]').length)`))
}
