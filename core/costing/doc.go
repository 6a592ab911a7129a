// Package costing holds lots, draws on them, and money.
//
// Money is decimal, never floating point, and is rounded in one place only:
// what a draw takes from a lot is the difference of two rounded running
// totals, so that the draws of a used-up lot sum to what it cost, to the last
// cent.
package costing
