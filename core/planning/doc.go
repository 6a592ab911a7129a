// Package planning says what to make when: makings worked into days, vessels and hours so
// that orders are given on their day or as little late as can be, what would have to be
// lifted for more, and what to buy for it at the cheapest whole. All of it is deterministic:
// the search is bounded by steps, never by time.
package planning
