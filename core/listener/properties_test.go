package listener_test

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"keencrock/core/formula"
	"keencrock/core/listener"
	"keencrock/core/material"
	"keencrock/core/quantity"
)

var (
	someAmounts   = []string{"2 cups", "three cups", "half a cup", "1 1/2 tbsp", "250 g", "10 to 15 drops", "a teaspoon", "1,5 kg", "two heaped tablespoons", "500 ml"}
	someMaterials = []string{"washing soda", "borax", "baking soda", "citric acid", "table salt", "soap flakes", "white vinegar", "lavender oil", "water", "epsom salt"}
	someTalk      = []string{"um", "ok so", "right", "you know", "I think", "well now", "let me see", "basically"}
)

// said is a line to be said.
type said struct{ amount, material string }

func someLines(t *rapid.T) []said {
	materials := rapid.Permutation(someMaterials).Draw(t, "materials")
	lines := make([]said, rapid.IntRange(1, 6).Draw(t, "lines"))
	for i := range lines {
		lines[i] = said{rapid.SampledFrom(someAmounts).Draw(t, "amount"), materials[i]}
	}
	return lines
}

// heardLines are the lines of a text: what, how much.
func heardLines(t require.TestingT, text string) []string {
	talk, err := listener.Read(text, material.Shipped())
	require.NoError(t, err)
	var out []string
	for _, l := range talk.Goods[0].Lines() {
		out = append(out, fmt.Sprintf("%s %s", l.Amount, l.Material))
	}
	return out
}

func text(lines []said, say func(said) string) string {
	parts := make([]string, len(lines))
	for i, l := range lines {
		parts[i] = say(l)
	}
	return strings.Join(parts, ", ")
}

func plainly(l said) string { return l.amount + " of " + l.material }

// What is said first and what after, small talk anywhere between lines, and the order of
// lines change nothing of them.
func TestHowItIsSaidChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines := someLines(t)
		want := heardLines(t, text(lines, plainly))
		require.Len(t, want, len(lines))
		assert.Equal(t, want, heardLines(t, text(lines, func(l said) string { return l.material + ": " + l.amount })), "name first")
		assert.Equal(t, want, heardLines(t, text(lines, func(l said) string { return l.amount + " " + l.material })), "without of")
		assert.Equal(t, want, heardLines(t, strings.ReplaceAll(text(lines, plainly), ", ", "\n")), "line by line")
		filler := rapid.SampledFrom(someTalk)
		assert.Equal(t, want, heardLines(t, text(lines, func(l said) string { return filler.Draw(t, "filler") + " " + plainly(l) })), "with small talk")
		turned := slices.Clone(lines)
		slices.Reverse(turned)
		back := heardLines(t, text(turned, plainly))
		slices.Reverse(back)
		assert.Equal(t, want, back, "turned round")
	})
}

// A hesitation may stand anywhere, with commas or without.
func TestHesitationsAreNotThere(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		plain := text(someLines(t), plainly)
		words := strings.Fields(plain)
		at := rapid.IntRange(0, len(words)).Draw(t, "at")
		filler := rapid.SampledFrom([]string{"um", "er", "you know", "let me think", "um, er,", ", um,", "... er ...", "kind of"}).Draw(t, "filler")
		said := strings.Join(words[:at], " ") + " " + filler + " " + strings.Join(words[at:], " ")
		assert.Equal(t, heardLines(t, plain), heardLines(t, said), said)
	})
}

// A correction is the same as having said it right.
func TestACorrectionIsAsIfSaidRight(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines := someLines(t)
		at := rapid.IntRange(0, len(lines)-1).Draw(t, "at")
		right := rapid.SampledFrom(someAmounts).Draw(t, "right")
		cue := rapid.SampledFrom([]string{"no, make that %s", "sorry, %s", "no wait, %s", "I mean %s", "hang on, %s", "make that %s"}).Draw(t, "cue")
		fixed := slices.Clone(lines)
		fixed[at].amount = right
		i := -1
		corrected := text(lines, func(l said) string {
			if i++; i == at {
				return plainly(l) + ", " + fmt.Sprintf(cue, right)
			}
			return plainly(l)
		})
		assert.Equal(t, heardLines(t, text(fixed, plainly)), heardLines(t, corrected), corrected)
	})
}

// What was printed, read again, is the same.
func TestWhatIsPrintedIsReadAgain(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		lines := someLines(t)
		talk, err := listener.Read(text(lines, plainly), material.Shipped())
		require.NoError(t, err)
		var again []string
		for _, l := range talk.Goods[0].Lines() {
			again = append(again, fmt.Sprintf("%s %s", l.Amount, l.Material))
		}
		assert.Equal(t, again, heardLines(t, strings.Join(again, "\n")))
	})
}

// A material that is named is a line, what it is not, a step, what it is used with, or is
// asked about; never a story.
func TestANamedMaterialIsNeverLost(t *testing.T) {
	words := []string{"and", "the", "then", "stir", "my aunt", "with", "in a bowl", "two cups of", "never", "or", "for", "which", "no", "leave it", "a day", "a load", "makes", "jar", ",", ".", "wipe", "until", "half that", "each", "(", ")"}
	rapid.Check(t, func(t *rapid.T) {
		var parts []string
		for range rapid.IntRange(1, 12).Draw(t, "n") {
			if rapid.IntRange(0, 3).Draw(t, "which") == 0 {
				parts = append(parts, rapid.SampledFrom(someMaterials).Draw(t, "material"))
			} else {
				parts = append(parts, rapid.SampledFrom(words).Draw(t, "word"))
			}
		}
		text := strings.Join(parts, " ")
		talk, err := listener.Read(text, material.Shipped())
		require.NoError(t, err)
		for _, w := range talk.Words {
			if w.Became != listener.AsLeftOut && w.Became != listener.AsSmallTalk && w.Became != listener.Unread {
				continue
			}
			for _, name := range someMaterials {
				at := strings.Index(talk.Text[w.From:w.To], name)
				assert.False(t, at >= 0, "%q: %q became %s", text, talk.Text[w.From:w.To], w.Became)
			}
		}
	})
}

// Bad input gets a clear word, and nothing of it is half taken.
func TestBadInputIsHeardOut(t *testing.T) {
	many := make([]string, 300)
	for i := range many {
		many[i] = "1 cup of " + someMaterials[i%len(someMaterials)]
	}
	for name, text := range map[string]string{
		"letters":        strings.Repeat("x", 20_000),
		"numbers":        strings.Repeat("1 2 3,5 4/7 ", 1_600),
		"right to left":  "\u202e2 cups borax\u202c, 1 cup salt",
		"broken":         "2 cups \xff\xfe borax, \xc3 1 cup salt",
		"emoji":          "🧂🧂 2 cups borax 🛁 1 cup salt 🎉",
		"brackets":       strings.Repeat("(", 9_000),
		"commas":         strings.Repeat(",", 19_000),
		"articles":       strings.Repeat("a ", 9_000),
		"ands":           strings.Repeat("and ", 4_900),
		"300 materials":  strings.Join(many, ", "),
		"corrections":    strings.Repeat("no, make that ", 1_300),
		"a novel":        strings.Repeat("It was late and nobody came to the lock; the water stood still and the keeper had gone to bed. ", 200),
		"other language": strings.Repeat("Zwei Tassen Waschsoda und eine Tasse Natron, dazu etwas Zitronensäure. ", 250),
		"nothing":        " \n\t ",
	} {
		talk, err := listener.Read(text, material.Shipped())
		require.NoError(t, err, name)
		for _, g := range talk.Goods {
			f := g.Formula(material.Shipped(), quantity.US, formula.Workshop{})
			formula.Resolve(f, material.Shipped(), formula.Workshop{})
		}
		checkWords(t, text)
		delivered(t, text)
	}
	_, err := listener.Read(strings.Repeat("x", 20_001), material.Shipped())
	assert.ErrorContains(t, err, "say it in parts")
}

// What is said of a good that has lines already corrects them, or goes on from them.
func TestWhatIsSaidLaterIsOfWhatIsThere(t *testing.T) {
	there := []formula.Line{formula.LineOf("washing-soda", "3 cups"), formula.LineOf("table-salt", "1 cup")}
	for text, want := range map[string][]string{
		"no, two":                     {"3 cups washing-soda", "2 cups table-salt"},
		"same again of borax":         {"3 cups washing-soda", "1 cup table-salt", "1 cup borax"},
		"scrap the salt":              {"3 cups washing-soda"},
		"make the washing soda 2":     {"2 cups washing-soda", "1 cup table-salt"},
		"sorry, teaspoons":            {"3 cups washing-soda", "1 tsp table-salt"},
		"I meant epsom salt":          {"3 cups washing-soda", "1 cup epsom-salt"},
		"one of borax":                {"3 cups washing-soda", "1 cup table-salt", "1 cup borax"},
		"stir the salt in, then rest": {"3 cups washing-soda", "1 cup table-salt"},
	} {
		talk, err := listener.ReadAfter(there, text, material.Shipped())
		require.NoError(t, err)
		var got []string
		for _, l := range talk.Goods[0].Lines() {
			got = append(got, fmt.Sprintf("%s %s", l.Amount, l.Material))
		}
		assert.Equal(t, want, got, text)
	}
}

// A text in which each good is like the one before stays as long as it was said.
func TestGoodsThatAreLikeOthersDoNotGrowWithoutEnd(t *testing.T) {
	var text strings.Builder
	text.WriteString("A: 500 g soda crystals, 200 g salt, 20 drops lemon oil.\n")
	for text.Len() < listener.MaxText-60 {
		text.WriteString("B: same as above plus 1 g borax and 2 g citric acid.\n")
	}
	talk, err := listener.Read(text.String(), material.Shipped())
	require.NoError(t, err)
	lines := 0
	for _, g := range talk.Goods {
		lines += len(g.Lines())
	}
	assert.Greater(t, len(talk.Goods), 20)
	assert.Less(t, lines, 8*strings.Count(text.String(), "\n"))
}

// The field reads as somebody types: every beginning of what is said is heard out, too. One that is
// never done with is told by its text.
func TestWhatIsTypedSoFarIsHeardOut(t *testing.T) {
	lib := material.Shipped()
	for _, from := range []string{"testdata/talks.txt", "testdata/deliveries.txt"} {
		content, err := os.ReadFile(from)
		require.NoError(t, err)
		for n, one := range strings.Split(string(content), "\n== ") {
			text, _, _ := strings.Cut(one, "\n> ")
			_, text, _ = strings.Cut(text, "\n")
			if n%6 != 0 {
				continue
			}
			for i := range text {
				if !strings.ContainsRune(" \n,(:", rune(text[i])) {
					continue
				}
				heard := make(chan error, 1)
				go func() {
					if from == "testdata/talks.txt" {
						_, err := listener.Read(text[:i], lib)
						heard <- err
						return
					}
					_, err := listener.ReadDelivery(text[:i], lib, listener.DeliveryOptions{Currency: "EUR", Today: time.Date(2026, 11, 20, 0, 0, 0, 0, time.UTC)})
					heard <- err
				}()
				select {
				case err := <-heard:
					require.NoError(t, err, text[:i])
				case <-time.After(time.Minute):
					t.Fatalf("never done with %q", text[:i])
				}
			}
		}
	}
}
