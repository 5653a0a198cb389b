package main

import (
	"bufio"
	"crypto/tls"
	"crypto/x509"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
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
		hosts, err := (&listen{Hosts: c.named, LAN: true}).hosts(&net.TCPAddr{IP: net.ParseIP(c.addr), Port: 9})
		if c.hosts == nil {
			assert.Error(t, err, c)
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, c.hosts, hosts)
	}
	_, err := (&listen{Hosts: []string{"shed"}}).hosts(&net.TCPAddr{IP: net.ParseIP("0.0.0.0"), Port: 9})
	assert.ErrorContains(t, err, "--lan", "unpaired devices are not let in")
	_, errs, code := kolvan(t, built(t), "", "demo", "--addr", "0.0.0.0:0")
	assert.Equal(t, 2, code)
	assert.Contains(t, errs, "name with --host by which")
}

// TestGate: one listener over several; all of them close with it, and none joins it after.
func TestGate(t *testing.T) {
	listen := func() net.Listener {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		return l
	}
	first, second := listen(), listen()
	g := newGate(first)
	require.True(t, g.add(second))
	assert.Equal(t, first.Addr(), g.Addr())
	for _, l := range []net.Listener{second, first} {
		conn, err := net.Dial("tcp", l.Addr().String())
		require.NoError(t, err)
		taken, err := g.Accept()
		require.NoError(t, err)
		assert.Equal(t, conn.LocalAddr().String(), taken.RemoteAddr().String())
		require.NoError(t, taken.Close())
		require.NoError(t, conn.Close())
	}
	require.NoError(t, first.Close(), "this machine's own")
	_, err := g.Accept()
	require.ErrorIs(t, err, net.ErrClosed)
	_, err = net.Dial("tcp", second.Addr().String())
	assert.Error(t, err)
	require.NoError(t, g.Close())
	late := listen()
	assert.False(t, g.add(late))
	require.NoError(t, late.Close())
}

// TestOverTheNetwork, with real processes: what is not paired sees the page that says how, by the
// very addresses that were printed, and loopback stays as it is.
func TestOverTheNetwork(t *testing.T) {
	own, err := ownAddresses()
	require.NoError(t, err)
	if len(own) == 0 {
		_, errs, code := kolvan(t, built(t), "", "demo", "--lan", "--addr", "127.0.0.1:0")
		assert.Equal(t, exitWrong, code)
		assert.Contains(t, errs, "no address that others reach")
		return
	}
	lines, stop := demonstrated(t, "--lan")
	defer stop()
	var links []string
	address := regexp.MustCompile(`https?://\S+`)
	for lines.Scan() && !strings.Contains(lines.Text(), "/pair?invitation=") {
		links = append(links, address.FindAllString(lines.Text(), -1)...)
	}
	require.Len(t, links, 1+len(own))
	for i, link := range links {
		answer, err := http.Get(link + "/rigs/1/power")
		require.NoError(t, err)
		assert.Equal(t, i == 0, answer.StatusCode == http.StatusOK, link)
		require.NoError(t, answer.Body.Close())
	}
	answer, err := http.Get(address.FindString(lines.Text()))
	require.NoError(t, err)
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	require.NoError(t, answer.Body.Close())
	require.True(t, lines.Scan())
	assert.Contains(t, lines.Text(), "█", "a code for the camera")
}

// demonstrated starts the demo, and reads what it prints.
func demonstrated(t *testing.T, flags ...string) (lines *bufio.Scanner, stop func()) {
	cmd := exec.Command(built(t), append([]string{"demo", "--addr", "127.0.0.1:0"}, flags...)...)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	return bufio.NewScanner(out), func() { require.NoError(t, cmd.Process.Signal(os.Interrupt)); _ = cmd.Wait() }
}

// TestEncryptedOverTheNetwork: by an authority of Kolvan's own, whose fingerprint and certificate
// a device is shown before it is paired; plain text gets no answer, loopback stays as it is.
func TestEncryptedOverTheNetwork(t *testing.T) {
	own, err := ownAddresses()
	require.NoError(t, err)
	if len(own) == 0 {
		t.Skip("this machine has no address of its own")
	}
	data := filepath.Join(t.TempDir(), "k.db")
	lines, stop := demonstrated(t, "--lan", "--tls", "--data", data)
	defer stop()
	said := ""
	for lines.Scan() && !strings.Contains(lines.Text(), "/pair?invitation=") {
		said += lines.Text() + "\n"
	}
	authority, err := os.ReadFile(data + ".ca.crt")
	require.NoError(t, err)
	roots := x509.NewCertPool()
	require.True(t, roots.AppendCertsFromPEM(authority))
	browser := &http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots}}}
	get := func(client *http.Client, at string) (int, string) {
		answer, err := client.Get(at)
		require.NoError(t, err)
		defer answer.Body.Close()
		text, err := io.ReadAll(answer.Body)
		require.NoError(t, err)
		return answer.StatusCode, string(text)
	}
	at := regexp.MustCompile(`https://[^\s/]+`).FindString(said)
	status, page := get(browser, at+"/rigs/1/power")
	assert.Equal(t, http.StatusUnauthorized, status)
	print := regexp.MustCompile(`SHA-256 is (\S+)`).FindStringSubmatch(said)[1]
	assert.Contains(t, page, print)
	_, given := get(browser, at+"/ca.crt")
	assert.Equal(t, string(authority), given)
	_, err = http.Get(at)
	assert.ErrorContains(t, err, "certificate", "who did not take it in is warned")
	answer, err := http.Get("http://" + strings.TrimPrefix(at, "https://"))
	if err == nil {
		assert.NotEqual(t, http.StatusOK, answer.StatusCode, "plain text gets no page")
		require.NoError(t, answer.Body.Close())
	}
	status, _ = get(http.DefaultClient, regexp.MustCompile(`http://127[^\s]+`).FindString(said)+"/")
	assert.Equal(t, http.StatusOK, status)
	_, errs, code := kolvan(t, built(t), "", "demo", "--lan", "--cert", "x")
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, errs, "--cert and --key go together")
	_, errs, code = kolvan(t, built(t), "", "demo", "--addr", "127.0.0.1:0", "--cert", data, "--key", data)
	assert.Equal(t, exitWrong, code)
	assert.Contains(t, errs, "--cert and --key: ")
}

// TestProbeSendsToKolvan on this machine, which then has the host in its bins; to none, and to
// another machine, it does not.
func TestProbeSendsToKolvan(t *testing.T) {
	root := t.TempDir()
	require.NoError(t, os.MkdirAll(filepath.Join(root, "proc"), 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(root, "proc", "cpuinfo"), []byte("model name : Four cores\n"), 0o600))
	lines, stop := demonstrated(t)
	defer stop()
	require.True(t, lines.Scan())
	at := regexp.MustCompile(`127[^\s]+`).FindString(lines.Text())
	said, _ := succeeds(t, "probe", "--root", root, "--to", at)
	answer, err := http.Get(strings.TrimSpace(said))
	require.NoError(t, err)
	page, err := bodyOf(answer)
	require.NoError(t, err)
	assert.Contains(t, page, "Four cores")
	for to, says := range map[string]string{
		"192.0.2.7:8788": "on this machine", "8788": "on this machine", "127.0.0.1:1": "no Kolvan answers",
	} {
		code, _, said := call(t, "probe", "--root", root, "--to", to)
		assert.Equal(t, exitWrong, code)
		assert.Contains(t, said, says)
	}
}
