package e2e

import "testing"

// An order that does not fit says what would help; one more tray brings it nearer; a new order
// becomes a making, a shopping list and a delivery.
func TestAnOrderBecomesAPlan(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/almanac")
	b.see("24 Heron for guest house")
	b.see("One more of “ice-cube tray”")
	b.until("the order to be marked", `document.querySelectorAll('.order.late').length === 1`)
	b.click("Within which limits")
	b.fill(`[aria-label="How many of it, 1"]`, "9")
	b.click("Keep these")
	b.until("nothing late", `document.querySelectorAll('.order').length > 4 && document.querySelectorAll('.order.late').length === 0`)

	b.chooseFrom("Good", "Coracle")
	b.fill(`[name="order-jars"]`, "300")
	b.fill(`[name="order-to"]`, "the fair")
	b.script("a month off", `(() => { const d = new Date(Date.now() + 60 * 86400000).toISOString().slice(0, 10); const f = document.querySelector('[name="order-day"]'); f.value = d; f.dispatchEvent(new Event('input', { bubbles: true })) })()`)
	b.click("Note the order")
	b.see("300 Coracle for the fair")
	b.see("What to buy for it")
	b.seeIn(".asked", "Liquid soap")
	b.click("It came: note a delivery")
	b.until("the note", `document.querySelector('[name="delivery"]')?.value.includes('liquid soap')`)
	b.goTo("/almanac")
	b.see("300 Coracle for the fair")
	b.script("it is not wanted", `document.querySelector('[name="end-Coracle"]').click()`)
	b.until("it to be gone", `!document.body.innerText.includes('300 Coracle')`)
}
