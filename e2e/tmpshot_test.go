package e2e
import ("testing";"github.com/chromedp/chromedp")
func TestTmpShot(t *testing.T){
 b := startDemo(t).open()
 shot := func(name string) { b.picture("/tmp/s-"+name+".png") }
 b.goTo("/"); b.signIn(); b.see("Washing soda")
 b.openFormula("Towpath"); b.see("screen, not a classification"); shot("crock")
 b.goTo("/pantry"); b.click("Towpath"); b.see("Back to the bags"); shot("pantry")
 b.click("Label"); b.see("What stands on it"); b.until("label","document.querySelector('.jar image')"); shot("label")
 b.click("Check a fill"); b.see("Weigh at least"); shot("fill")
 b.click("Doses"); b.see("as makers say"); shot("doses")
 b.click("Dilute"); b.see("The bottle"); b.click("Fill it"); b.see("then"); shot("dilute")
 b.click("Use cards"); b.see("What is to be done"); b.until("cards","document.querySelectorAll('.card').length>1"); shot("cards")
 b.click("To hand out"); b.see("Made by"); shot("sheet")
 b.goTo("/rack"); b.see("Comes round"); shot("rack")
 b.do("phone", chromedp.EmulateViewport(390, 844))
 b.goTo("/pantry/cards"); b.see("which of yours"); shot("cards-phone")
}
