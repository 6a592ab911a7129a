package people

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// crowd is a queue with its one turn taken, and who was let in since, by what they are
// called.
type crowd struct {
	*queue
	t     *testing.T
	leave func()
	names map[*waiting]string
}

func newCrowd(t *testing.T) *crowd {
	q := newQueue(1)
	done, err := q.wait(context.Background(), asker{address: "192.0.2.250"})
	require.NoError(t, err)
	return &crowd{q, t, done, map[*waiting]string{}}
}

// comes lets somebody wait, and reports whether there was a seat.
func (c *crowd) comes(name string, a asker) bool {
	w, err := c.enter(a)
	if err == nil {
		c.names[w] = name
	}
	return err == nil
}

// turns gives turn after turn and returns who had them, in order.
func (c *crowd) turns() (order []string) {
	for range len(c.names) + 1 {
		c.queue.leave()
		for w, name := range c.names {
			select {
			case turn := <-w.turn:
				if turn {
					order = append(order, name)
				}
				delete(c.names, w)
			default:
			}
		}
	}
	return order
}

// A flood from one machine, by as many names as it likes, fills no seat that another
// needs, nor does it come before it.
func TestAFloodFromOnePlaceKeepsNobodyElseOut(t *testing.T) {
	for _, address := range []func(i int) string{
		func(int) string { return "198.51.100.7" },
		func(i int) string { return fmt.Sprintf("2001:db8:1:2::%x", i+1) }, // one household has all of these
	} {
		c := newCrowd(t)
		in := 0
		for i := range 200 {
			if c.comes("flood", asker{address: address(i), login: fmt.Sprintf("guess-%d", i)}) {
				in++
			}
		}
		assert.Equal(t, mayWaitByAddress, in)
		assert.True(t, c.comes("marl", asker{address: "203.0.113.9", login: "marl"}))
		assert.True(t, c.comes("teasel", asker{address: "203.0.113.10", login: "teasel"}))
		order := c.turns()
		assert.ElementsMatch(t, []string{"marl", "teasel"}, order[1:3], "after the flood's first: %v", order)
	}
}

// A flood from few machines loses seats to who comes from another one.
func TestAFullQueueMakesRoomForWhoHasNoSeat(t *testing.T) {
	c := newCrowd(t)
	for i := range 100 {
		c.comes("flood", asker{address: fmt.Sprintf("198.51.100.%d", i%3), login: fmt.Sprintf("guess-%d", i)})
	}
	assert.Len(t, c.waiting, mayWait)
	assert.True(t, c.comes("marl", asker{address: "203.0.113.9", login: "marl"}))
	assert.Len(t, c.waiting, mayWait, "and no more wait than may")
	order := c.turns()
	assert.Len(t, order, mayWait, "one was sent away")
	assert.Contains(t, order[:4], "marl", "%v", order)
}

// A flood from everywhere keeps out who comes for the first time, and nobody whose
// browser was here before; also not by that person's own name.
func TestABrowserThatWasHereGoesFirst(t *testing.T) {
	c := newCrowd(t)
	for i := range 100 {
		c.comes("flood", asker{address: fmt.Sprintf("198.51.100.%d", i), login: "marl"})
		c.comes("flood", asker{address: fmt.Sprintf("192.0.2.%d", i), login: fmt.Sprintf("guess-%d", i)})
	}
	assert.False(t, c.comes("new", asker{address: "203.0.113.8", login: "new"}), "who cannot be told from the flood waits")
	assert.True(t, c.comes("marl", asker{address: "203.0.113.9", login: "marl", known: true}))
	assert.Equal(t, "marl", c.turns()[0])
}

// A machine has no more under way than could have their turn; another's are its own.
func TestAMachineHasSoManyTriesUnderWay(t *testing.T) {
	g := newGate()
	flood := asker{address: "198.51.100.7"}
	var leaves []func()
	for range mayTry {
		leave, err := g.enter(flood)
		require.NoError(t, err)
		leaves = append(leaves, leave)
	}
	_, err := g.enter(flood)
	require.Error(t, err)
	for _, other := range []asker{{address: "203.0.113.9"}, {address: flood.address, known: true}} {
		leave, err := g.enter(other)
		require.NoError(t, err)
		leave()
	}
	leaves[0]()
	_, err = g.enter(flood)
	require.NoError(t, err)
}

// Who hangs up gives their seat up, and a turn that was just theirs goes on.
func TestWhoHangsUpGivesTheTurnOn(t *testing.T) {
	c := newCrowd(t)
	ctx, hangUp := context.WithCancel(context.Background())
	hangUp()
	_, err := c.wait(ctx, asker{address: "203.0.113.9"})
	require.ErrorIs(t, err, context.Canceled)
	assert.Empty(t, c.waiting)
	c.leave()
	w, err := c.enter(asker{address: "203.0.113.9"})
	require.NoError(t, err)
	c.giveUp(w) // its turn had come
	done, err := c.wait(context.Background(), asker{address: "203.0.113.10"})
	require.NoError(t, err, "the turn is free again")
	done()
	assert.Equal(t, 1, c.free)
	assert.Empty(t, c.served, "nobody is remembered longer than needed")
}

// What a browser keeps is of one password, and opens the queue alone.
func TestWhatABrowserKeepsGoesWithThePassword(t *testing.T) {
	assert.True(t, wasHere(before("$argon2id$one"), "$argon2id$one"))
	assert.False(t, wasHere(before("$argon2id$one"), "$argon2id$another"))
	assert.False(t, wasHere("", "$argon2id$one"))
	assert.False(t, wasHere(before(""), ""), "nobody of that name")
	assert.NotContains(t, before("$argon2id$one"), "one")
}
