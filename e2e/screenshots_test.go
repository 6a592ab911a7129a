package e2e

import (
	"os"
	"path/filepath"
	"testing"
)

// TestScreenshots takes the pictures in docs/screenshots anew, from the demo.
// It runs where KEEN_CROCK_SCREENSHOTS names the folder to put them in.
func TestScreenshots(t *testing.T) {
	folder := os.Getenv("KEEN_CROCK_SCREENSHOTS")
	if folder == "" {
		t.Skip("set KEEN_CROCK_SCREENSHOTS to a folder to take pictures")
	}
	b := startDemo(t).open()
	shot := func(name string) { b.picture(filepath.Join(folder, name+".png")) }

	b.goTo("/")
	b.see("Sign in to your workshop")
	shot("sign-in")
	b.signIn()
	b.see("Washing soda")
	shot("shelf")
	b.goTo("/shelf/citric-acid")
	b.see("Price over time")
	shot("shelf-material")
	b.goTo("/crock")
	b.see("Towpath Plain")
	shot("formulas")
	b.openFormula("Towpath")
	shot("crock")
	b.click("Make it")
	b.see("To the bench")
	shot("crock-make")
	b.click("Swap")
	b.choose("select[name=swap-line]", "2")
	b.see("The same alkali as borax")
	shot("crock-swap")
	b.click("Goal")
	b.fill(`input[name="goal-ph-low"]`, "9.3")
	b.fill(`input[name="goal-ph-high"]`, "9.4")
	b.click("Propose a formula")
	b.see("Take it over")
	shot("crock-goal")
	b.openFormula("Lockgate")
	b.click("What if")
	b.see("pH, gas gone")
	b.choose("select[name=map-reading]", "vented-ph")
	b.until("the map", "document.querySelectorAll('.map rect').length > 500")
	b.until("the map of the vented pH", "document.querySelector('.what-if figcaption').innerText.includes('9.9')")
	shot("crock-what-if")
	b.click("Beside")
	b.see("worth acting on")
	shot("crock-beside")
	b.openFormula("Coracle Gel")
	b.see("already in the bottle")
	b.click("Kiln")
	b.until("the glaze to have changed", "getComputedStyle(document.querySelector('.ant-select-selector')).color === 'rgb(239, 230, 214)' || (window.since ??= performance.now(), performance.now() - window.since > 1200)")
	shot("crock-kiln")
	b.click("Slip")
	b.goTo("/bench")
	b.click("Towpath")
	b.see("weigh out")
	b.click("+ 1000 g")
	b.until("the reading to hold still", `document.querySelector('.do-row .main:not(:disabled)')`)
	shot("bench")
	b.goTo("/pantry")
	b.see("a use")
	shot("pantry")
	b.click("Lockgate")
	b.see("Back to the bags")
	shot("pantry-trace")
	b.goTo("/settings")
	b.see("Let someone in")
	shot("settings")
}
