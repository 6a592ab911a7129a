package e2e

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"
)

// The water of the workshop is set once, and every formula goes by it.
func TestTheWorkshopsWaterReachesEveryFormula(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openFormula("Towpath")
	b.seeIn(".water", "in water of 268 mg/l")
	b.goTo("/settings")
	b.fill(`input[placeholder^="268 mg/l"]`, "wet")
	b.click("Keep")
	b.seeIn("form [role=alert]", "expected a number")
	b.fill(`input[placeholder^="268 mg/l"]`, "3 °dH")
	b.click("Keep")
	b.see("Kept.")
	b.seeIn(".field-label", "soft") // below 60 mg/l by the USGS classes
	b.openFormula("Towpath")
	b.seeIn(".water", "in water of 3 °dH")
	b.until("3 / 5.608 mmol/l in the arithmetic", "[...document.querySelectorAll('.reading .why')].some(w => w.textContent.includes('0.535 mmol/l'))")
}

// Whoever is let in can work at once, and is out as soon as access is taken.
func TestSomeoneIsLetInAndTakenOut(t *testing.T) {
	a := startDemo(t)
	owner, maker := a.open(), a.open()
	owner.signIn()
	owner.goTo("/settings")
	owner.fill(`input[aria-label="Name"]`, "Reed")
	owner.fill(`input[aria-label="Sign-in name"]`, "reed")
	owner.fill(`input[aria-label="Password"]`, "short")
	owner.click("Add")
	owner.seeIn(".add [role=alert]", "10")
	owner.fill(`input[aria-label="Password"]`, "long enough now")
	owner.press(kb.Enter)
	owner.see("signs in as reed")

	maker.signInAs("reed", "long enough now")
	maker.goTo("/bench")
	maker.click("Towpath\n")
	maker.weighOnScale()

	owner.script("take it away", `[...document.querySelectorAll('tr')].find(r => r.innerText.includes('reed')).querySelector('button').click()`)
	owner.click("Reed is out from now on")
	owner.until("reed to be gone", `!document.body.innerText.includes('signs in as reed')`)
	maker.goTo("/shelf")
	maker.until("the sign-in", `document.querySelector('input[name=login]')`)
}

// Whoever forgot their password gets one from the command line, while the server
// runs, and changes it on the page.
func TestAForgottenPasswordIsReset(t *testing.T) {
	a := startDemo(t)
	reset := exec.Command(binary, "reset-password", "keeper")
	reset.Env = a.env
	out, err := reset.Output()
	require.NoError(t, err)
	_, rest, found := strings.Cut(string(out), ": ")
	require.True(t, found, string(out))
	fresh, _, _ := strings.Cut(rest, "\n")
	b := a.open()
	b.signInAs("keeper", fresh)
	b.goTo("/settings")
	b.click("Change your password")
	b.fill(`input[name="current-password"]`, "not this one")
	b.fill(`input[name="new-password"]`, "my own words now")
	b.click("Change it")
	b.see("That is not your password")
	b.fill(`input[name="current-password"]`, fresh)
	b.click("Change it")
	b.see("It is changed")
	b.click("Sign out")
	b.until("the sign-in", `document.querySelector('input[name=login]')`)
	b.signInAs("keeper", "my own words now")
}
