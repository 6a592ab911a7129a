// Package safety knows what must not meet.
//
// Rules are data, in rules.json beside this file: groups of material tags
// that have to be present together, and what that means in each context: the
// same pot wet, the same jar dry, or used one after the other. All are common
// practice or common chemical knowledge. A rule that needs more than tags
// names a condition in conditions.go. Severities are a usual caution; local
// codes and licensed practice decide.
package safety
