// Package ledger says what a good costs and what it brings: the strata of its cost, its
// margin, what a stall day came to, and sums over movements. It is arithmetic on what the
// one stock tells; it keeps no books of its own. Money is decimal, and parts add up to
// their whole to the last cent.
package ledger
