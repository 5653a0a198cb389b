package instruments

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
)

// serve answers all who call a stand-in, each on its own, until the listener is closed.
func serve(ctx context.Context, on net.Listener, name string, answer func(net.Conn) error) error {
	stop := context.AfterFunc(ctx, func() { _ = on.Close() })
	defer stop()
	for {
		conn, err := on.Accept()
		if errors.Is(err, net.ErrClosed) {
			return nil
		}
		if err != nil {
			return fmt.Errorf("the %s's stand-in: %w", name, err)
		}
		go func() {
			if err := answer(conn); err != nil && ctx.Err() == nil {
				slog.Debug("a caller left", "instrument", name, "err", err)
			}
		}()
	}
}
