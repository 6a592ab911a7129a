package e2e

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/demo"
)

// patience is how long a page may take to show what is waited for.
const patience = 30 * time.Second

// browser is one person's browser. Its verbs read as what the person does.
type browser struct {
	t   *testing.T
	ctx context.Context
	app *app
}

// open starts a browser with a profile of its own, at the design size.
func (a *app) open() *browser { return a.openAt(1280, 800) }

// chromium is one Chromium for all tests: each opens a browser of its own in it, which
// shares nothing with the others, since starting one takes as long as a short test.
var chromium = sync.OnceValues(func() (context.Context, error) {
	options := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.NoSandbox, chromedp.DisableGPU,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-component-update", true),
		chromedp.Flag("font-render-hinting", "none"),        // letters stand as far apart as they do on a screen
		chromedp.Flag("force-prefers-reduced-motion", true), // moving pictures nobody watches take a third of the work
		// a camera that sees the code of a lot of the demo, and needs no permission
		chromedp.Flag("use-fake-device-for-media-stream", true), chromedp.Flag("use-fake-ui-for-media-stream", true),
		chromedp.Flag("use-file-for-fake-video-capture", seenByCamera),
		chromedp.WindowSize(1280, 800))
	if path := chromiumPath(); path != "" {
		options = append(options, chromedp.ExecPath(path))
	}
	alloc, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, _ := chromedp.NewContext(alloc)
	endChromium = stop
	return ctx, chromedp.Do(ctx)
})

// chromiumPath is the Chromium to test with: the one that is told, the one that is made
// for running without a screen, which takes half as much work, or the usual one; nothing
// where there is none.
func chromiumPath() string {
	if told := os.Getenv("KEEN_CROCK_CHROMIUM"); told != "" {
		return told
	}
	for _, name := range []string{"chromium-headless-shell", "chromium"} {
		if path, err := exec.LookPath(name); err == nil {
			return path
		}
	}
	return ""
}

// endChromium ends what was started.
var endChromium = func() {}

func (a *app) openAt(width, height int64) *browser {
	a.t.Helper()
	one, err := chromium()
	require.NoError(a.t, err)
	ctx, stop := chromedp.NewContext(one, chromedp.WithNewBrowserContext())
	a.t.Cleanup(stop)
	// the browser lives as long as the context of its first step
	require.NoError(a.t, chromedp.Do(ctx, chromedp.EmulateViewport(width, height)))
	return &browser{t: a.t, ctx: ctx, app: a}
}

// step is one thing done to a page that returns nothing.
type step = chromedp.Action[chromedp.Void]

func (b *browser) do(what string, steps ...step) {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, patience)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		b.fail(what, err)
	}
}

// fail shows where the page stood.
func (b *browser) fail(what string, err error) {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, 5*time.Second)
	defer cancel()
	at, _ := chromedp.Run(ctx, chromedp.Location())
	text, _ := chromedp.Run(ctx, chromedp.Evaluate[string](`document.body.innerText`))
	picture, _ := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	path := filepath.Join(os.TempDir(), strings.ReplaceAll(b.t.Name(), "/", "-")+".png")
	_ = os.WriteFile(path, picture, 0o600)
	b.t.Fatalf("%s: %v\nat %s (picture: %s)\n%s", what, err, at, path, text)
}

func (b *browser) goTo(path string) {
	b.t.Helper()
	b.do("go to "+path, chromedp.Navigate(b.app.url+path))
}

// turnTo goes to a path within the page, as a link does: nothing is loaded anew.
func (b *browser) turnTo(path string) {
	b.t.Helper()
	b.script("turn to "+path, fmt.Sprintf("history.pushState(null, '', %q), dispatchEvent(new PopStateEvent('popstate'))", path))
}

// until waits until a JavaScript condition holds. It asks again and again, so
// that it outlives a page that is loaded meanwhile.
func (b *browser) until(what, condition string) {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, patience)
	defer cancel()
	again := time.NewTicker(100 * time.Millisecond) // each look costs the page work, too
	defer again.Stop()
	for {
		ok, err := chromedp.Run(ctx, chromedp.Evaluate[bool]("!!("+condition+")"))
		if ok {
			return
		}
		select {
		case <-ctx.Done():
			b.fail(what, cmp.Or(err, ctx.Err()))
		case <-again.C:
		}
	}
}

// see waits until a text stands on the page.
func (b *browser) see(text string) {
	b.t.Helper()
	b.until(fmt.Sprintf("see %q", text), fmt.Sprintf("%s(document.body) && document.body.innerText.includes(%q)", mayContain(text), text))
}

// mayContain is a JavaScript function that tells cheaply, without laying the page out,
// which elements may show a text: it is asked again and again while one waits.
func mayContain(text string) string {
	return fmt.Sprintf(`((squeeze, wanted) => (e) => squeeze(e.textContent).includes(squeeze(wanted)))((t) => t.replace(/\s+/g, '').toLowerCase(), %q)`, text)
}

// seeIn waits until a text stands within what a selector finds.
func (b *browser) seeIn(selector, text string) {
	b.t.Helper()
	b.until(fmt.Sprintf("see %q in %s", text, selector),
		fmt.Sprintf("[...document.querySelectorAll(%q)].some(e => (e.innerText ?? e.textContent).includes(%q))", selector, text))
}

// read returns the text of what a selector finds first.
func (b *browser) read(selector string) string {
	b.t.Helper()
	b.until("find "+selector, fmt.Sprintf("document.querySelector(%q)", selector))
	return strings.TrimSpace(b.evaluate(fmt.Sprintf("document.querySelector(%q).innerText", selector)))
}

// evaluate returns the text of a JavaScript expression.
func (b *browser) evaluate(js string) string {
	b.t.Helper()
	text, err := chromedp.Run(b.ctx, chromedp.Evaluate[string](js))
	require.NoError(b.t, err)
	return text
}

// click presses the button, link or label that says a text, once it may be
// pressed.
func (b *browser) click(text string) {
	b.t.Helper()
	find := fmt.Sprintf(`[...document.querySelectorAll('button, a, label, [role=tab], [role=radio], summary')]
		.filter(e => !e.disabled)
		.filter(e => (e.title ?? '').startsWith(%q) || (e.getAttribute('aria-label') ?? '') === %q || %s(e) && e.innerText.trim().startsWith(%q))
		.filter(e => e.offsetParent !== null)
		.sort((a, c) => a.innerText.length - c.innerText.length)[0]`, text, text, mayContain(text), text)
	b.until("a "+text+" to press", "!!"+find)
	b.script("press "+text, find+".click()")
}

// fill types into a field by its selector, in place of what stands there.
func (b *browser) fill(selector, text string) {
	b.t.Helper()
	b.until("a field "+selector, fmt.Sprintf("document.querySelector(%q)?.offsetParent", selector))
	b.script("choose "+selector, fmt.Sprintf("document.querySelector(%q).focus(), document.querySelector(%q).select()", selector, selector))
	if text == "" {
		text = kb.Delete
	}
	b.do("type into "+selector, keyboard(text, 0))
}

// block lets nothing through to addresses of a pattern.
func (b *browser) block(pattern string) {
	b.t.Helper()
	b.do("block "+pattern, chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		if _, err := cdp.Call(ctx, t, network.Enable, network.EnableParams{}); err != nil {
			return err
		}
		_, err := cdp.Call(ctx, t, network.SetBlockedURLs, network.SetBlockedURLsParams{
			URLPatterns: []*network.BlockPattern{{URLPattern: pattern, Block: true}}})
		return err
	}))
}

// script runs JavaScript in the page.
func (b *browser) script(what, js string) {
	b.t.Helper()
	ctx, cancel := context.WithTimeout(b.ctx, patience)
	defer cancel()
	_, err := chromedp.Run(ctx, chromedp.Evaluate[any]("void ("+js+")"))
	if err != nil && !strings.Contains(err.Error(), leftMeanwhile) {
		b.fail(what, err)
	}
}

// leftMeanwhile is what Chromium says of a script whose page was left, by the script
// itself, before it could answer: it was run.
const leftMeanwhile = "Inspected target navigated or closed"

// press sends keys to whatever has the focus, one after the other.
func (b *browser) press(keys ...string) {
	b.t.Helper()
	for _, k := range keys {
		b.do("press "+k, keyboard(k, 0))
	}
}

// chord presses a key while others are held.
func (b *browser) chord(key string, held chromedp.Modifier) {
	b.t.Helper()
	b.do("press a chord with "+key, keyboard(key, held))
}

// keyboard presses keys as a keyboard does: the browser makes the letter from
// the key going down, so that a page which prevents that gets no letter.
// (chromedp's own KeyEvent sends the letter as an event of its own.)
func keyboard(keys string, held chromedp.Modifier) step {
	return chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		for _, r := range keys {
			events := kb.Encode(r)
			down, up := events[0], events[len(events)-1]
			if len(events) == 3 && held&^chromedp.ModifierShift == 0 {
				down.Text, down.UnmodifiedText = events[1].Text, events[1].UnmodifiedText
			}
			for _, e := range []*input.DispatchKeyEventParams{down, up} {
				e.Modifiers |= int64(held)
				if _, err := cdp.Call(ctx, t, input.DispatchKeyEvent, *e); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

// signIn signs in to the demo as its owner, for tests that are not about it: as the page
// asks for it, without loading and filling in the page that does.
func (b *browser) signIn() {
	b.t.Helper()
	credentials, err := json.Marshal(api.Credentials{Login: demo.Login, Password: demo.Password})
	require.NoError(b.t, err)
	res, err := http.Post(b.app.url+"/api/session", "application/json", bytes.NewReader(credentials))
	require.NoError(b.t, err)
	defer res.Body.Close()
	require.Equal(b.t, http.StatusCreated, res.StatusCode)
	for _, c := range res.Cookies() {
		b.do("keep the session", chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			_, err := cdp.Call(ctx, t, network.SetCookie, network.SetCookieParams{URL: b.app.url, Name: c.Name, Value: c.Value, HTTPOnly: &c.HttpOnly})
			return err
		}))
	}
	b.goTo("/")
	b.until("be signed in", "!!document.querySelector('nav[aria-label=Stations]')")
}

func (b *browser) signInAs(login, password string) {
	b.t.Helper()
	b.goTo("/")
	b.fill(`input[name="login"]`, login)
	b.fill(`input[name="password"]`, password)
	b.press(kb.Enter)
	b.until("be signed in", "!!document.querySelector('nav[aria-label=Stations]')")
}

// picture saves what the browser shows.
func (b *browser) picture(path string) {
	b.t.Helper()
	png, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
	require.NoError(b.t, err)
	require.NoError(b.t, os.MkdirAll(filepath.Dir(path), 0o755))
	require.NoError(b.t, os.WriteFile(path, png, 0o644))
}

// evaluateAsync returns the text that a JavaScript promise comes to.
func (b *browser) evaluateAsync(js string) string {
	b.t.Helper()
	b.script("ask", fmt.Sprintf("(window.came = undefined, (%s).then(t => window.came = String(t)))", js))
	b.until("an answer", "window.came !== undefined")
	return b.evaluate("window.came")
}
