package web

import (
	"context"
	"io"
)

// leaving is a text that ends, with an error, when nobody waits for what is made of it.
type leaving struct {
	ctx context.Context
	io.Reader
}

func (l leaving) Read(into []byte) (int, error) {
	if err := l.ctx.Err(); err != nil {
		return 0, err
	}
	return l.Reader.Read(into)
}
