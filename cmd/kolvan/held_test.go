package main

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/png"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kolvan/core/rig"
	"kolvan/internal/oneseed"
)

// served starts the program on a data file and returns its address.
func served(t *testing.T, bin, data string) (*exec.Cmd, string) {
	cmd := exec.Command(bin, "demo", "--data", data, "--addr", "127.0.0.1:0")
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	t.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	require.NoError(t, err)
	return cmd, regexp.MustCompile(`http://\S+`).FindString(line)
}

// editor is a person at the pages of one rig.
type editor struct {
	*http.Client
	t              *testing.T
	address, token string
	rig            int
	page           string
	confirmed      int // the board power that was last answered for, W
}

func sitDown(t *testing.T, address string, rig int) *editor {
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	e := &editor{Client: &http.Client{Jar: jar, Timeout: time.Minute}, t: t, address: address, rig: rig}
	status, page := e.look(fmt.Sprintf("/rigs/%d/route", rig))
	require.Equal(t, http.StatusOK, status)
	e.page, e.token = page, regexp.MustCompile(`X-Csrf-Token":"([^"]+)"`).FindStringSubmatch(page)[1]
	return e
}

func (e *editor) look(path string) (int, string) {
	answer, err := e.Get(e.address + path)
	require.NoError(e.t, err)
	body, err := io.ReadAll(answer.Body)
	require.NoError(e.t, err)
	return answer.StatusCode, string(body)
}

// edit sets the card's board power; status 0 is no answer.
func (e *editor) edit(watts int) (status int, body string) {
	rev := regexp.MustCompile(`name="rev" value="([^"]+)"`).FindStringSubmatch(e.page)[1]
	form := url.Values{"rev": {rev}, "path": {"/card/power_w"}, "value": {fmt.Sprint(watts)}}
	r, err := http.NewRequest(http.MethodPost, fmt.Sprintf("%s/rigs/%d/set", e.address, e.rig), strings.NewReader(form.Encode()))
	require.NoError(e.t, err)
	r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	r.Header.Set("HX-Request", "true")
	r.Header.Set("X-Csrf-Token", e.token)
	answer, err := e.Do(r)
	if err != nil {
		return 0, err.Error()
	}
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		return 0, err.Error()
	}
	if answer.StatusCode == http.StatusOK {
		e.page, e.confirmed = string(text), watts
	}
	return answer.StatusCode, string(text)
}

// kept is the board power that the data file has of a rig, W.
func kept(t *testing.T, bin, data string, id int) int {
	out, errs, code := kolvan(t, bin, "", "export", "--data", data, fmt.Sprint(id))
	require.Equal(t, 0, code, errs)
	r, err := rig.Decode([]byte(out))
	require.NoError(t, err)
	return int(r.Card.Power.Value)
}

// TestKilledInTheMiddleOfEdits: what the screen had confirmed is there afterwards.
func TestKilledInTheMiddleOfEdits(t *testing.T) {
	bin, data := built(t), filepath.Join(t.TempDir(), "k.db")
	edits := 0
	rounds := oneseed.Hard(3, 150)
	for round := range rounds {
		cmd, address := served(t, bin, data)
		e := sitDown(t, address, 1)
		for i := range 1000 {
			status, body := e.edit(1 + (round*7+i)%900)
			if status == 0 {
				break
			}
			edits++
			require.Equal(t, http.StatusOK, status, body)
			if i == 0 {
				time.AfterFunc(100*time.Millisecond, func() { _ = cmd.Process.Kill() })
			}
		}
		next := e.confirmed%900 + 1
		assert.Contains(t, []int{e.confirmed, next}, kept(t, bin, data, 1), "the last one sent may be in")
	}
	t.Logf("%d kills, %d edits confirmed", rounds, edits)
}

// writers edit two rigs until they are told to stop, no faster than a busy script would: the
// commands read all changes. Every answer must be a page.
func writers(t *testing.T, address string) (list []*editor, stop func() int) {
	var going sync.WaitGroup
	var ended atomic.Bool
	var edits atomic.Int64
	for id := 1; id <= 2; id++ {
		e := sitDown(t, address, id)
		list = append(list, e)
		going.Go(func() {
			for i := 0; !ended.Load(); i++ {
				status, body := e.edit(1 + i%900)
				edits.Add(1)
				time.Sleep(20 * time.Millisecond)
				if !assert.Equal(t, http.StatusOK, status, body) {
					return
				}
			}
		})
	}
	return list, func() int {
		ended.Store(true)
		going.Wait()
		return int(edits.Load())
	}
}

// TestCommandsWhileKolvanServes, each many times under two writers, two at a time, and
// killed at any moment: it answers all the while, no confirmed edit is lost, an import
// stands on the bench at the next look, a backup is whole.
func TestCommandsWhileKolvanServes(t *testing.T) {
	bin, dir := built(t), t.TempDir()
	data := filepath.Join(dir, "k.db")
	cmd, address := served(t, bin, data)
	list, stop := writers(t, address)
	backups := 0
	commands := map[string]func() []string{
		"backup": func() []string {
			backups++
			return []string{"backup", "--data", data, filepath.Join(dir, fmt.Sprint("backup", backups))}
		},
		"export": func() []string { return []string{"export", "--data", data, "1"} },
		"all":    func() []string { return []string{"export", "--all", "--data", data} },
		"import": func() []string { return []string{"import", "--data", data, "../../demo/rigs/field_kit.json"} },
		"check":  func() []string { return []string{"check", "--data", data} },
	}
	person := sitDown(t, address, 3)
	onBench := func() int {
		status, page := person.look("/?q=Field")
		require.Equal(t, http.StatusOK, status)
		return strings.Count(page, `class="rig-line"`)
	}
	imports := onBench()
	for range oneseed.Hard(3, 9) {
		for name, args := range commands {
			_, errs, code := kolvan(t, bin, "", args()...)
			require.Equal(t, 0, code, "%s: %s", name, errs)
			if name == "import" {
				imports++
				require.Equal(t, min(imports, 24), onBench(), "at the next look")
			}
			for other := range commands { // two at once
				one, two := exec.Command(bin, args()...), exec.Command(bin, commands[other]()...)
				require.NoError(t, one.Start())
				assert.NoError(t, two.Run(), other)
				assert.NoError(t, one.Wait(), name)
				imports += strings.Count(name+other, "import")
				break
			}
		}
	}
	for moment := range oneseed.Hard(10, 10) {
		for name, args := range commands {
			killed := exec.Command(bin, args()...)
			require.NoError(t, killed.Start())
			time.Sleep(time.Duration(moment*60/oneseed.Hard(10, 10)) * time.Millisecond)
			_ = killed.Process.Kill()
			if killed.Wait() == nil && name == "import" {
				imports++
			}
		}
	}
	_, says, code := kolvan(t, bin, "", "restore", "--data", data, filepath.Join(dir, "backup1"))
	assert.Equal(t, 2, code)
	assert.Contains(t, says, "is served by another Kolvan")
	edits := stop()
	t.Logf("%d edits were confirmed meanwhile", edits)
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait()
	for _, e := range list {
		assert.Equal(t, e.confirmed, kept(t, bin, data, e.rig), "no confirmed edit is lost")
	}
	for _, file := range []string{data, filepath.Join(dir, "backup1"), filepath.Join(dir, "backup3")} {
		out, _, _ := kolvan(t, bin, "", "check", "--data", file)
		assert.Contains(t, out, "is whole")
	}
	_, address = served(t, bin, data)
	after := 0
	for page := 1; page < 40; page++ {
		_, text := sitDown(t, address, 1).look(fmt.Sprint("/?q=Field&page=", page))
		after += strings.Count(text, `class="rig-line"`)
	}
	assert.GreaterOrEqual(t, after, imports, "no import that said success is lost")
}

// TestMemoryComesBack after a burst of what is large: by make hard, for it waits.
func TestMemoryComesBack(t *testing.T) {
	if oneseed.Hard(1, 100) == 1 {
		t.Skip("by make hard")
	}
	cmd, address := served(t, built(t), filepath.Join(t.TempDir(), "k.db"))
	e := sitDown(t, address, 1)
	for range 20 {
		e.edit(120)
	}
	before := resident(t, cmd)
	var picture bytes.Buffer
	require.NoError(t, png.Encode(&picture, image.NewGray(image.Rect(0, 0, 7000, 7000))))
	capture := bytes.Repeat([]byte("16.6\n"), 8<<20)
	var all sync.WaitGroup
	most := atomic.Int64{}
	for range 8 {
		all.Go(func() { e.upload("/rigs/1/picture?step=card", "picture", picture.Bytes(), "") })
		all.Go(func() { e.upload("/rigs/1/look", "capture", capture, "") })
		all.Go(func() { e.upload("/import", "files", capture, "http://evil.example") })
	}
	watched := make(chan struct{})
	go func() {
		for {
			select {
			case <-watched:
				return
			case <-time.After(50 * time.Millisecond):
				most.Store(max(most.Load(), resident(t, cmd)))
			}
		}
	}()
	all.Wait()
	close(watched)
	time.Sleep(30 * time.Second)
	after := resident(t, cmd)
	t.Logf("%d MiB before, %d at the most, %d half a minute after", before>>20, most.Load()>>20, after>>20)
	assert.Less(t, after, before+(30<<20))
	assert.Less(t, most.Load(), before+(400<<20))
}

// upload sends a file, from a foreign page where an origin is told.
func (e *editor) upload(path, field string, file []byte, origin string) {
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	part, err := form.CreateFormFile(field, "a file")
	require.NoError(e.t, err)
	_, err = part.Write(file)
	require.NoError(e.t, errors.Join(err, form.Close()))
	r, err := http.NewRequest(http.MethodPost, e.address+path, &body)
	require.NoError(e.t, err)
	r.Header.Set("Content-Type", form.FormDataContentType())
	r.Header.Set("X-Csrf-Token", e.token)
	if origin != "" {
		r.Header.Set("Origin", origin)
	}
	if answer, err := e.Do(r); err == nil { // cut off, it was refused
		_ = answer.Body.Close()
	}
}

// resident is the memory a process has, in bytes.
func resident(t *testing.T, cmd *exec.Cmd) (bytes int64) {
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", cmd.Process.Pid))
	require.NoError(t, err)
	_, err = fmt.Sscanf(regexp.MustCompile(`VmRSS:\s+\d+`).FindString(string(status)), "VmRSS: %d", &bytes)
	require.NoError(t, err)
	return bytes << 10
}
