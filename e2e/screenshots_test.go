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
	b.click("Towpath\n")
	b.see("A use costs")
	shot("crock")
	b.click("Make it")
	b.see("To the bench")
	shot("crock-make")
	b.click("Kiln")
	b.click("Readings")
	b.see("A use costs")
	shot("crock-kiln")
	b.click("Slip")
	b.goTo("/bench")
	b.click("Towpath")
	b.see("weigh out")
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
