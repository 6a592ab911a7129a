// Package stock holds what can be counted: items, their lots, and the movements
// that are all that ever happens to a lot.
//
// What is left of a lot is the sum of its movements, to the milligram (or the
// thousandth of a millilitre; pieces are whole). Amounts of money are decimal,
// never floating point, and are rounded in one place only: what a draw takes
// from a lot is the difference of two rounded running totals, so that the draws
// of a used-up lot sum to what it cost, to the last cent.
package stock
