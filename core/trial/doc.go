// Package trial answers whether one good did better than another, and does not say more than
// the marks allow.
//
// Marks are held against each other within pairs (the same water, load and soil), so that what
// differs from wash to wash falls out. The tests are exact: what chance alone would do is
// counted, not approximated, with the ties that are there.
package trial
