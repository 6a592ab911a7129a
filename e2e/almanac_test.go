package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
)

// An order that does not fit says what would help; an order is said and becomes a making, a
// shopping list and a delivery; one more tray brings all in time.
func TestAnOrderBecomesAPlan(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/almanac")
	b.see("24 Heron for guest house")
	b.see("One more of “ice-cube tray”")
	b.until("the order to be marked", `document.querySelector('.order.late')`)
	b.fill(`[name="orders"]`, "the fair wants 300 Coracle in two months")
	b.see("Ordered: 300 Coracle for fair")
	b.press(kb.Enter)
	b.see("Noted: 1 order")
	b.see("300 Coracle for fair")
	b.seeIn(".asked", "What to buy for it")
	b.seeIn(".asked", "Liquid soap")
	b.script("it came", `document.querySelector('input[aria-label^="Liquid soap"]').click()`)
	b.click("These 1 came: note a delivery")
	b.until("the note", `(n => n?.includes('liquid soap') && !n.includes(';'))(document.querySelector('[name="delivery"]')?.value)`)
	b.goTo("/almanac")
	b.see("300 Coracle for fair")
	b.script("it is not wanted", `document.querySelector('[name="end-Coracle"]').click()`)
	b.until("it to be gone", `!document.body.innerText.includes('300 Coracle')`)
}

// A mark on the band is moved by keys: what would change is said, and is kept or dropped; two
// people who plan at once see what the other did. What if is kept, too, where it is a limit.
func TestAMakingIsMovedByKeys(t *testing.T) {
	a := startDemo(t)
	b, other := a.open(), a.open()
	b.signIn()
	other.signIn()
	other.goTo("/almanac")
	b.goTo("/almanac")
	other.until("the band", `document.querySelector('.bar.bench')`)
	b.until("the band", `document.querySelector('.bar.bench')`)
	b.script("take the last mark", `[...document.querySelectorAll('.bar.bench')].at(-1).focus()`)
	b.press(kb.ArrowLeft, kb.ArrowLeft, kb.ArrowLeft)
	b.see("If it is made on")
	b.until("what changes", `document.querySelector('.would li') && document.activeElement.matches('.bar.moved')`)
	b.press(kb.Escape)
	b.until("it to be as it was", `!document.querySelector('.would, .bar.set')`)
	b.press(kb.ArrowLeft)
	b.until("what changes", `document.querySelector('.would li')`)
	b.press(kb.Enter)
	b.until("it to be set", `document.querySelector('.bar.set') && !document.querySelector('.would')`)
	other.until("the other to see it", `document.querySelector('.bar.set')`)
	other.script("leave it to the plan again", `document.querySelector('main button[name^="free-"]').click()`)
	b.until("it to be free again", `!document.querySelector('.bar.set')`)

	b.click("What if")
	b.chooseFrom("What if", "there are other moulds or vessels")
	b.chooseFrom("Mould or vessel", "ice-cube tray")
	b.fill(`[name="if-count"]`, "9")
	b.press(kb.Tab)
	b.click("See what changes")
	b.see("24 Heron for guest house, ")
	b.until("in time with nine", `[...document.querySelectorAll('.would li')].some(l => l.innerText.includes('Heron') && l.innerText.includes('in time; ') )`)
	b.click("It is so: keep it")
	b.until("it to be so", `!document.querySelector('.would') && ![...document.querySelectorAll('.late p')].some(p => p.innerText.includes('Heron'))`)
	other.until("the other to see that", `![...document.querySelectorAll('.late p')].some(p => p.innerText.includes('Heron'))`)

	b.click("In your own calendar")
	b.click("Make an address")
	b.until("the address", `document.querySelector('[name="calendar-address"]')?.value.endsWith('.ics')`)
	read := `fetch(window.calendar, { credentials: 'omit' }).then(async r => r.status + ' ' + (await r.text()).includes('SUMMARY:Make Heron'))`
	b.script("keep it", `window.calendar = document.querySelector('[name="calendar-address"]').value`)
	assert.Equal(t, "200 true", b.evaluateAsync(read))
	b.click("Withdraw it")
	b.until("it to be withdrawn", `[...document.querySelectorAll('.calendar button')].every(x => x.innerText !== 'Withdraw it')`)
	assert.Equal(t, "404 false", b.evaluateAsync(read))
}

// Today is one page, and leads to the bench.
func TestTodayLeadsToTheBench(t *testing.T) {
	b := startDemo(t).openAt(390, 844)
	b.signIn()
	b.goTo("/almanac/today")
	b.see("Towpath: weigh borax")
	b.see("Comes round")
	assert.Empty(t, b.evaluate(cutScript))
	b.click("Towpath: weigh borax")
	b.until("the bench", `location.pathname.startsWith('/bench/')`)
	b.goTo("/almanac/need")
	b.see("in the next four")
	b.script("make Towpath for what goes", `document.querySelector('[name="follow-Towpath"]').click()`)
	b.until("it to be kept", `document.querySelector('[name="follow-Towpath"]').checked`)
	b.goTo("/almanac")
	b.until("marks of what usually goes", `document.querySelectorAll('.order.usual').length > 6`)
}
