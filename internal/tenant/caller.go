package tenant

import (
	"context"
	"time"

	"keencrock/internal/store"
)

// Caller is where a request comes from.
type Caller struct {
	Address string // of the machine, as a trusted proxy says where there is one
	Agent   string // what its browser calls itself
	Local   bool   // from the machine Keen Crock runs on, by no way round
	Secure  bool   // over TLS, all the way to Keen Crock or a trusted proxy
	Before  string // what its browser kept of having been signed in
	Request string // the id of the request in the log
}

type callerKey struct{}

// WithCaller returns a context for what is asked from somewhere.
func WithCaller(ctx context.Context, c Caller) context.Context {
	return context.WithValue(ctx, callerKey{}, c)
}

// CallerOf is where what happens in a context was asked from.
func CallerOf(ctx context.Context) Caller {
	c, _ := ctx.Value(callerKey{}).(Caller)
	return c
}

// ActorOf is who asks in a context, if anyone is known.
func ActorOf(ctx context.Context) (Actor, bool) {
	a, ok := ctx.Value(actorKey{}).(Actor)
	return a, ok
}

// Note keeps for the owner that something was done, with who did it and from where:
// together with what it is about, or not at all.
func Note(ctx context.Context, tx *store.Tx, kind, about string, at time.Time) error {
	from := CallerOf(ctx)
	a := &store.Audit{Kind: kind, About: about, Address: from.Address, Request: from.Request, At: at}
	if actor, ok := ActorOf(ctx); ok {
		a.PersonID = &actor.Person
	}
	return tx.AddAudit(a)
}
