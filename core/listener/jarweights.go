package listener

import (
	"slices"

	"github.com/shopspring/decimal"

	"keencrock/core/quantity"
)

// byWeight is an amount that was said of a good instead of a number of jars.
type byWeight struct {
	grams, ml float64
}

func (w byWeight) isZero() bool { return w == byWeight{} }

// weightAt reads so much by weight, or of what is poured by volume, and returns where the next
// token begins. It waits for its good, or is of the one before: “500 g of Towpath”, “200 g back”.
// With a number of jars before it, or a word for one behind, it is the size of those.
func (j *jarReader) weightAt(i int) int {
	from := j.toks[i].from
	said, ok := quantity.ReadSaid(j.clean[from:])
	if !ok {
		return i
	}
	w := weightOf(said.Amount, j.o.Measures)
	if w.isZero() {
		return i
	}
	to := i
	for to < len(j.toks) && j.toks[to].from < from+said.At {
		to++
	}
	if _, counted := j.countAtToken(i); counted > i && counted < to && j.toks[counted].kind == isNumber { // “two 1 kg bags”
		return i
	}
	isSize := j.count > 0 || slices.ContainsFunc(j.toks[i:to], func(t token) bool { return holderWords[t.word] && t.word != "of" })
	for k := to; k < len(j.toks) && j.toks[k].kind == isWord && !isSize && (holderWords[j.toks[k].word] || smallWords[j.toks[k].word]); k++ {
		isSize = holderWords[j.toks[k].word] && j.toks[k].word != "of"
	}
	if isSize {
		j.becomes(i, to, AsSmallTalk, j.lineIfRead())
		return to
	}
	j.count, j.countAt, j.weight = 0, i, w
	j.becomes(i, to, AsAmount, nil)
	if to < len(j.toks) && backWords[j.toks[to].word] && j.hasGood {
		j.alone(MovedBack, false)
		j.becomes(i, to, AsAmount, j.lineIfRead())
		j.becomes(to, to+1, AsStep, j.lineIfRead())
		return to + 1
	}
	if j.ofGoodBefore() {
		a := j.acts[j.act]
		a.Lines[len(a.Lines)-1].Count, a.Lines[len(a.Lines)-1].byWeight, j.weight = 0, w, byWeight{}
		j.becomes(i, to, AsAmount, a.line)
	}
	return to
}

// ofGoodBefore reports whether the good that was named last, with no number, right before this
// is what it is of: “Heron, 500 g”.
func (j *jarReader) ofGoodBefore() bool {
	if j.act < 0 || j.fresh || !j.uncounted || j.goodFollows(j.countAt+1) {
		return false
	}
	a := j.acts[j.act]
	return len(a.Lines) > 0 && a.Lines[len(a.Lines)-1].byWeight.isZero()
}

// weightOf is an amount as grams, else as millilitres; nothing for what is counted or only
// guessed at.
func weightOf(a quantity.Amount, in quantity.Measures) byWeight {
	if g, ok := a.MassOnly(); ok && !a.UpTo() {
		return byWeight{grams: g.Value}
	}
	if ml, ok := a.Millilitres(quantity.Handling{Measures: in}); ok && !a.UpTo() && ml.Low == ml.High {
		return byWeight{ml: ml.Value}
	}
	return byWeight{}
}

// priceOfAll is a price of what goes by weight: of all of it, or of a kilogram or litre.
func (w byWeight) priceOfAll(p *priceSaid, in quantity.Measures) (decimal.Decimal, bool) {
	if p.of != ofUnit {
		return p.amount, true
	}
	per := weightOf(p.per, in)
	switch {
	case w.grams > 0 && per.grams > 0:
		return p.amount.Mul(decimal.NewFromFloat(w.grams)).DivRound(decimal.NewFromFloat(per.grams), 2), true
	case w.ml > 0 && per.ml > 0:
		return p.amount.Mul(decimal.NewFromFloat(w.ml)).DivRound(decimal.NewFromFloat(per.ml), 2), true
	}
	return decimal.Zero, false
}
