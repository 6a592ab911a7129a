package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// back presses the browser's Back.
func (b *browser) back() {
	b.t.Helper()
	b.script("go back", "history.back()")
}

// Nothing is lost by leaving a page: Back, reload and another station keep
// what was being written.
func TestNothingIsLostByLeaving(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	b.fill(`[data-cell="0-amount"]`, "3 cups")
	b.see("changed since version 1")
	b.press(kb.Escape)
	b.goTo("/shelf")
	b.see("Washing soda")
	b.back()
	b.until("the draft", `document.querySelector('[data-cell="0-amount"]')?.value === '3 cups'`)
	b.see("changed since version 1")
	b.script("reload", "location.reload()")
	b.until("the draft after a reload", `document.querySelector('[data-cell="0-amount"]')?.value === '3 cups'`)
	b.click("Keep as version 2")
	b.until("be kept", "document.querySelector('.state')?.innerText === 'version 2'")
	b.script("reload", "location.reload()")
	b.until("what was kept", `document.querySelector('[data-cell="0-amount"]')?.value === '3 cups' && document.querySelector('.state')?.innerText === 'version 2'`)
}

// Sized before it is kept: keeping it from there leads on, and a reload stands
// where it stood.
func TestANewFormulaIsKeptFromWhereItIsMade(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Quay Powder")
	b.click("Keep this formula")
	b.see("A formula needs at least one line")
	b.fill(`[name="say"]`, spoken)
	b.press(kb.Enter)
	b.seeIn(".lines .mass", "116 g")
	b.until("the complaint to be gone", "!document.body.innerText.includes('needs at least one line')")
	b.click("Make it")
	b.click("Keep it")
	b.seeIn(".make", "to weigh")
	b.script("reload", "location.reload()")
	b.seeIn(".make", "to weigh")
	b.see("version 1")
}

// The strip shows what it has room for; the rest is behind one button.
func TestEverythingThatWaitsCanBeReached(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.click("and ")
	b.seeIn(".all", "use up Towpath Nut")
	b.press(kb.Escape)
	b.until("the list to be gone", "!document.querySelector('.all')")
	b.click("and ")
	b.click("▲ White vinegar is low")
	b.until("the vinegar", "location.pathname === '/shelf/white-vinegar'")
	assert.Equal(t, "White vinegar", b.read(".panel h2"))
}

// A viewer sees everything and is offered nothing that would be refused.
func TestAViewerIsOfferedNothingToChange(t *testing.T) {
	b := startDemo(t).open()
	b.signInAs("visitor", "lockside-demo")
	b.see("Washing soda")
	offered := func() []string {
		t.Helper()
		texts, err := chromedp.Run(b.ctx, chromedp.Evaluate[[]string](`[...document.querySelectorAll('main button, main input, main textarea')].filter(e => e.offsetParent && !e.disabled && !e.readOnly)
			.map(e => (e.innerText || e.name || e.ariaLabel || '').trim()).filter(Boolean)`))
		require.NoError(t, err)
		return texts
	}
	for path, forbidden := range map[string][]string{
		"/shelf/borax": {"Take in", "it clumped", "set it aside"},
		"/crock":       {"New formula", "Formula file in"},
		"/pantry":      {"It goes", "came back"},
		"/settings":    {"Keep", "Add", "take access away"},
	} {
		b.goTo(path)
		b.until("something to see", "document.querySelector('main h1')")
		for _, f := range forbidden {
			assert.NotContains(t, offered(), f, path)
		}
	}
	b.openFormula("Towpath")
	assert.NotContains(t, offered(), "Keep as version 2")
	assert.NotContains(t, offered(), "say", "no line can be said")
	b.click("Swap")
	b.see("The same")
	assert.NotContains(t, offered(), "Swap it in")
}

// At the bench a tablet stands upright: everything a hand needs is on it, and
// large enough for a wet finger.
func TestTheBenchOnATablet(t *testing.T) {
	b := startDemo(t).openAt(820, 1180)
	b.signIn()
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
	for _, control := range []string{".do-row .main", "input[name=typed-grams]", ".lot"} {
		box, err := chromedp.Run(b.ctx, chromedp.Evaluate[[]float64](fmt.Sprintf(`(r => [r.left, r.right, r.width, r.height])(document.querySelector(%q).getBoundingClientRect())`, control)))
		require.NoError(t, err, control)
		assert.GreaterOrEqual(t, box[0], 0.0, control)
		assert.LessOrEqual(t, box[1], 820.0, "%s is cut", control)
		assert.GreaterOrEqual(t, box[3], 44.0, "%s is too small for a wet finger", control)
	}
	wide, err := chromedp.Run(b.ctx, chromedp.Evaluate[float64]("document.documentElement.scrollWidth"))
	require.NoError(t, err)
	assert.LessOrEqual(t, wide, 820.0, "the page does not scroll sideways")
	b.weighOnScale()
}

// What cannot be is said where it is, by every field that takes text.
func TestBadInputIsAnsweredInPlace(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/shelf")
	b.fill(`[name="delivery"]`, "5 kg boraks 3.00")
	b.seeIn(".heard", "did you mean Borax")
	b.openFormula("Towpath")
	b.fill(`input[name="uses"]`, "some")
	b.see("One use: At character 1: expected a figure")
	b.fill(`input[name="uses"]`, "1 tbsp")
	b.fill(`input[name="uses-water"]`, "200 g")
	b.see("The water of one use is a volume")
	b.fill(`input[name="uses-water"]`, "15 l")
	b.fill(`input[name="hardness"]`, "soft")
	b.seeIn(".water [role=alert]", "expected a number")
	b.fill(`input[name="hardness"]`, "")
	b.click("Make it")
	b.click("jars")
	b.fill(`input[name="each"]`, "a jar")
	b.seeIn(".make [role=alert]", "a mass or a volume")
	b.goTo("/crock/00000000-0000-7000-8000-000000000000")
	b.see("There is no such formula in this workshop")
	b.goTo("/nowhere/at/all")
	b.see("What came, as you would say it") // unknown addresses lead to the shelf
}

// Nothing that was written is lost: an older version is looked at and kept again,
// a copy is a formula of its own, what was put away is brought back.
func TestVersionsCopiesAndWhatWasPutAway(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	b.fill(`[name="say"]`, "1 cup salt")
	b.press(kb.Enter)
	b.click("Keep as version 2")
	b.see("version 2")
	b.click("Older versions")
	b.click("look at it")
	b.until("the version as it was", "!document.querySelector('.written').innerText.includes('288 g')")
	b.see("changed since version 2")
	b.click("Keep as version 3")
	b.see("version 3")

	b.click("Copy")
	b.until("a formula of its own", "document.querySelector('input.name').value === 'Towpath, another'")
	b.click("Put away")
	b.see("Put away: 1")
	b.click("Put away: 1")
	b.click("Towpath, another")
	b.see("It was put away")
	b.click("Bring it back")
	b.until("it to be back", "!document.body.innerText.includes('It was put away')")
	b.goTo("/crock")
	b.see("Towpath, another")
}

// Several jars go in one act, and how they were made can be read.
func TestSeveralJarsGoAndTheirLogIsRead(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/bench")
	b.see("Before")
	b.click("more")
	b.until("earlier ones", "document.querySelectorAll('.earlier tr').length > 25")
	b.goTo("/pantry")
	b.see("of 6 jars")
	b.script("open the newest", "document.querySelector('.lot-row').click()")
	b.fill(`input[name="gone-count"]`, "3")
	b.fill(`input[name="gone-to"]`, "Harbour fair")
	b.click("They go")
	b.until("three to be gone", "[...document.querySelectorAll('.jars tr')].filter(r => r.innerText.includes('Harbour fair')).length === 3")
	b.click("How it was made, with its log")
	b.see("finished.")
	b.see("begun")
}

// A field says what it is: by keys, and gone again by Esc; a caution says why it is said.
func TestAFieldAndACautionSayWhatTheyAre(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	b.see("In the jar")
	const says = "The usual waters stand in the settings."
	b.script("go to the water of a use", `document.querySelector('[name=uses]').focus()`)
	b.tabTo("?") // of the water, the next field
	b.press(kb.Enter)
	b.see(says)
	b.press(kb.Escape)
	b.until("it to be gone", fmt.Sprintf(`![...document.querySelectorAll('.about-this')].some(p => p.innerText.includes(%q) && p.checkVisibility())`, says))
	b.script("open a caution", `document.querySelector('.cautions summary').click()`)
	b.see("2 mol of soap to a mol of hardness. It is said from 30 % on.")
}

// What was typed and not sent is there again after a break: a reload, another station.
func TestWhatWasTypedComesBackAfterABreak(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/rack")
	b.see("Bittern vat")
	b.press("n")
	b.fill(`input[name="vat-name"]`, "Peel bin")
	b.goTo("/shelf")
	b.fill(`[name="delivery"]`, "5 kg soda crys")
	b.goTo("/rack")
	b.see("Bittern vat")
	assert.NotContains(t, b.evaluate(`document.body.innerText`), "here again", "only where it was typed")
	b.press("n")
	b.see("What you had typed is here again.")
	assert.Equal(t, "Peel bin", b.evaluate(`document.querySelector('input[name="vat-name"]').value`))
	b.click("Empty it")
	b.until("the form as it was at first", `document.querySelector('input[name="vat-name"]').value === '' && !document.body.innerText.includes('here again')`)
	b.goTo("/shelf")
	b.until("the delivery as far as it was typed", `document.querySelector('[name="delivery"]')?.value === '5 kg soda crys'`)
}
