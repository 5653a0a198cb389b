//go:build unix

package web

import (
	"context"
	"net"
	"syscall"
	"time"
)

// whileThere is a context that ends when the client at the other end of the
// connection has gone: the server reads nothing while an answer is made, so it
// is looked whether the connection has come to its end.
func whileThere(ctx context.Context, conn net.Conn) (context.Context, context.CancelFunc) {
	ctx, cancel := context.WithCancel(ctx)
	socket, ok := conn.(syscall.Conn)
	if !ok {
		return ctx, cancel
	}
	raw, err := socket.SyscallConn()
	if err != nil {
		return ctx, cancel
	}
	go func() {
		for {
			select {
			case <-ctx.Done():
				return
			case <-time.After(lookEvery):
			}
			if closed(raw) {
				cancel()
				return
			}
		}
	}()
	return ctx, cancel
}

// lookEvery is how often it is looked whether a client is still there.
const lookEvery = 50 * time.Millisecond

func closed(raw syscall.RawConn) (gone bool) {
	_ = raw.Control(func(fd uintptr) {
		n, _, err := syscall.Recvfrom(int(fd), make([]byte, 1), syscall.MSG_PEEK|syscall.MSG_DONTWAIT)
		gone = n == 0 && err == nil
	}) // a connection that cannot be looked at is taken for open
	return gone
}
