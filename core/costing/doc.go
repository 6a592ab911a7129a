// Package costing holds prices and money. Money is decimal, never floating point,
// and a whole that is shared out is shared out to the last cent.
package costing
