package e2e

import (
	"context"
	"fmt"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// failing makes the server answer a path with a fault, in each page that is opened from now
// on, until the page is told otherwise.
func (b *browser) failing(path string) {
	b.t.Helper()
	js := fmt.Sprintf(`(() => {
		const real = window.fetch
		window.failing = %q
		window.fetch = (...of) => new URL(of[0].url ?? of[0], location).pathname === window.failing
			? Promise.resolve(new Response(JSON.stringify({type: 'about:blank', title: 'Fault', status: 500, code: 'fault', detail: 'The server met a fault.'}), {status: 500, headers: {'Content-Type': 'application/problem+json'}}))
			: real(...of)
	})()`, path)
	b.do("let "+path+" fail", chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{Source: js})
		return err
	}))
}

// Each part of a view that cannot be read says so, by name or in its place, and is read when
// it is asked for again.
func TestEachPartThatCannotBeReadSaysSo(t *testing.T) {
	for _, part := range []struct{ path, at, says string }{
		{"/api/materials", "/shelf", "Could not be read: the materials."},
		{"/api/kinds", "/crock/new", "Could not be read: the kinds of goods."},
		{"/api/chores", "/rack", "Could not be read: what comes round."},
		{"/api/waiting", "/shelf", "Could not be read: what waits."},
		{"/api/shelf", "/shelf", "The server met a fault."},
		{"/api/pantry", "/pantry", "The server met a fault."},
		{"/api/rack", "/rack", "The server met a fault."},
		{"/api/formulas", "/crock", "The server met a fault."},
		{"/api/batches", "/bench", "The server met a fault."},
	} {
		t.Run(part.path, func(t *testing.T) {
			b := startDemo(t).open()
			b.signIn()
			b.failing(part.path)
			b.goTo(part.at)
			b.see(part.says)
			b.script("let it answer again", "window.failing = ''")
			b.script("try again", "[...document.querySelectorAll('button')].filter(x => x.innerText === 'Try again').forEach(x => x.click())")
			b.until("what could not be read", fmt.Sprintf("!document.body.innerText.includes(%q)", part.says))
		})
	}
}
