package e2e

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

// A good is said, weighed and packed; its jars go out to the stall, are sold there while the
// server is gone, come home; and the margin stands at the end.
func TestFromTheBenchToTheStallAndTheMargin(t *testing.T) {
	a := startDemo(t)
	b := a.open()
	b.signIn()
	b.goTo("/crock/new")
	b.fill(`input[aria-label="Name"]`, "Quay Salt")
	b.fill(`[name="say"]`, "1 kg baking soda, 500 g salt")
	b.press(kb.Enter)
	b.seeIn(".lines .mass", "1.00 kg")
	b.click("Keep this formula")
	b.see("version 1")
	b.click("Make it")
	b.see("to weigh, 1 times the formula")
	b.click("To the bench")
	b.click("Begin without")
	b.see("weigh out")
	for b.asked() != "All is weighed" {
		b.weighOnScale()
	}
	b.click("Finish the batch")
	b.see("Best before")

	b.goTo("/ledger/stall")
	b.see("Home: count what is left") // today's is open: it ends first
	b.click("Home: count what is left")
	b.see("should be there")
	b.fill(`input[name="takings"]`, "20,00")
	b.click("End the day")
	b.see("A day at the stall")

	b.goTo("/ledger/goods")
	b.see("What goods cost and bring")
	b.click("Quay Salt")
	b.see("Quay Salt, a jar of")
	b.fill(`input[name="jar-price"]`, "6.00")
	b.click("Keep")
	b.see("Margin, of the price")
	b.goTo("/ledger/stall")
	b.click("Take jars out")
	b.fill(`input[name="out-Quay Salt"]`, "1")
	b.fill(`input[name="out-Towpath Plain"]`, "2")
	b.click("Take 3 jars out")
	b.see("1 left · 0 sold")
	a.stop(syscall.SIGKILL)
	b.script("sell", `document.querySelector('[name="sell-Quay Salt"]').click()`)
	b.see("kept here until the line is back")
	b.seeIn(".stall header", "€6.00")
	b.script("sell", `document.querySelector('[name="sell-Towpath Plain"]').click()`)
	b.seeIn(".stall header", "€14.00")
	a.restart()
	b.until("it to be sent", `!document.body.innerText.includes('to be sent')`)
	b.goTo("/ledger/stall")
	b.seeIn(".stall header", "€14.00")
	b.click("Home: count what is left")
	b.fill(`input[name="takings"]`, "14.00")
	b.click("End the day")
	b.see("A day at the stall")
	b.seeIn("tbody tr", "€14.00")
	b.goTo("/ledger/goods")
	b.click("Quay Salt")
	b.see("Margin, of the price")
	assert.Regexp(t, `\d\d %`, b.read(".cut dl dd"))
	b.see("Coracle")
	b.see("costs more than it brings") // what nobody had noticed
}

// Sales are said; what stands against one is told before; papers are printed and read back.
func TestSalesAreSaidAndTakenAlong(t *testing.T) {
	programs(t, "pdftotext")
	a := startDemo(t)
	b := a.open()
	b.signIn()
	b.goTo("/ledger/sales")
	b.see("What went and came back")
	b.fill(`[name="jars"]`, "two Heron to the guest house, 14 each; one Heron to Maud Reed, a gift")
	b.see("Sold: 2 Heron at 14.00 each to guest house.")
	b.see("Given: 1 Heron to Maud Reed.")
	b.click("Keep it")
	b.see("Kept: 2 jars, 1 jar")
	b.seeIn("tbody tr", "Maud Reed")

	b.fill(`[name="jars"]`, "one Sluice and one Towpath to the café on the Long Reach")
	b.see("is classed as a danger to unborn children")
	b.until("nothing can be kept", `document.querySelector('.say .ant-btn').disabled`)
	b.script("all the same", `document.querySelector('.against input').click()`)
	b.click("Keep it")
	b.see("Kept: 2 jars")
	b.see("All the same, though")

	b.fill(`[name="jars"]`, "half a kilo of Towpath Plain to the guest house at 8 a kilo")
	b.see("Sold: 500 g of Towpath Plain for 4.00 to guest house.")
	b.click("Keep it")
	b.see("Kept: 500 g of Towpath Plain")
	b.seeIn("tbody tr", "500 g of Towpath Plain")

	note := filepath.Join(t.TempDir(), "note.pdf")
	require.NoError(t, os.WriteFile(note, b.file(`tbody a[download^="note-"]`), 0o600))
	text, err := exec.Command("pdftotext", "-layout", note, "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Delivery note")
	assert.Contains(t, string(text), "guest house")
	assert.Regexp(t, `by weight .* 500 g +4\.00`, string(text))

	b.goTo("/ledger/year")
	b.see("in stock, at cost")
	f, err := excelize.OpenReader(bytes.NewReader(b.file(`a[download$=".xlsx"]`)))
	require.NoError(t, err)
	assert.Equal(t, []string{"By month, good and outlet", "By month", "By good", "By outlet"}, f.GetSheetList())
	b.goTo("/ledger/buying")
	b.see("A tenth dearer")
	b.until("a jump to be marked", `document.querySelectorAll('.jump').length > 0`)
}
