// Package quantity reads the amounts a maker writes and turns them into grams
// with an honest range.
//
// An amount is kept as written. It may look like any of these:
//
//	1/2 cup              1½ tbsp            2 c + 2 tbsp
//	10–15 drops          20 to 25 nuts      heaped tbsp
//	3 parts              1 bar              a pinch
//	1,5 kg               about 250 ml       2 imperial pints
//	to 10 l              half a cup         1 packed cup
//
// The grammar, in the order it is tried:
//
//	amount  = [ "to" | "up to" | "make up to" | "qs to" ] term { ( "+" | "and" | "plus" ) term }
//	term    = { about | fill | set } number [ ( "-" | "to" | "or" ) number ] { fill | set } unit
//	number  = integer | decimal | fraction | mixed | word ("a", "two", "half a")
//	about   = "about" | "roughly" | "~"
//	fill    = "level" | "heaped" | "rounded" | "scant" | "packed"
//	set     = "US" | "imperial" | "metric" | "Australian"
//
// A decimal may use a point or a comma; "1,000" is refused because it can mean
// one or a thousand. [Parse] reports the position of a mistake and what was
// expected there. An amount that was parsed, printed and parsed again is the
// same amount.
//
// Inside the package mass is in grams, volume in millilitres. A volume of
// powder is only as exact as its bulk density, so results are a [Range]: the
// likely value and the lowest and highest it may be.
package quantity
