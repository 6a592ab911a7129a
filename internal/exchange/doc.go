// Package exchange turns open formats into the words of the core and back:
// the formula file, the assessment as JSON, the shelf and price lists as CSV.
package exchange
