// Package pairing lets devices of the same network in: an invitation is good for one device and
// a few minutes, a device then has a secret of its own, from one address, until it is ended.
//
// Devices are kept in a file beside the data file, for its owner alone: their secrets as
// SHA-256, so that who reads the file gets in nowhere.
package pairing

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"kolvan/internal/whole"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"
)

// Rights are what a device may do.
type Rights string

// The rights, from the most to the least.
const (
	All   Rights = "all"
	Bench Rights = "bench" // steps, readings, log, pictures, finder: nothing is deleted, no part changed
	Look  Rights = "look"
)

// Known are the rights there are.
var Known = []Rights{All, Bench, Look}

// A Device is one that was paired.
type Device struct {
	ID      string    `json:"id"`
	Name    string    `json:"name"`
	Rights  Rights    `json:"rights"`
	Address string    `json:"address,omitzero"` // the only one it is let in from; "" for one that comes encrypted, from anywhere
	Secret  string    `json:"secret_sha256"`
	Paired  time.Time `json:"paired"`
	Used    time.Time `json:"used"`
}

// A Link opens the sheet of one rig, to look, until its day.
type Link struct {
	ID     string    `json:"id"`
	Name   string    `json:"name"` // of the rig, as it was called
	Rig    int64     `json:"rig"`
	Secret string    `json:"secret_sha256"`
	Until  time.Time `json:"until"`
}

// kept is the file.
type kept struct {
	Devices []Device `json:"devices"`
	Links   []Link   `json:"links,omitzero"`
}

// An invitation waits for one device.
type invitation struct {
	rights Rights
	until  time.Time
}

// How long an invitation is good, and what bounds guesses and lists.
const (
	InvitedFor  = 5 * time.Minute
	triesFor    = time.Minute
	mostTries   = 10
	mostInvited = 8
	mostDevices = 32
	mostName    = 60
	mostLinks   = 64
	day         = 24 * time.Hour
	longest     = 365 * day
	usedEvery   = time.Minute // how finely the last use is kept
)

// What a device that asks in is told.
var (
	ErrTries     = errors.New("too many tries: wait a minute")
	ErrInvited   = errors.New("this invitation was used, has run out, or never was: make a new one")
	ErrUnknown   = errors.New("this device is not paired")
	ErrElsewhere = errors.New("this device was paired from another address, or not over this sort of connection: pair it again")
	ErrShared    = errors.New("this link has run out, was ended, or never was")
	ErrFull      = fmt.Errorf("%d devices are paired: end one first", mostDevices)
)

// A Book keeps the devices. It may be used from several goroutines.
type Book struct {
	mu   sync.Mutex
	file string
	kept
	invited map[string]invitation
	tries   []time.Time
	now     func() time.Time
}

// Open reads the devices kept in a file, which need not be there yet.
func Open(file string) (*Book, error) {
	b := &Book{file: file, invited: map[string]invitation{}, now: time.Now}
	raw, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		return b, nil
	}
	if err == nil {
		err = json.Unmarshal(raw, &b.kept)
	}
	if err != nil {
		return nil, fmt.Errorf("the paired devices in %s: %w", file, err)
	}
	return b, nil
}

// random is 256 bits that nobody guesses, as text.
func random() string {
	raw := make([]byte, 32)
	_, _ = rand.Read(raw) // never fails
	return hex.EncodeToString(raw)
}

func hashed(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}

// Invite makes an invitation for one device; the oldest goes where too many wait.
func (b *Book) Invite(r Rights) (token string, until time.Time, err error) {
	if !slices.Contains(Known, r) {
		return "", time.Time{}, fmt.Errorf("rights %q are not accepted; accepted: all, bench or look", r)
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	oldest := ""
	for key, i := range b.invited {
		if b.now().After(i.until) {
			delete(b.invited, key)
		} else if oldest == "" || i.until.Before(b.invited[oldest].until) {
			oldest = key
		}
	}
	if len(b.invited) >= mostInvited {
		delete(b.invited, oldest)
	}
	token, until = random(), b.now().Add(InvitedFor)
	b.invited[hashed(token)] = invitation{r, until}
	return token, until, nil
}

// Pair takes an invitation and gives a device its secret. Every call is a try.
func (b *Book) Pair(token, name, address string) (secret string, err error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	b.tries = slices.DeleteFunc(b.tries, func(t time.Time) bool { return b.now().Sub(t) >= triesFor })
	if len(b.tries) >= mostTries {
		return "", ErrTries
	}
	b.tries = append(b.tries, b.now())
	key := hashed(token)
	i, waits := b.invited[key]
	if !waits || b.now().After(i.until) {
		return "", ErrInvited
	}
	if name = strings.TrimSpace(name); name == "" || len([]rune(name)) > mostName {
		return "", fmt.Errorf("a name of 1 to %d letters is accepted for the device", mostName)
	}
	if len(b.kept.Devices) >= mostDevices {
		return "", ErrFull
	}
	secret = random()
	paired := Device{ID: random()[:12], Name: name, Rights: i.rights, Address: address, Secret: hashed(secret), Paired: b.now(), Used: b.now()}
	if err := b.keep(append(slices.Clone(b.kept.Devices), paired)); err != nil {
		return "", err
	}
	delete(b.invited, key)
	return secret, nil
}

// Who is the device with a secret, at an address.
func (b *Book) Who(secret, address string) (Device, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	key := hashed(secret)
	i := slices.IndexFunc(b.kept.Devices, func(d Device) bool { return d.Secret == key })
	switch {
	case secret == "" || i < 0:
		return Device{}, ErrUnknown
	case b.kept.Devices[i].Address != address:
		return Device{}, ErrElsewhere
	}
	if b.now().Sub(b.kept.Devices[i].Used) >= usedEvery {
		used := slices.Clone(b.kept.Devices)
		used[i].Used = b.now()
		if err := b.keep(used); err != nil {
			return Device{}, err
		}
	}
	return b.kept.Devices[i], nil
}

// Devices lists the devices, the last used first.
func (b *Book) Devices() []Device {
	b.mu.Lock()
	defer b.mu.Unlock()
	list := slices.Clone(b.kept.Devices)
	slices.SortStableFunc(list, func(x, y Device) int { return y.Used.Compare(x.Used) })
	return list
}

// End lets a device in no more, or closes a link.
func (b *Book) End(id string) error {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.write(kept{
		slices.DeleteFunc(slices.Clone(b.kept.Devices), func(d Device) bool { return d.ID == id }),
		slices.DeleteFunc(slices.Clone(b.kept.Links), func(l Link) bool { return l.ID == id }),
	})
}

// Share makes a link to the sheet of a rig, good for so long.
func (b *Book) Share(rig int64, name string, lasts time.Duration) (token string, err error) {
	if lasts < day || lasts > longest {
		return "", fmt.Errorf("%v is not accepted; accepted: 1 to 365 days", lasts)
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	links := b.open()
	if len(links) >= mostLinks {
		return "", fmt.Errorf("%d links are open: end one first", mostLinks)
	}
	token = random()
	link := Link{ID: random()[:12], Name: name, Rig: rig, Secret: hashed(token), Until: b.now().Add(lasts)}
	return token, b.write(kept{b.kept.Devices, append(links, link)})
}

// open are the links that have not run out.
func (b *Book) open() []Link {
	return slices.DeleteFunc(slices.Clone(b.kept.Links), func(l Link) bool { return !b.now().Before(l.Until) })
}

// Links lists the links that are open.
func (b *Book) Links() []Link {
	b.mu.Lock()
	defer b.mu.Unlock()
	return b.open()
}

// Shared is the rig that a link opens.
func (b *Book) Shared(token string) (rig int64, err error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	key := hashed(token)
	for _, l := range b.open() {
		if l.Secret == key {
			return l.Rig, nil
		}
	}
	return 0, ErrShared
}

// keep writes the devices in one go; what could not be written does not count.
func (b *Book) keep(devices []Device) error { return b.write(kept{devices, b.kept.Links}) }

func (b *Book) write(next kept) error {
	raw, err := json.Marshal(next, jsontext.WithIndent("  "))
	if err != nil {
		return err
	}
	if err := whole.Write(b.file, append(raw, '\n'), 0o600); err != nil {
		return fmt.Errorf("keeping the paired devices: %w", err)
	}
	b.kept = next
	return nil
}
