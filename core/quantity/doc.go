// Package quantity reads the amounts a maker writes and turns them into grams
// with an honest range.
//
// An amount is kept as written and printed in one form; printed and read again
// it is the same amount. It may look like any of these:
//
//	1/2 cup         1½ tbsp             a cup and a half   2 c + 2 tbsp
//	10–15 drops     20 to 25 nuts       two or three cups  a few drops
//	1,5 kg          about 250 ml        2 imperial pints   8 oz by weight
//	heaped tbsp     a firmly packed cup a large handful    a glug
//	a 200 g bar     2 boxes of 450 g    juice of a lemon   half a bucket
//	3 parts         20 %                to 10 l            20
//	some            to taste            enough to cover    as needed
//
// The grammar, in the order it is tried:
//
//	reading = amount [ "or" amount ]                said two ways
//	amount  = open | up term | term { ( "+" | "and" | "plus" ) term }
//	open    = "some" | "to taste" | "as needed" | "to cover" | "to fill" and their like
//	up      = "to" | "up to" | "make up to" | "qs to"
//	term    = { about | fill | set } span [ fill | set ] unit [ "and a half" ]
//	        | [ span ] pack [ "of" ] term           a 200 g bar, 2 boxes of 450 g
//	        | ( "juice" | "peel" ) "of" span fruit
//	span    = [ "between" ] number [ ( "-" | "to" | "or" | "and" ) number ]
//	number  = integer | decimal | fraction | mixed | words
//
// The words themselves are tables in lexicon.go: a new one is a new entry there.
// The files of testdata hold what is read, and as what.
//
// A decimal may use a point or a comma; "1,000" is refused because it can mean
// one or a thousand. [Parse] reports the position of a mistake and what was
// expected there.
//
// A vague size, as a handful, and a vessel, as a mug, have a usual size that is
// wide on purpose; a workshop measures its own once ([Sizes]). A vessel of no
// usual size, as a jar, asks ([ErrNeedsSize]), as a number alone does
// ([ErrNeedsUnit]) and what has no figure ([ErrOpen]). An ounce of a liquid is a
// fluid ounce, unless it is weighed.
//
// Inside the package mass is in grams, volume in millilitres. A volume of
// powder is only as exact as its bulk density, so results are a [Range]: the
// likely value and the lowest and highest it may be.
package quantity
