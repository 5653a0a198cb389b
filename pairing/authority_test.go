package pairing

import (
	"crypto/tls"
	"crypto/x509"
	"net"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestOneAuthorityForGood: made once, its key for its owner alone, and never overwritten.
func TestOneAuthorityForGood(t *testing.T) {
	file := filepath.Join(t.TempDir(), "k.db.ca")
	a, err := OpenAuthority(file)
	require.NoError(t, err)
	again, err := OpenAuthority(file)
	require.NoError(t, err)
	assert.Equal(t, a.Fingerprint(), again.Fingerprint())
	assert.Len(t, a.Fingerprint(), 32*3-1)
	info, err := os.Stat(file + ".key")
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	require.NoError(t, os.Remove(file+".crt"))
	_, err = OpenAuthority(file)
	assert.ErrorIs(t, err, os.ErrExist, "half of it is gone: the other half stays")
	require.NoError(t, os.WriteFile(file+".crt", []byte("no certificate"), 0o600))
	_, err = OpenAuthority(file)
	assert.ErrorContains(t, err, "the certificate authority")
}

// TestCertificatesAreForTheAddressesInUse, trusted by who took the authority in, and made anew
// before they run out.
func TestCertificatesAreForTheAddressesInUse(t *testing.T) {
	a, err := OpenAuthority(filepath.Join(t.TempDir(), "ca"))
	require.NoError(t, err)
	a.For([]string{"192.0.2.7:8788", "[fd00::2]:8788", "shed.example"})
	roots := x509.NewCertPool()
	require.True(t, roots.AppendCertsFromPEM(a.Certificate()))
	leaf, err := a.current()
	require.NoError(t, err)
	for name, trusted := range map[string]bool{"192.0.2.7": true, "fd00::2": true, "shed.example": true, "192.0.2.8": false,
		"evil.example": false} {
		_, err := leaf.Leaf.Verify(x509.VerifyOptions{DNSName: name, Roots: roots})
		assert.Equal(t, trusted, err == nil, name)
	}
	same, err := a.current()
	require.NoError(t, err)
	assert.Same(t, leaf, same)
	a.now = func() time.Time { return leaf.Leaf.NotAfter.Add(-serverLife / 3) }
	anew, err := a.current()
	require.NoError(t, err)
	assert.NotEqual(t, leaf.Leaf.SerialNumber, anew.Leaf.SerialNumber)
	a.For([]string{"192.0.2.7:1"})
	assert.Same(t, anew, a.leaf, "no name is new")
	a.For([]string{"192.0.2.9"})
	assert.Nil(t, a.leaf, "a name more")
}

// TestServedOverTLS: who trusts the authority reads along, who does not is refused, and plain
// text gets no answer.
func TestServedOverTLS(t *testing.T) {
	a, err := OpenAuthority(filepath.Join(t.TempDir(), "ca"))
	require.NoError(t, err)
	a.For([]string{"127.0.0.1"})
	plain, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	listener := tls.NewListener(plain, a.Config())
	defer listener.Close()
	go func() {
		for {
			conn, err := listener.Accept()
			if err != nil {
				return
			}
			_, _ = conn.Write([]byte("hello"))
			_ = conn.Close()
		}
	}()
	roots := x509.NewCertPool()
	require.True(t, roots.AppendCertsFromPEM(a.Certificate()))
	conn, err := tls.Dial("tcp", plain.Addr().String(), &tls.Config{RootCAs: roots})
	require.NoError(t, err)
	text := make([]byte, 5)
	_, err = conn.Read(text)
	require.NoError(t, err)
	assert.Equal(t, "hello", string(text))
	_, err = tls.Dial("tcp", plain.Addr().String(), &tls.Config{RootCAs: x509.NewCertPool()})
	assert.ErrorContains(t, err, "unknown authority")
	_, err = tls.Dial("tcp", plain.Addr().String(), &tls.Config{RootCAs: roots, MaxVersion: tls.VersionTLS11})
	assert.Error(t, err, "an old protocol")
}
