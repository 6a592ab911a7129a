package people

import (
	"context"
	"fmt"
	"net/netip"
	"sync"
	"time"

	"keencrock/internal/problem"
)

// How many may wait for their turn: in all, of one machine, by one name. From memory: at
// about a tenth of a second each, nobody waits much longer than a second.
const (
	mayWait          = 12
	mayWaitByAddress = 6
	mayWaitByLogin   = 4
	busyRetry        = 2 * time.Second
)

// asker is who waits for a turn.
type asker struct {
	address string // of the machine
	login   string
	known   bool // has been signed in from that browser before
}

// from is the part of the network that one person has: a machine's address, or the lower
// half of the new ones (RFC 6177), of which each has as many as anybody wants.
func (a asker) from() string {
	ip, err := netip.ParseAddr(a.address)
	if err != nil || ip.Unmap().Is4() {
		return a.address
	}
	near, _ := ip.WithZone("").Prefix(64)
	return near.String()
}

// queue gives turns, a few at a time. Browsers that were here before go first; of the
// others, whoever's machine has waited longest since its last turn. Of a crowd that is too
// large it sends away the last of the machine with the most: a flood from one place fills
// no seat that another needs.
type queue struct {
	mu      sync.Mutex
	free    int
	waiting []*waiting
	turns   int            // given so far
	served  map[string]int // the last turn of a machine
}

type waiting struct {
	asker
	turn chan bool // true for its turn, false when it is sent away
}

func newQueue(atOnce int) *queue { return &queue{free: atOnce, served: map[string]int{}} }

func tooMany() error {
	return problem.TooMany(busyRetry, "too-many-tries", "Many sign in at this moment. Wait a few seconds, then try again.")
}

// wait waits for a turn; the error is a problem to try again, or the context's.
func (q *queue) wait(ctx context.Context, a asker) (done func(), err error) {
	w, err := q.enter(a)
	if err != nil {
		return nil, err
	}
	select {
	case turn := <-w.turn:
		if !turn {
			return nil, tooMany()
		}
		return q.leave, nil
	case <-ctx.Done():
		q.giveUp(w)
		return nil, ctx.Err()
	}
}

// enter takes a seat, or another's who has more of them than anybody.
func (q *queue) enter(a asker) (*waiting, error) {
	q.mu.Lock()
	defer q.mu.Unlock()
	w := &waiting{a, make(chan bool, 1)}
	if q.free > 0 {
		q.free--
		q.give(w)
		return w, nil
	}
	here := func(f func(*waiting) bool) (n int) {
		for _, o := range q.waiting {
			if o.known == a.known && f(o) {
				n++
			}
		}
		return n
	}
	mine := here(func(o *waiting) bool { return o.from() == a.from() })
	if mine >= mayWaitByAddress || here(func(o *waiting) bool { return o.login == a.login }) >= mayWaitByLogin {
		return nil, tooMany()
	}
	if here(func(*waiting) bool { return true }) >= mayWait && !q.sendAway(a.known, mine+1) {
		return nil, tooMany()
	}
	q.waiting = append(q.waiting, w)
	return w, nil
}

// sendAway sends the last of the machine away that has the most seats, where that is more
// than so many.
func (q *queue) sendAway(known bool, more int) bool {
	seats := map[string]int{}
	last := -1
	for i, o := range q.waiting {
		if o.known != known {
			continue
		}
		seats[o.from()]++
		if last < 0 || seats[o.from()] >= seats[q.waiting[last].from()] {
			last = i
		}
	}
	if last < 0 || seats[q.waiting[last].from()] <= more {
		return false
	}
	q.waiting[last].turn <- false
	q.waiting = append(q.waiting[:last:last], q.waiting[last+1:]...)
	return true
}

// leave ends a turn, and gives it on.
func (q *queue) leave() {
	q.mu.Lock()
	defer q.mu.Unlock()
	next := -1
	for i, w := range q.waiting {
		if next < 0 || q.before(w, q.waiting[next]) {
			next = i
		}
	}
	if next < 0 {
		q.free++
		clear(q.served) // nobody waits: nobody has to be remembered
		return
	}
	w := q.waiting[next]
	q.waiting = append(q.waiting[:next:next], q.waiting[next+1:]...)
	q.give(w)
}

func (q *queue) before(a, b *waiting) bool {
	if a.known != b.known {
		return a.known
	}
	return q.served[a.from()] < q.served[b.from()]
}

func (q *queue) give(w *waiting) {
	q.turns++
	q.served[w.from()] = q.turns
	w.turn <- true
}

// giveUp takes somebody out of the queue, or gives their turn on.
func (q *queue) giveUp(w *waiting) {
	q.mu.Lock()
	for i, o := range q.waiting {
		if o == w {
			q.waiting = append(q.waiting[:i:i], q.waiting[i+1:]...)
			q.mu.Unlock()
			return
		}
	}
	q.mu.Unlock()
	if turn := <-w.turn; turn {
		q.leave()
	}
}

// gate keeps a machine from having more tries under way than could ever have their turn,
// before the database is asked anything about them. Tries with something kept of an earlier
// sign-in are counted apart, whether or not that turns out to be true.
type gate struct {
	mu sync.Mutex
	of map[string]int
}

// mayTry is how many a machine may have under way: those that wait, and one to spare.
const mayTry = mayWaitByAddress + 2

func newGate() *gate { return &gate{of: map[string]int{}} }

func (g *gate) enter(a asker) (leave func(), err error) {
	g.mu.Lock()
	defer g.mu.Unlock()
	key := fmt.Sprint(a.from(), a.known)
	if g.of[key] >= mayTry {
		return nil, tooMany()
	}
	g.of[key]++
	return func() {
		g.mu.Lock()
		defer g.mu.Unlock()
		if g.of[key]--; g.of[key] == 0 {
			delete(g.of, key)
		}
	}, nil
}
