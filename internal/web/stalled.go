package web

import (
	"net"
	"time"
)

// StalledAfter is how long an answer waits for its reader to take any of it. From memory:
// longer than a phone is gone behind a wall, shorter than a person waits.
const StalledAfter = 30 * time.Second

// CutStalled is a listener whose connections are cut once nothing of what is written was
// taken for so long. Who reads slowly is waited for; who does not read holds nothing for
// good. It goes beneath TLS.
func CutStalled(l net.Listener, after time.Duration) net.Listener { return &stalling{l, after} }

type stalling struct {
	net.Listener
	after time.Duration
}

func (s *stalling) Accept() (net.Conn, error) {
	c, err := s.Listener.Accept()
	if err != nil {
		return nil, err
	}
	return &cutting{c, s.after}, nil
}

// cutting is a connection that gives each piece it writes so long to be taken.
type cutting struct {
	net.Conn
	after time.Duration
}

const pieceBytes = 16 << 10

func (c *cutting) Write(b []byte) (n int, err error) {
	for {
		if err := c.SetWriteDeadline(time.Now().Add(c.after)); err != nil {
			return n, err
		}
		piece := b[n:min(len(b), n+pieceBytes)]
		wrote, err := c.Conn.Write(piece)
		n += wrote
		if err != nil || n == len(b) {
			return n, err
		}
	}
}
