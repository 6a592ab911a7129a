// Package making holds how a batch becomes a good: the events that happen to it,
// what follows from them, and what is next.
//
// A batch is nothing but its lines and its events: [Replay] gives its state, and
// [Batch.Apply] refuses an event that cannot be, before anyone keeps it.
package making
