//go:build !unix

package web

import (
	"context"
	"net"
)

// whileThere is ctx: whether the client has gone cannot be seen here. The effort
// of a search bounds it all the same.
func whileThere(ctx context.Context, _ net.Conn) (context.Context, context.CancelFunc) {
	return context.WithCancel(ctx)
}
