package web

import (
	"bytes"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/compress"

	"keencrock/ui"
)

// pressed are the files that were compressed when the page was built, with Brotli.
const pressed = ".br"

// servePage serves the built page. Files with a hash in their name may be
// kept by the browser for good; every other address is the page itself, so
// that any view can be opened by its address.
func servePage(app *fiber.App) {
	files := ui.Files()
	app.Get("/*", compress.New(compress.Config{Level: compress.LevelDefault}), func(c fiber.Ctx) error {
		name := strings.TrimPrefix(path.Clean(c.Path()), "/")
		if body, err := fs.ReadFile(files, name); err == nil && name != "index.html" && path.Ext(name) != pressed {
			if strings.HasPrefix(name, "assets/") {
				c.Set("Cache-Control", "public, max-age=31536000, immutable")
			} else {
				c.Set("Cache-Control", "no-cache")
			}
			if tight, err := fs.ReadFile(files, name+pressed); err == nil {
				c.Vary(fiber.HeaderAcceptEncoding)
				if c.Get(fiber.HeaderAcceptEncoding) != "" && c.AcceptsEncodings("br", "identity") == "br" { // who says nothing reads it as it is
					c.Set(fiber.HeaderContentEncoding, "br")
					return sendFile(c, name, tight)
				}
			}
			return sendFile(c, name, body)
		}
		if strings.HasPrefix(name, "assets/") {
			return fiber.ErrNotFound
		}
		page, err := fs.ReadFile(files, "index.html")
		if err != nil {
			return c.Status(http.StatusServiceUnavailable).SendString("The page is not built yet: run ./start, or npm run build in ui/.")
		}
		c.Set("Cache-Control", "no-cache")
		return sendFile(c, "index.html", page)
	})
}

func sendFile(c fiber.Ctx, name string, body []byte) error {
	kind := mime.TypeByExtension(path.Ext(name))
	if path.Ext(name) == ".webmanifest" { // which few systems know
		kind = "application/manifest+json"
	}
	if kind == "" {
		kind = http.DetectContentType(body)
	}
	c.Set("Content-Type", kind)
	return c.SendStream(bytes.NewReader(body), len(body))
}
