package e2e

import (
	"encoding/base64"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// openGood opens a good of the pantry by its name, and one of its pages.
func (b *browser) openGood(name, page string) {
	b.t.Helper()
	b.goTo("/pantry")
	b.click(name + "\n")
	b.see("Back to the bags")
	b.click(page)
}

// file fetches what a link of the page leads to, with the session of the page.
func (b *browser) file(link string) []byte {
	b.t.Helper()
	text := b.evaluateAsync(`fetch(document.querySelector(` + "`" + link + "`" + `).href).then(r => r.blob()).then(f => new Promise(done => {
		const read = new FileReader(); read.onload = () => done(read.result.split(',')[1]); read.readAsDataURL(f) }))`)
	content, err := base64.StdEncoding.DecodeString(text)
	require.NoError(b.t, err)
	return content
}

// codesOn reads the codes on the pages of a PDF, as a printer of 300 dpi draws them.
func codesOn(t *testing.T, pdf []byte) (codes []string) {
	t.Helper()
	programs(t, "pdftoppm", "zbarimg")
	folder := t.TempDir()
	path := filepath.Join(folder, "labels.pdf")
	require.NoError(t, os.WriteFile(path, pdf, 0o600))
	require.NoError(t, exec.Command("pdftoppm", "-png", "-mono", "-r", "300", path, filepath.Join(folder, "page")).Run())
	pages, err := filepath.Glob(filepath.Join(folder, "page*.png"))
	require.NoError(t, err)
	out, err := exec.Command("zbarimg", append([]string{"--quiet", "--raw"}, pages...)...).Output()
	require.NoError(t, err)
	return strings.Fields(string(out))
}

// The labels of a batch are laid out, a promise too much is pointed out and taken back,
// they are printed, and a phone that reads one of them is shown that jar.
func TestLabelsArePrintedAndAPhoneReadsOne(t *testing.T) {
	app := startDemo(t)
	b := app.open()
	b.signIn()
	// a code that only this machine could open is not printed
	b.openGood("Towpath Plain", "Label")
	b.see("it would hold an address that only this machine can open")
	b.goTo("/settings")
	b.fill(`input[name="jar-origin"]`, "https://jars.example")
	b.press(kb.Enter)
	b.see("Kept.")
	b.openGood("Towpath Plain", "Label")
	b.until("the label on its jar", "document.querySelector('.jar image')?.href.baseVal.includes('Towpath')")
	b.fill(`textarea[name="label-use"]`, "Disinfects café aprons")
	b.seeIn(".claims", "“Disinfects” promises too much")
	b.fill(`textarea[name="label-use"]`, "For café aprons, 40 °C")
	b.until("nothing to point out", "!document.querySelector('.claims')")
	b.until("it fits", "[...document.querySelectorAll('h2')].some(h => h.innerText === 'It fits')")

	// too small a label says what to do, and is not printed
	b.fill(`input[name="width"]`, "30")
	b.fill(`input[name="height"]`, "30")
	b.see("It does not fit yet")
	b.until("no printing", "document.querySelector('.wishes button[type=submit]').disabled")
	b.fill(`input[name="width"]`, "90")
	b.fill(`input[name="height"]`, "120")
	b.until("it fits again", "[...document.querySelectorAll('h2')].some(h => h.innerText === 'It fits')")

	b.click("Print for")
	b.see("Kept.")
	codes := codesOn(t, b.file(".wishes a[href^='/api/prints']"))
	jars := b.evaluate("document.querySelector('.prints li').innerText")
	require.NotEmpty(t, codes)
	assert.Contains(t, jars, "×")
	seen := map[string]bool{}
	for _, code := range codes {
		seen[code] = true
	}
	assert.Len(t, seen, len(codes), "every jar has a code of its own")

	read, err := url.Parse(codes[0])
	require.NoError(t, err)
	assert.Equal(t, "jars.example", read.Host)
	phone := app.openAt(390, 844)
	phone.goTo(read.Path)
	phone.see("Towpath Plain")
	phone.see("Made by Lockside Works")
	phone.see("For café aprons, 40 °C")
	before := phone.read(".much")
	phone.choose(`select[name="jar-hardness"]`, "30 mg/l")
	phone.until("the dose for soft water", `document.querySelector('.water').innerText.includes('soft')&& document.querySelector('.much')?.innerText !== "" && document.querySelector('.water').innerText.includes('30 mg/l')`)
	assert.NotEmpty(t, before)
	phone.until("nothing wider than the phone", "document.documentElement.scrollWidth <= 390")
	assert.NotContains(t, phone.read("body"), "€")
	// and why, without what it is made of
	phone.click("Something wrong with it?")
	phone.fill(`[name="jar-why"]`, "white marks of soap")
	phone.see("Marks of soap")
	phone.click("clear")
	phone.see("take back")
	phone.until("nothing of the recipe", `!/is in it|% of it/.test(document.querySelector('.why').innerText)`)
	phone.until("nothing wider than the phone with it", "document.documentElement.scrollWidth <= 390")

	// who is signed in where it was made goes on from there, however soon that is known
	for range 5 {
		b.goTo(read.Path)
		b.see("Made by Lockside Works")
	}
	b.click("TOW-")
	b.until("its place in the pantry", "location.pathname.startsWith('/pantry/')")
}

// Harder water asks for more; a bottle is filled from a strength said any way.
func TestADoseForHarderWaterAndABottleFilled(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.openGood("Towpath Plain", "Doses")
	b.see("on the label")
	b.fill(`input[name="hardness"]`, "40 mg/l\t")
	b.until("one water", "document.querySelectorAll('.wide thead th').length === 4")
	soft := b.read(".wide .dose")
	b.fill(`input[name="hardness"]`, "250 mg/l\t")
	b.until("the harder water", "document.querySelector('.wide thead').innerText.includes('250')")
	assert.NotEqual(t, soft, b.read(".wide .dose"))

	b.openGood("Willow", "Dilute")
	b.fill(`input[name="said"]`, "one part to four")
	b.fill(`input[name="bottle"]`, "500 ml")
	b.click("Work it out")
	b.seeIn(".says", "100 ml")
	b.seeIn(".says", "400 ml of water")
	b.see("1 in 5")
	b.fill(`input[name="said"]`, "strong")
	b.click("I filled it")
	b.seeIn(".noted", "taken out of")
	b.click("Take it back")
	b.see("it is in the jars again")
	b.click("I filled it")
	b.seeIn(".noted", "comes round on the Rack")
	b.click("Work it out")
	b.seeIn("[role=alert]", "is no dilution")

	// what a customer gets is one page, on A4 and on letter
	b.click("To hand out")
	b.seeIn(".sheet", "Made by Lockside Works")
	b.until("its pictures", "[...document.images].every(i => i.complete)")
	for _, paper := range []chromedp.PaperSize{chromedp.PaperA4, chromedp.PaperLetter} {
		pdf, err := chromedp.Run(b.ctx, chromedp.PrintToPDF(chromedp.PDFPaper(paper)))
		require.NoError(t, err)
		assert.Regexp(t, `Pages:\s+1\b`, infoOf(t, pdf))
	}
}

// infoOf is what poppler says of a PDF.
func infoOf(t *testing.T, pdf []byte) string {
	t.Helper()
	programs(t, "pdfinfo")
	path := filepath.Join(t.TempDir(), "page.pdf")
	require.NoError(t, os.WriteFile(path, pdf, 0o600))
	out, err := exec.Command("pdfinfo", path).Output()
	require.NoError(t, err)
	return string(out)
}

// Which of mine for a burnt pan, and not if it is aluminium; a card of one's own; a
// rhythm that is done and comes round again.
func TestCardsAndWhatComesRound(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/pantry/cards")
	b.fill(`input[name="ask-card"]`, "burnt pan, aluminium")
	b.seeIn(".card .not.asked", "you asked about aluminium")
	b.fill(`input[name="ask-card"]`, "narrowboat windows")
	b.seeIn(".card .task", "Windows of a narrowboat")
	b.click("put into what is due")
	b.see("comes round every 14 days")
	b.goTo("/rack")
	b.seeIn(".chores", "Windows of a narrowboat")
	b.until("three were there before", "document.querySelectorAll('.chores tbody tr').length === 4")
	b.script("it is done", "[...document.querySelectorAll('.chores tr')].find(r => r.innerText.includes('narrowboat')).querySelector('button').click()")
	b.until("not due any more", "![...document.querySelectorAll('.chores tr')].find(r => r.innerText.includes('narrowboat')).innerText.includes('today')")

	b.script("it is no more", "[...document.querySelectorAll('.chores tr')].find(r => r.innerText.includes('narrowboat')).querySelector('.do').click()")
	b.see("comes round no more")
	b.click("Bring back")
	b.until("it is there again", "document.querySelectorAll('.chores tbody tr').length === 4")

	b.openGood("Willow Glass", "Check a fill")
	b.see("The fill does not pass")
	b.fill(`textarea[name="weights"]`, "720 722 719 721 720")
	b.fill(`input[name="tare"]`, "212")
	b.fill(`input[name="nominal"]`, "500")
	b.click("Check the fill")
	b.see("The fill passes")
}
