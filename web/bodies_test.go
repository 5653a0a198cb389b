package web_test

import (
	"bufio"
	"fmt"
	"net"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestBodiesAreJudgedByTheirHeads: what no page of ours sends is refused before its body is
// there, what is too much is told, and so is that others send so much already.
func TestBodiesAreJudgedByTheirHeads(t *testing.T) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	addr := listener.Addr().String()
	app, _ := bench(t, addr)
	go func() { _ = app.Listener(listener, fiber.ListenConfig{DisableStartupMessage: true}) }()
	t.Cleanup(func() { _ = app.ShutdownWithTimeout(time.Second) })
	page, err := http.Get("http://" + addr + "/")
	require.NoError(t, err)
	cookie := strings.Split(page.Header.Get("Set-Cookie"), ";")[0]

	send := func(long int, body string, headers ...string) (net.Conn, func() *http.Response) {
		t.Helper()
		conn, err := net.Dial("tcp", addr)
		require.NoError(t, err)
		t.Cleanup(func() { _ = conn.Close() })
		require.NoError(t, conn.SetDeadline(time.Now().Add(time.Minute)))
		_, err = fmt.Fprintf(
			conn, "POST /import HTTP/1.1\r\nHost: %s\r\nContent-Type: multipart/form-data; boundary=b\r\n%s\r\n\r\n%s", addr,
			strings.Join(append([]string{fmt.Sprintf("Content-Length: %d", long)}, headers...), "\r\n"), body,
		)
		if err != nil {
			t.Log("the rest is not read:", err)
		}
		return conn, func() *http.Response {
			answer, err := http.ReadResponse(bufio.NewReader(conn), nil)
			if err != nil {
				return &http.Response{} // cut off
			}
			return answer
		}
	}
	start := "--b\r\nContent-Disposition: form-data; name=\"files\"; filename=\"a\"\r\n\r\n" + strings.Repeat(
		"x",
		16<<10,
	) // of a body whose rest does not come
	for name, c := range map[string]struct {
		headers []string
		status  int
	}{
		"a foreign page":   {[]string{"Cookie: " + cookie, "Origin: http://evil.example"}, http.StatusForbidden},
		"a foreign site":   {[]string{"Cookie: " + cookie, "Sec-Fetch-Site: cross-site"}, http.StatusForbidden},
		"no page of ours":  {nil, http.StatusForbidden},
		"a made-up cookie": {[]string{"Cookie: " + strings.Split(cookie, "=")[0] + "=made-up"}, http.StatusForbidden},
	} {
		_, answer := send(40<<20, start, c.headers...)
		got := answer()
		assert.Equal(t, c.status, got.StatusCode, name)
		assert.True(t, got.Close, "%s: nothing more is read", name)
	}
	foreign, err := net.Dial("tcp", addr)
	require.NoError(t, err)
	_, err = fmt.Fprintf(foreign, "POST /import HTTP/1.1\r\nHost: evil.example\r\nContent-Length: %d\r\n\r\n%s", 40<<20, start)
	require.NoError(t, err)
	answer, err := http.ReadResponse(bufio.NewReader(foreign), nil)
	require.NoError(t, err)
	assert.Equal(t, http.StatusMisdirectedRequest, answer.StatusCode)

	_, large := send(49<<20, strings.Repeat("x", 49<<20), "Cookie: "+cookie)
	assert.Equal(t, http.StatusRequestEntityTooLarge, large().StatusCode)
	unknown, err := net.Dial("tcp", addr)
	require.NoError(t, err)
	_, err = fmt.Fprintf(
		unknown,
		"POST /rigs HTTP/1.1\r\nHost: %s\r\nContent-Type: application/x-www-form-urlencoded\r\nTransfer-Encoding: chunked\r\n\r\n",
		addr,
	)
	require.NoError(t, err)
	told, err := http.ReadResponse(bufio.NewReader(unknown), nil)
	require.NoError(t, err)
	assert.Equal(t, http.StatusLengthRequired, told.StatusCode)

	first, _ := send(40<<20, start, "Cookie: "+cookie)
	second, _ := send(40<<20, start, "Cookie: "+cookie)
	third := func() (status int, again string) {
		_, answer := send(40<<20, strings.Repeat("x", 40<<20), "Cookie: "+cookie)
		got := answer()
		return got.StatusCode, got.Header.Get("Retry-After")
	}
	require.Eventually(t, func() bool {
		status, again := third()
		return status == http.StatusServiceUnavailable && again == "1"
	}, 20*time.Second, 50*time.Millisecond, "others send 80 MiB already")
	small, err := http.Get("http://" + addr + "/rigs/1/route")
	require.NoError(t, err)
	assert.Equal(t, http.StatusOK, small.StatusCode, "and all else is answered")
	require.NoError(t, first.Close())
	require.NoError(t, second.Close())
	require.Eventually(t, func() bool {
		status, _ := third()
		return status != http.StatusServiceUnavailable // let in, and found to be no form
	}, 20*time.Second, 50*time.Millisecond)
}
