package web

import (
	"context"
	"net"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestClientThatLeavesEndsItsSearch: its context ends soon after its connection.
func TestClientThatLeavesEndsItsSearch(t *testing.T) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer listener.Close()
	client, err := net.Dial("tcp", listener.Addr().String())
	require.NoError(t, err)
	conn, err := listener.Accept()
	require.NoError(t, err)
	defer conn.Close()
	ctx, done := whileThere(context.Background(), conn)
	defer done()
	time.Sleep(3 * lookEvery)
	assert.NoError(t, ctx.Err(), "it is there")
	require.NoError(t, client.Close())
	select {
	case <-ctx.Done():
	case <-time.After(20 * time.Second):
		require.Fail(t, "nobody noticed")
	}
}

func TestTokensAreBounded(t *testing.T) {
	store := newTokenStore()
	for i := range 3 * tokensKept {
		require.NoError(t, store.Set(strconv.Itoa(i), []byte("x"), time.Hour))
	}
	assert.Equal(t, tokensKept, store.lru.Len())
	first, err := store.Get("0")
	require.NoError(t, err)
	assert.Nil(t, first, "the longest quiet goes first")
}
