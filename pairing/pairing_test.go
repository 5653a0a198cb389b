package pairing

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// book is a book whose clock stands until it is moved on.
func book(t *testing.T) (b *Book, later func(time.Duration), file string) {
	file = filepath.Join(t.TempDir(), "k.db.kept.Devices")
	b, err := Open(file)
	require.NoError(t, err)
	at := time.Date(2026, 12, 1, 20, 0, 0, 0, time.UTC)
	b.now = func() time.Time { return at }
	return b, func(d time.Duration) { at = at.Add(d) }, file
}

func invited(t *testing.T, b *Book, r Rights) string {
	token, _, err := b.Invite(r)
	require.NoError(t, err)
	return token
}

// TestADeviceIsPairedOnce: an invitation is good for one device, for five minutes, and what it
// gives is kept for its owner alone.
func TestADeviceIsPairedOnce(t *testing.T) {
	b, later, file := book(t)
	token := invited(t, b, Bench)
	_, err := b.Pair(token, " ", "192.0.2.7")
	assert.ErrorContains(t, err, "a name of 1 to")
	secret, err := b.Pair(token, "telephone", "192.0.2.7")
	require.NoError(t, err, "a wrong name costs no invitation")
	_, err = b.Pair(token, "another", "192.0.2.8")
	assert.ErrorIs(t, err, ErrInvited, "replayed")
	late := invited(t, b, Look)
	later(InvitedFor + 1)
	_, err = b.Pair(late, "late", "192.0.2.7")
	assert.ErrorIs(t, err, ErrInvited)

	d, err := b.Who(secret, "192.0.2.7")
	require.NoError(t, err)
	assert.Equal(t, Bench, d.Rights)
	for _, guess := range []string{"", "x", d.Secret, d.ID} {
		_, err = b.Who(guess, "192.0.2.7")
		assert.ErrorIs(t, err, ErrUnknown)
	}
	_, err = b.Who(secret, "192.0.2.9")
	assert.ErrorIs(t, err, ErrElsewhere, "stolen")

	raw, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.NotContains(t, string(raw), secret)
	info, err := os.Stat(file)
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o600), info.Mode().Perm())
	again, err := Open(file)
	require.NoError(t, err)
	_, err = again.Who(secret, "192.0.2.7")
	require.NoError(t, err, "it is known after a restart")
	require.NoError(t, b.End(d.ID))
	_, err = b.Who(secret, "192.0.2.7")
	assert.ErrorIs(t, err, ErrUnknown, "ended")
	assert.Empty(t, b.Devices())
	_, _, err = b.Invite("everything")
	assert.ErrorContains(t, err, "all, bench or look")
}

// TestOverAnEncryptedConnection a device comes from anywhere, and by no other sort.
func TestOverAnEncryptedConnection(t *testing.T) {
	b, _, _ := book(t)
	secret, err := b.Pair(invited(t, b, All), "telephone", "")
	require.NoError(t, err)
	_, err = b.Who(secret, "")
	require.NoError(t, err)
	_, err = b.Who(secret, "192.0.2.7")
	assert.ErrorIs(t, err, ErrElsewhere, "a downgrade")
	plain, err := b.Pair(invited(t, b, All), "telephone", "192.0.2.7")
	require.NoError(t, err)
	_, err = b.Who(plain, "")
	assert.ErrorIs(t, err, ErrElsewhere, "its secret was overheard perhaps")
}

// TestLinksToOneSheet open that sheet alone, until they run out or are ended.
func TestLinksToOneSheet(t *testing.T) {
	b, later, file := book(t)
	token, err := b.Share(7, "the wall", 24*time.Hour)
	require.NoError(t, err)
	again, err := Open(file)
	require.NoError(t, err)
	again.now = b.now
	rig, err := again.Shared(token)
	require.NoError(t, err, "it is known after a restart")
	assert.EqualValues(t, 7, rig)
	_, err = b.Shared("guess")
	assert.ErrorIs(t, err, ErrShared)
	assert.Equal(t, "the wall", b.Links()[0].Name)
	later(24 * time.Hour)
	_, err = b.Shared(token)
	assert.ErrorIs(t, err, ErrShared, "its day is over")
	_, err = b.Share(7, "x", 0)
	assert.ErrorContains(t, err, "1 to 365 days")
	_, err = b.Share(7, "x", 366*24*time.Hour)
	assert.ErrorContains(t, err, "1 to 365 days")
	assert.Empty(t, b.Links(), "what ran out goes when it is looked through")
	token, err = b.Share(8, "x", 24*time.Hour)
	require.NoError(t, err)
	require.NoError(t, b.End(b.Links()[0].ID))
	_, err = b.Shared(token)
	assert.ErrorIs(t, err, ErrShared, "ended")
}

// TestGuessesAreFew: ten tries a minute in all, right ones too.
func TestGuessesAreFew(t *testing.T) {
	b, later, _ := book(t)
	token := invited(t, b, All)
	for range mostTries {
		_, err := b.Pair("guess", "x", "192.0.2.7")
		assert.ErrorIs(t, err, ErrInvited)
	}
	_, err := b.Pair(token, "x", "192.0.2.7")
	assert.ErrorIs(t, err, ErrTries)
	later(triesFor)
	_, err = b.Pair(token, "x", "192.0.2.7")
	require.NoError(t, err)
}

// TestListsAreBounded: the oldest invitation goes, and a device too many is refused.
func TestListsAreBounded(t *testing.T) {
	b, later, _ := book(t)
	first := invited(t, b, All)
	for range mostInvited {
		later(time.Second)
		invited(t, b, All)
	}
	assert.Len(t, b.invited, mostInvited)
	_, err := b.Pair(first, "x", "192.0.2.7")
	assert.ErrorIs(t, err, ErrInvited)
	for range mostDevices {
		later(triesFor)
		_, err = b.Pair(invited(t, b, Look), "x", "192.0.2.7")
		require.NoError(t, err)
	}
	later(triesFor)
	_, err = b.Pair(invited(t, b, Look), "x", "192.0.2.7")
	assert.ErrorIs(t, err, ErrFull)
	b.kept.Devices = b.kept.Devices[:1]
	b.file = filepath.Join(t.TempDir(), "gone", "k")
	_, err = b.Pair(invited(t, b, Look), "x", "192.0.2.7")
	assert.ErrorContains(t, err, "keeping the paired devices")
	assert.Len(t, b.kept.Devices, 1, "what could not be kept does not count")
}

// TestLastUse is kept by the minute.
func TestLastUse(t *testing.T) {
	b, later, _ := book(t)
	secret, err := b.Pair(invited(t, b, All), "x", "192.0.2.7")
	require.NoError(t, err)
	paired := b.kept.Devices[0].Used
	later(usedEvery - 1)
	d, err := b.Who(secret, "192.0.2.7")
	require.NoError(t, err)
	assert.Equal(t, paired, d.Used)
	later(1)
	d, err = b.Who(secret, "192.0.2.7")
	require.NoError(t, err)
	assert.Equal(t, paired.Add(usedEvery), d.Used)
	_, err = Open(t.TempDir())
	assert.Error(t, err)
}

// TestCodes have three corners to be found by, and a margin.
func TestCodes(t *testing.T) {
	drawn, err := Draw("http://192.0.2.7:8788/pair?invitation=" + strings.Repeat("a", 64))
	require.NoError(t, err)
	assert.Contains(t, drawn.Path, "M4 4h1v1h-1zM5 4h1v1h-1zM6 4h1v1h-1z")
	assert.Greater(t, drawn.Side, 21+2*quiet)
	text, err := Print("http://192.0.2.7:8788/")
	require.NoError(t, err)
	lines := strings.Split(strings.TrimSuffix(text, "\n"), "\n")
	assert.Equal(t, len([]rune(lines[0])), 2*len(lines)-1)
	_, err = Draw(strings.Repeat("long", 1000))
	assert.Error(t, err)
	_, err = Print(strings.Repeat("long", 1000))
	assert.Error(t, err)
}
