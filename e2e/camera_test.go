package e2e

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"os"
	"path/filepath"
	"testing"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/qr"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// seenByCamera is what the camera of every browser here sees: a film of one picture.
var seenByCamera string

// showToCamera holds a code before the camera, on a hand-high label and not quite straight on.
func showToCamera(text string) error {
	code, err := qr.Encode(text, qr.M, qr.Auto)
	if err != nil {
		return err
	}
	if code, err = barcode.Scale(code, 260, 260); err != nil {
		return err
	}
	seen := image.NewRGBA(image.Rect(0, 0, 640, 480))
	draw.Draw(seen, seen.Bounds(), image.NewUniform(color.RGBA{150, 120, 90, 255}), image.Point{}, draw.Src)
	draw.Draw(seen, image.Rect(170, 80, 510, 420), image.White, image.Point{}, draw.Src)
	draw.Draw(seen, image.Rect(210, 120, 470, 380), code, image.Point{}, draw.Src)
	var frame bytes.Buffer
	if err := jpeg.Encode(&frame, seen, nil); err != nil {
		return err
	}
	return os.WriteFile(seenByCamera, bytes.Repeat(frame.Bytes(), 4), 0o600)
}

// What a camera reads off a bag is looked for: a lot is found by its code.
func TestACodeOnABagIsReadByTheCamera(t *testing.T) {
	b := startDemo(t).open()
	b.signIn()
	b.goTo("/rack")
	b.see("Comes round")
	b.press("/")
	b.see("Scan a code")
	b.click("Scan a code")
	b.see("22A Washing soda")
	assert.Equal(t, "22A", b.evaluate(`document.querySelector('.box input').value`))
	b.press("\r")
	b.see("Lots")
	assert.Contains(t, b.evaluate("location.pathname"), "/shelf/washing-soda")
}

// A photo is looked at, kept in the log, seen again by someone else, and taken back.
func TestAPhotoIsPutIntoTheLog(t *testing.T) {
	photo := filepath.Join(t.TempDir(), "tray.jpg")
	img := image.NewRGBA(image.Rect(0, 0, 2400, 1800))
	draw.Draw(img, img.Bounds(), image.NewUniform(color.RGBA{196, 164, 110, 255}), image.Point{}, draw.Src)
	var file bytes.Buffer
	require.NoError(t, jpeg.Encode(&file, img, nil))
	require.NoError(t, os.WriteFile(photo, file.Bytes(), 0o600))
	text := filepath.Join(t.TempDir(), "notes.txt")
	require.NoError(t, os.WriteFile(text, []byte("no picture"), 0o600))

	b := startDemo(t).open()
	b.signIn()
	b.onTheBench()
	b.see("Add a photo")
	b.do("choose a text", chromedp.SetUploadFiles(`[name="photo"]`, []string{text}))
	b.see("no picture that this browser can read")
	b.do("choose a photo", chromedp.SetUploadFiles(`[name="photo"]`, []string{photo}))
	b.see("Keep it in the log")
	b.fill(`[name="photo-shows"]`, "the tray after a night")
	b.click("Keep it in the log")
	b.see("the tray after a night")
	b.until("the photo is shown", "[...document.querySelectorAll('.photo img')].some(i => i.complete && i.naturalWidth === 1600)")
	b.goTo(b.path())
	b.until("the photo is shown again", "[...document.querySelectorAll('.photo img')].some(i => i.complete && i.naturalWidth === 1600)")
	b.script("take it back", "[...document.querySelectorAll('.log li')].find(l => l.querySelector('img')).querySelector('.amend').click()")
	b.until("the photo is gone", "!document.querySelector('.log li .photo img')")
}
