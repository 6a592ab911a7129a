// Package formula turns a written formula into masses, and masses into a plan
// that can be weighed out.
//
// [Resolve] makes grams of every line, with ranges, shares of the whole and
// every problem found, not just the first. [Resolved.Scale] sizes the formula
// to a mass, a volume, pieces, containers, uses or the scarcest stock, and
// [Plan.RoundTo] rounds it to what a scale can show, saying so when that
// shifts the balance. [OrderFindings] checks the order of addition.
package formula
