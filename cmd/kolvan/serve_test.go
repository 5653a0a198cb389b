package main

import (
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestBeyondThisMachineNothingIsOpenByAccident: without a name that is given nothing listens,
// and a wildcard is no name.
func TestBeyondThisMachineNothingIsOpenByAccident(t *testing.T) {
	for _, c := range []struct {
		addr  string
		named []string
		hosts []string // nil where it is refused
	}{
		{"127.0.0.1", nil, []string{"127.0.0.1:9", "localhost:9", "[::1]:9"}},
		{"::1", []string{"shed"}, []string{"127.0.0.1:9", "localhost:9", "[::1]:9", "shed:9"}},
		{"0.0.0.0", nil, nil},
		{"::", nil, nil},
		{"192.0.2.7", nil, nil},
		{
			"0.0.0.0", []string{"192.0.2.7:9", "[2001:db8::7]:80", "2001:db8::8"},
			[]string{"127.0.0.1:9", "localhost:9", "[::1]:9", "192.0.2.7:9", "[2001:db8::7]:80", "[2001:db8::8]:9"},
		},
		{"0.0.0.0", []string{"0.0.0.0:9"}, nil},
		{"0.0.0.0", []string{"[::]:9"}, nil},
		{"0.0.0.0", []string{"*"}, nil},
		{"0.0.0.0", []string{"*.shed:9"}, nil},
		{"0.0.0.0", []string{":9"}, nil},
		{"0.0.0.0", []string{"shed:"}, nil},
	} {
		hosts, err := (&listen{Hosts: c.named}).hosts(&net.TCPAddr{IP: net.ParseIP(c.addr), Port: 9})
		if c.hosts == nil {
			assert.Error(t, err, c)
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.hosts, hosts)
	}
	_, errs, code := kolvan(t, built(t), "", "demo", "--addr", "0.0.0.0:0")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "name with --host")
}
