package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A sheet of formulas, its columns matched by their heads: what is bad is named by its cell,
// and what is good stands in the list once it is asked for.
func TestFormulasFromASheet(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	path := filepath.Join(t.TempDir(), "ours.csv")
	require.NoError(t, os.WriteFile(path, []byte("Recipe,Ingredient,Weight (g),Category\nMill powder,washing soda,500,laundry powder\n,borax,250,\nMill spray,white vinegar,300,submarine\nMill paste,baking soda,400,\n,dish soap,50,\n"), 0o600))

	b.goTo("/settings")
	b.click("Bring in a sheet")
	b.see("say which column is what")
	b.do("choose the file", chromedp.SetUploadFiles(`input[name="sheet"]`, []string{path}))
	b.see("5 rows")
	b.click("Try it, keeping nothing")
	b.see("2 formulas can be taken in, 1 cannot")
	assert.Contains(t, b.read(".rows-bad"), "D4: “submarine” is no kind of good")
	b.click("Take the good ones")
	b.see("2 formulas taken in, 1 left out.")
	b.openFormula("Mill powder")
	b.see("Washing soda")
	b.see("500 g")
}

// A sheet with a bad row is matched, tried, and its good rows are taken in.
func TestASheetWithABadRowIsBroughtIn(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/ledger/sales")
	b.see("What went and came back")
	b.click("Bring in a sheet")
	sheet := filepath.Join(t.TempDir(), "sales.csv")
	require.NoError(t, os.WriteFile(sheet, []byte("Date,Product,Qty,Customer\n,Heron,1,Maud Reed\n,Moonshine,1,Maud Reed\n"), 0o600))
	b.do("choose the sheet", chromedp.SetUploadFiles(`input[name="sheet"]`, []string{sheet}))
	b.see("2 rows. Which column is what?")
	b.click("Try it, keeping nothing")
	b.see("1 row can be taken in, 1 cannot")
	b.see("B3: There is no good and no batch called “Moonshine”")
	b.click("Take the good ones")
	b.see("1 row taken in, 1 left out")
	b.goTo("/ledger/sales")
	b.seeIn("tbody tr", "Maud Reed")
}
