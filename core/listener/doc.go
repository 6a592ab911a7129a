// Package listener reads what a maker says: a good in one breath, with asides and
// corrections, a page of goods, or a few lines more.
//
//	ok so two cups of washing soda, three cups of borax or citrate if you havent any,
//	a third of a cup of fine salt, then maybe 8 or 12 drops of rosemary oil
//	soap flakes, 1 cup; same again of borax; no, make that two
//	Steep 300 g orange peel in 2 litres of white vinegar for two weeks, then strain.
//	no vinegar in this one; makes about 24; front loader a tablespoon
//
// Marks first, grammar second. In this order:
//
//   - tokens (token.go) part the text, and hesitations and a page's layout are left out of them (leaveout.go);
//   - marks (mark.go, ratio.go) are what is certain, wherever it stands: amounts, materials by the
//     longest name, ratios, times, and the phrases of the lexicon (lexicon/en.json);
//   - the heads of a page (page.go, pageshapes.go, pagelines.go, pagetold.go, pageclause.go) are found by their shape, which repeats, before any
//     of it is read: each begins a good;
//   - a sentence is kept as it was said (sentencekept.go) or parted into atoms at commas and “and” (sentence.go), after the name of
//     a good at its head (title.go, titleheads.go, called.go), and each is walked once (atom.go): an amount
//     (amount.go, amountwalk.go, amountleft.go, around.go, measure.go, refine.go) goes to the name (naming.go)
//     nearest to it, and what may take its place with it (choice.go); what stands in
//     brackets (bracket.go) and what is nothing certain (loose.go) goes with what it stands
//     beside;
//   - memory (memory.go) knows what “same again”, “half that” and “one of borax” mean,
//     and corrections (correct.go) change what was said before;
//   - doses and yields (use.go, sorts.go), scents (scent.go), what it does not hold, and steps go where they belong;
//   - how big a part or a scoop is (sizes.go), what unit a mere number has (numbers.go), how spoons are filled and how much water a lye
//     has (filled.go), and what to take where something is missing (missing.go) are said of
//     lines that are there.
//
// A note on what came (delivery.go, came.go, which.go, packs.go, receipt.go, with the
// days, codes and suppliers of fact.go and factat.go, amounts of camewalk.go, prices of money.go, and what is said of all of it in
// whole.go) and what is said at the bench (bench.go, benchtold.go) are read from the same marks.
//
// Every word ends in exactly one place ([Became]). A clause that names a material is a
// line, a “none of”, a step of a line that is there, or a question. What is on no list
// is a question and never a guess.
//
// It stands above formula and method, whose lines and steps it makes, and knows nothing
// of what they come to.
package listener
