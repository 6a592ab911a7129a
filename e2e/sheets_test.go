package e2e

import (
	"bytes"
	"encoding/base64"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
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

// Jars that were there before the books were begun come in from a sheet, and stand in the pantry.
func TestJarsMadeBeforeAreBroughtIn(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/pantry")
	b.see("a use")
	b.click("Bring in jars made before")
	sheet := filepath.Join(t.TempDir(), "jars.csv")
	require.NoError(t, os.WriteFile(sheet, []byte("Product,Jars,Net weight (g),Made on,Cost each\nTowpath Plain,7,450,2026-01-15,1.10\nMoonshine,2,450,2026-01-15,\n"), 0o600))
	b.do("choose the sheet", chromedp.SetUploadFiles(`input[name="sheet"]`, []string{sheet}))
	b.see("2 rows. Which column is what?")
	b.click("Try it, keeping nothing")
	b.see("1 row can be taken in, 1 cannot")
	b.see("A3: There is no good called “Moonshine”")
	b.click("Take the good ones")
	b.see("1 row taken in, 1 left out")
	b.goTo("/pantry")
	b.see("TOW-260115-A")
}

// A list goes along as a workbook, and the choice of how closes by Escape.
func TestAListGoesAlongAsAWorkbook(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/crock")
	b.see("Towpath Plain")
	b.script("watch what is made", `(() => { const old = URL.createObjectURL; URL.createObjectURL = (x) => { window.made = x; return old(x) } })()`)
	b.click("Take along")
	b.see("As XLSX")
	b.press(kb.Escape)
	b.until("the choice to close", `!document.body.innerText.includes('As XLSX')`)
	b.click("Take along")
	b.click("As XLSX")
	b.until("a workbook", `window.made?.type?.includes('spreadsheetml')`)
	file, err := base64.StdEncoding.DecodeString(b.evaluateAsync(`window.made.arrayBuffer().then((x) => btoa(String.fromCharCode(...new Uint8Array(x))))`))
	require.NoError(t, err)
	f, err := excelize.OpenReader(bytes.NewReader(file))
	require.NoError(t, err)
	rows, err := f.GetRows("formulas")
	require.NoError(t, err)
	assert.Equal(t, []string{"name", "kind", "school", "version", "lines", "questions", "last made", "changed"}, rows[0])
	assert.Len(t, rows, 17, "the head and sixteen formulas")
}
