// Package keeping says how long a good keeps, and what limits it.
//
// A class of good has a customary life. A jar keeps for the shortest of that
// life, each lot's own date, and what is left of each opened pack; the answer
// always names which one it was. All classes are common practice, stated from
// memory, and may be changed by a workshop.
package keeping
