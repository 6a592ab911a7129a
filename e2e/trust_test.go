package e2e

import (
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/chromedp/chromedp/kb"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A first visit: a look around in the demo without typing anything, then a workshop of
// one's own beside it, and the demo goes.
func TestAnOwnWorkshopIsBegunBesideTheDemo(t *testing.T) {
	b := startDemo(t).open()
	b.goTo("/")
	b.click("Look around in the demo")
	b.seeIn("header", "Lockside Works")
	b.goTo("/settings")
	b.click("Remove the demo")
	b.click("Lockside Works is gone for good")
	b.see("There is no other workshop yet")
	b.click("Sign out")
	b.click("Begin your own workshop")
	b.fill(`input[name="workshop"]`, "Toll House")
	b.fill(`input[name="name"]`, "Marl")
	b.fill(`input[name="login"]`, "marl")
	b.fill(`input[name="password"]`, "password12")
	b.click("Open the workshop")
	b.see("among the first that are tried")
	b.fill(`input[name="password"]`, "reeds by the old lock")
	b.click("Open the workshop")
	b.seeIn("header", "Toll House")
	b.goTo("/settings")
	b.click("Sign out")
	b.click("Look around in the demo")
	b.seeIn("header", "Lockside Works")
	b.goTo("/settings")
	b.click("Remove the demo")
	b.click("Lockside Works is gone for good")
	b.see("Sign in to your workshop")
	assert.NotContains(t, b.read("body"), "demo")
	b.signInAs("marl", "reeds by the old lock")
	b.seeIn("header", "Toll House")
}

// The line drops at the bench: what is weighed and noted meanwhile waits in the browser,
// the bench goes on, and when the line is back it is sent in order and recorded once.
func TestTheLineDropsAtTheBench(t *testing.T) {
	a := startDemo(t)
	b := a.open()
	b.signIn()
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
	b.weighOnScale()
	first := b.asked()
	a.stop(syscall.SIGTERM)
	b.fill(`input[name="typed-grams"]`, "5")
	b.press(kb.Enter)
	b.see("One thing you did waits here to be sent")
	b.idle()
	b.fill(`[name="note"]`, "the boat rocks")
	b.press(kb.Enter)
	b.see("2 things you did wait here to be sent, in order")
	b.idle()
	b.fill(`input[name="typed-grams"]`, "7")
	b.press(kb.Enter)
	b.see("3 things you did wait here")
	assert.NotEqual(t, first, b.asked(), "the bench goes on")
	a.restart()
	b.until("everything to be sent", `!document.body.innerText.includes('to be sent')`)
	b.see("7.00 g Borax")
	log := b.read(".log ol")
	for _, text := range []string{"5.00 g Borax", "the boat rocks", "7.00 g Borax"} {
		assert.Equal(t, 1, strings.Count(log, text), text)
	}
	assert.Greater(t, strings.Index(log, "5.00 g Borax"), strings.Index(log, "the boat rocks"), "the newest stands on top")
	assert.Greater(t, strings.Index(log, "the boat rocks"), strings.Index(log, "7.00 g Borax"))
}

// A second factor by a phone, as a person sets it up and signs in with it; what is lost
// is replaced by a recovery code. Another browser is signed out from this one.
func TestASecondFactorIsSetUpAndAskedFor(t *testing.T) {
	a := startDemo(t)
	b, other := a.open(), a.open()
	other.signIn()
	b.signIn()
	b.goTo("/settings")
	b.see("last used today")
	b.click("end this one")
	b.until("be the only one", `![...document.querySelectorAll('button')].some((b) => b.innerText === 'end this one')`)
	other.see("Sign in to your workshop")

	b.click("A second factor")
	b.fill(`input[name="factor-password"]`, "lockside-demo")
	b.click("Begin")
	b.see("Or type it")
	code, err := totp.GenerateCode(b.read(".secret"), time.Now())
	require.NoError(t, err)
	b.fill(`input[name="factor-code"]`, code)
	b.click("Switch it on")
	b.see("Write these down")
	recovery := strings.Fields(b.read(".codes"))
	require.Len(t, recovery, 10)
	b.click("I have them")
	b.click("Sign out")

	b.fill(`input[name="login"]`, "keeper")
	b.fill(`input[name="password"]`, "lockside-demo")
	b.press(kb.Enter)
	b.see("Type the code of your second factor too")
	b.fill(`input[name="code"]`, recovery[0])
	b.press(kb.Enter)
	b.seeIn("header", "Lockside Works")
}

// A browser that was asked to keeps what it read: pages open while the server is away,
// marked as old, until it is back; signing out leaves nothing behind.
func TestPagesOpenWithoutTheServerWhereThatWasAskedFor(t *testing.T) {
	a := startDemo(t)
	b := a.open()
	b.signIn()
	b.goTo("/settings")
	b.see("Pages open in this browser")
	b.evaluate(`(document.querySelector('input[name=stand-in]').click(), '')`)
	b.until("the worker to be there", `navigator.serviceWorker.controller && document.querySelector('input[name=stand-in]').checked`)
	b.goTo("/shelf")
	b.see("Soap flakes")
	b.goTo("/bench")
	b.click("Towpath\n")
	b.see("weigh out")
	at := b.path()
	a.stop(syscall.SIGTERM)

	b.goTo("/shelf")
	b.see("Soap flakes")
	b.see("The server does not answer. What you see was read today")
	b.goTo(at)
	b.see("weigh out")
	b.fill(`[name="note"]`, "in the dark")
	b.press(kb.Enter)
	b.see("One thing you did waits here to be sent")
	b.goTo(at) // the page is loaded anew, without the server
	b.see("One thing you did waits here to be sent")
	a.restart()
	b.until("all to be well", `!document.body.innerText.includes('does not answer') && !document.body.innerText.includes('to be sent')`)
	b.seeIn(".log ol", "in the dark")

	b.goTo("/settings")
	b.click("Sign out")
	b.see("Sign in to your workshop")
	assert.Equal(t, "0", b.evaluateAsync(`caches.has('keencrock-last').then((there) => there ? caches.open('keencrock-last').then((c) => c.keys()).then((k) => k.length) : 0)`))
	a.stop(syscall.SIGTERM)
	b.goTo("/shelf")
	b.see("does not answer")
	assert.NotContains(t, b.read("body"), "Soap flakes")
}
