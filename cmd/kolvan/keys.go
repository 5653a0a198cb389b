package main

import (
	"bytes"
	"crypto/ed25519"
	"crypto/rand"
	"encoding/base64"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/parts"
	"kolvan/internal/whole"
)

// One's own key lies beside the data file, for its owner alone to read; so do the keys of those
// whose parts one takes.
const (
	keySuffix     = ".key"
	sendersSuffix = ".senders"
	ownerOnly     = 0o600
)

// ownKey is the key that signs what one sends, made when it is first wanted.
func (d *data) ownKey() (ed25519.PrivateKey, error) {
	file, err := d.path()
	if err != nil {
		return nil, err
	}
	file += keySuffix
	raw, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		return newKey(file)
	}
	if err != nil {
		return nil, err
	}
	seed, err := base64.StdEncoding.DecodeString(string(bytes.TrimSpace(raw)))
	if err != nil || len(seed) != ed25519.SeedSize {
		return nil, fmt.Errorf("%s is no key; accepted: %d bytes, base64. Put it back from a backup, or move it away and a new one is made",
			file, ed25519.SeedSize)
	}
	return ed25519.NewKeyFromSeed(seed), nil
}

// newKey keeps a new key; one that is there is never overwritten.
func newKey(file string) (ed25519.PrivateKey, error) {
	_, key, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return nil, err
	}
	w, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, ownerOnly)
	if err != nil {
		return nil, err
	}
	_, err = fmt.Fprintln(w, base64.StdEncoding.EncodeToString(key.Seed()))
	return key, errors.Join(err, w.Sync(), w.Close())
}

// A sender is somebody whose parts are taken, by the key.
type sender struct {
	Key string `json:"key"`
	By  string `json:"by"` // as the sender was called when the key was taken
}

func (d *data) senders() (list []sender, file string, err error) {
	if file, err = d.path(); err != nil {
		return nil, "", err
	}
	file += sendersSuffix
	raw, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, file, nil
	}
	if err != nil {
		return nil, file, err
	}
	if err := json.Unmarshal(raw, &list); err != nil {
		return nil, file, fmt.Errorf("%s: %w", file, err)
	}
	return list, file, nil
}

// standing is what is known of who signed an archive; known is false for a key never taken.
func (d *data) standing(s *parts.Signature) (words string, known bool, err error) {
	if s == nil {
		return "not signed", true, nil
	}
	list, _, err := d.senders()
	if err != nil {
		return "", false, err
	}
	own, err := d.isOwn(s.Key)
	if err != nil || own {
		return "signed with your own key, as " + s.By, true, err
	}
	for _, known := range list {
		if known.Key == s.Key {
			words = "signed by " + s.By + ", whose key is known"
			if known.By != s.By {
				words += " as that of " + known.By
			}
			return words, true, nil
		}
	}
	return fmt.Sprintf("signed as %s, with a key that is not known here: %s", s.By, s.Key), false, nil
}

// isOwn reports one's own key; none is made for the asking.
func (d *data) isOwn(public string) (bool, error) {
	file, err := d.path()
	if err != nil {
		return false, err
	}
	if _, err := os.Stat(file + keySuffix); err != nil {
		return false, nil
	}
	key, err := d.ownKey()
	if err != nil {
		return false, err
	}
	own, is := key.Public().(ed25519.PublicKey)
	return is && base64.StdEncoding.EncodeToString(own) == public, nil
}

// take keeps a sender's key.
func (d *data) take(s *parts.Signature) error {
	list, file, err := d.senders()
	if err != nil {
		return err
	}
	raw, err := json.Marshal(append(list, sender{s.Key, strings.TrimSpace(s.By)}), jsontext.WithIndent("  "))
	if err != nil {
		return err
	}
	return whole.Write(file, raw, ownerOnly)
}
