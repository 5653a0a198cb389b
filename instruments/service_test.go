package instruments

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"net"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/proof"
)

// TestOneProtocol: on one call all instruments answer by their names, each request ends
// with ok or an error that says what is accepted, and the meter shows its figures between
// what the others say; a run is played live as it is written, and a caller who leaves or
// a service that ends leaves nothing running.
func TestOneProtocol(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan error, 1)
	go func() { ended <- Serve(ctx, on) }()
	conn, err := net.Dial("tcp", on.Addr().String())
	require.NoError(t, err)
	require.NoError(t, conn.SetDeadline(time.Now().Add(time.Minute)))
	lines := bufio.NewScanner(conn)
	require.True(t, lines.Scan())
	assert.Equal(t, "kolvan-instruments/1 meter probe frames", lines.Text())
	said := map[string]*strings.Builder{"meter": {}, "probe": {}, "frames": {}}
	ask := func(request string) (end string) {
		_, err := fmt.Fprintln(conn, request)
		require.NoError(t, err)
		for lines.Scan() {
			name, text, _ := strings.Cut(lines.Text(), " ")
			if said[name] == nil {
				return lines.Text()
			}
			said[name].WriteString(text + "\n")
		}
		return "hung up"
	}
	for request, why := range map[string]string{
		"": `"" is no instrument; there are meter, probe, frames`, "kettle boil": `"kettle" is no instrument`,
		"meter load full": "begin with play", "meter play idle=9": "play wants idle", "probe list": "list wants load",
		"frames play something": "play wants style",
		"frames play style=pie seconds=1 processor_ms=1 card_ms=1 link_ms=1 cap_ms=0 soak=0 seed=1 times=1": "no style",
	} {
		end := ask(request)
		assert.True(t, strings.HasPrefix(end, "error ") && strings.Contains(end, why), "%s: %s", request, end)
	}
	assert.Equal(t, "ok", ask("meter play idle=40 loaded=160 spike=300 trips=0 seed=7"))
	assert.Empty(t, said["meter"].String(), "nobody watches")
	assert.Equal(t, "ok", ask("meter watch"))
	assert.Equal(t, "ok", ask("probe list load=loaded fault=none port=x4/3 card=x8/4 link=x4/3 payload=128"))
	var listing bytes.Buffer
	require.NoError(
		t,
		WriteListing(&listing, Bus{PortLanes: 4, PortGen: 3, CardLanes: 8, CardGen: 4, Lanes: 4, Gen: 3, Payload: 128}, "loaded", "none"),
	)
	assert.Equal(t, listing.String(), said["probe"].String())
	assert.Equal(t, "ok", ask("frames play style=stamps seconds=12 processor_ms=10 card_ms=5 link_ms=1 cap_ms=0 soak=0 seed=9 times=20"))
	var table bytes.Buffer
	require.NoError(t, WriteFrames(&table, FrameSource{Terms: proof.Terms{C: 10, G: 5, L: 1}, Seconds: 12, Seed: 9}, "stamps"))
	assert.Equal(t, table.String(), said["frames"].String(), "the same seed, the same frames")
	assert.Regexp(t, `^0\.000 \d+\.\d\n0\.200 \d+\.\d\n`, said["meter"].String(), "shown while frames were played")
	stop()
	require.NoError(t, <-ended)
	for lines.Scan() { // a figure may be on its way
	}
	assert.NoError(t, lines.Err(), "and the call is over")
}

// faulty is a listener whose first calls cannot be taken, as when no file handle is left.
type faulty struct {
	net.Listener
	fails int
}

func (f *faulty) Accept() (net.Conn, error) {
	if f.fails > 0 {
		f.fails--
		return nil, syscall.EMFILE
	}
	return f.Listener.Accept()
}

// TestServiceGoesOn after calls that could not be taken, and takes no more than it can stand;
// a place that gets free is given away again.
func TestServiceGoesOn(t *testing.T) {
	on, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	go func() { _ = Serve(t.Context(), &faulty{on, 2}) }()
	hello := func() (net.Conn, string) {
		conn, err := net.Dial("tcp", on.Addr().String())
		require.NoError(t, err)
		require.NoError(t, conn.SetDeadline(time.Now().Add(time.Minute)))
		line, err := bufio.NewReader(conn).ReadString('\n')
		require.NoError(t, err)
		return conn, line
	}
	var callers []net.Conn
	for range mostCallers {
		conn, line := hello()
		assert.Contains(t, line, Protocol)
		callers = append(callers, conn)
	}
	_, line := hello()
	assert.Equal(t, "error 64 callers are here already; call later\n", line)
	require.NoError(t, callers[0].Close())
	require.Eventually(t, func() bool {
		_, line := hello()
		return strings.Contains(line, Protocol)
	}, time.Minute, 10*time.Millisecond)
}
