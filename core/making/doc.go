// Package making holds how a batch becomes a good: the steps it goes through, the
// events that happen to it, what follows from them, and what is due.
//
// A batch is nothing but what it is made by and its events: [Replay] gives its state,
// which is where its step at hand is done, and [Batch.Apply] refuses an event that
// cannot be, before anyone keeps it. What was taken back stays in the log, and the
// batch is what the other events make of it.
package making
