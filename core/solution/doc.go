// Package solution works out what a formula does in the water it is used in: the
// bowl, the drum and the bucket.
//
// A formula's lines become mol of compounds ([Contents]), dissolved at a use
// strength in water of some hardness ([Use]). [Run] gives the pH with the gas
// still in it and after the gas has left, free alkalinity and what a titration
// would read, buffer strength, gas and what limits it, soap turned back to
// fat, what meets the hardness, what will not dissolve, and from which
// humidity on the powder drinks water.
//
// # Ranges
//
// Scooped amounts are ranges, and so are results. With five scooped lines or
// fewer all corners are worked out: every line at one of its ends. With more,
// each line is moved to its end alone, to see which end lowers the pH; then all
// lines are set so, and each is tried the other way once more: 3n + 3 solutions
// instead of 2ⁿ. A test holds both against all corners and against a sample of
// random amounts. Calcium and magnesium are left out of the moved solutions;
// how far the pH moves is what is taken from them.
package solution
