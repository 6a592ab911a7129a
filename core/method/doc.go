// Package method knows how goods are usually made: the steps of each kind and
// school, what is looked for on the way and what is done about it, and how to read
// steps out of prose. All of it is common practice of the trade.
package method
