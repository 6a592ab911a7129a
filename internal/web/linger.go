package web

import (
	"io"
	"net"
	"syscall"
	"time"
)

// How long, and how much, is listened to after the last answer of a connection. From
// memory: longer than a phone needs to send what is too large, shorter than anybody waits.
const (
	lingers     = 5 * time.Second
	lingerBytes = 64 << 20
)

// Close ends a connection so that what was answered arrives: a close while something is
// still being sent here would throw the answer away on its way (RFC 9112 9.6).
func (c *cutting) Close() error {
	half, ok := c.Conn.(interface{ CloseWrite() error })
	if !ok || half.CloseWrite() != nil {
		return c.Conn.Close()
	}
	go func() {
		defer c.Conn.Close()
		if c.Conn.SetReadDeadline(time.Now().Add(lingers)) == nil {
			_, _ = io.CopyN(io.Discard, c.Conn, lingerBytes)
		}
	}()
	return nil
}

// SyscallConn lets it be looked at whether who asked is still there.
func (c *cutting) SyscallConn() (syscall.RawConn, error) {
	raw, ok := c.Conn.(syscall.Conn)
	if !ok {
		return nil, net.ErrClosed
	}
	return raw.SyscallConn()
}
