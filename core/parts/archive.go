package parts

import (
	"archive/zip"
	"bytes"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"kolvan/core/rig"
)

// An Archive is several parts in one file: a zip that holds each as kolvan-part/1, the list of
// their checksums as sha256sum writes it, and, where it is signed, who signed that list.
type Archive struct {
	Files  []File
	Signed *Signature // nil for one that nobody signed

	named map[string][]byte // by their names in the archive
	sums  []byte
}

// A Signature is an Ed25519 signature (RFC 8032) over the archive's list of checksums.
type Signature struct {
	Format    string `json:"format"`
	By        string `json:"by"`        // a name of the sender's choice: the key alone tells who it is
	Key       string `json:"key"`       // the public key, base64
	Signature string `json:"signature"` // base64
}

// SignatureFormat is the format word of a signature.
const SignatureFormat = "kolvan-signature/1"

// What stands in an archive beside the parts, and what bounds it.
const (
	sumsFile      = "checksums.txt"
	signatureFile = "signature.json"
	mostParts     = 256
	mostArchive   = 32 << 20 // bytes, opened
	mostBy        = 100      // letters of a sender's name
)

var partFile = regexp.MustCompile(`^parts/[a-z0-9-]{1,80}\.json$`)

// IsArchive reports a file that begins as a zip does.
func IsArchive(raw []byte) bool { return bytes.HasPrefix(raw, []byte("PK\x03\x04")) }

// ArchiveOf puts parts together, unsigned.
func ArchiveOf(files []File) (*Archive, error) {
	if len(files) == 0 || len(files) > mostParts {
		return nil, &rig.FieldError{Path: "/parts", Value: fmt.Sprint(len(files)), Accepts: fmt.Sprintf("1 to %d parts", mostParts)}
	}
	a := &Archive{Files: files, named: map[string][]byte{}}
	for i := range files {
		raw, err := json.Marshal(&files[i], jsontext.WithIndent("  "))
		if err != nil {
			return nil, fmt.Errorf("part %d: %w", i+1, err)
		}
		a.named[fmt.Sprintf("parts/%03d-%s.json", i+1, files[i].Kind)] = append(raw, '\n')
	}
	a.sums = sumsOf(a.named)
	return a, nil
}

// sumsOf is the list of checksums, in the order of the names.
func sumsOf(named map[string][]byte) []byte {
	var list []byte
	for _, name := range sorted(named) {
		list = fmt.Appendf(list, "%x  %s\n", sha256.Sum256(named[name]), name)
	}
	return list
}

func sorted(named map[string][]byte) (names []string) {
	for name := range named {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// Sign signs the list of checksums, in place of who did so before.
func (a *Archive) Sign(key ed25519.PrivateKey, by string) error {
	if by = strings.TrimSpace(by); by == "" || len([]rune(by)) > mostBy {
		return &rig.FieldError{Path: "/by", Value: fmt.Sprintf("%q", by), Accepts: fmt.Sprintf("a name of 1 to %d letters", mostBy)}
	}
	public, is := key.Public().(ed25519.PublicKey)
	if !is {
		return errors.New("the key is no Ed25519 key")
	}
	a.Signed = &Signature{
		SignatureFormat, by, base64.StdEncoding.EncodeToString(public), base64.StdEncoding.EncodeToString(ed25519.Sign(key, a.sums)),
	}
	return nil
}

// Write writes the archive: the same bytes for the same parts.
func (a *Archive) Write(to io.Writer) error {
	z := zip.NewWriter(to)
	add := func(name string, raw []byte) error {
		w, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Deflate})
		if err != nil {
			return err
		}
		_, err = w.Write(raw)
		return err
	}
	var faults []error
	for _, name := range sorted(a.named) {
		faults = append(faults, add(name, a.named[name]))
	}
	faults = append(faults, add(sumsFile, a.sums))
	if a.Signed != nil {
		raw, err := json.Marshal(a.Signed, jsontext.WithIndent("  "))
		faults = append(faults, err, add(signatureFile, append(raw, '\n')))
	}
	return errors.Join(append(faults, z.Close())...)
}

// ReadArchive reads an archive and refuses one whose checksums, or whose signature, do not match,
// or that holds anything else. Whose key signed it is for the reader to know.
func ReadArchive(raw []byte) (*Archive, error) {
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		return nil, fmt.Errorf("an archive of parts, a zip, is accepted: %w", err)
	}
	if len(z.File) > mostParts+2 {
		return nil, fmt.Errorf("%d files; accepted: at most %d parts", len(z.File), mostParts)
	}
	a := &Archive{named: map[string][]byte{}}
	var signature []byte
	left := int64(mostArchive)
	for _, f := range z.File {
		text, err := opened(f, min(left, rig.MaxFile))
		if err != nil {
			return nil, err
		}
		left -= int64(len(text))
		switch {
		case f.Name == sumsFile && a.sums == nil:
			a.sums = text
		case f.Name == signatureFile && signature == nil:
			signature = text
		case partFile.MatchString(f.Name) && a.named[f.Name] == nil:
			a.named[f.Name] = text
		default:
			return nil, fmt.Errorf("%q stands in it; accepted: each part once, as parts/NAME.json, %s and %s", f.Name, sumsFile, signatureFile)
		}
	}
	if err := a.check(); err != nil {
		return nil, err
	}
	if signature != nil {
		err = a.verify(signature)
	}
	return a, err
}

// opened is what a file of an archive holds, whatever size it claims to have.
func opened(f *zip.File, most int64) ([]byte, error) {
	r, err := f.Open()
	if err != nil {
		return nil, fmt.Errorf("%q: %w", f.Name, err)
	}
	defer r.Close()
	text, err := io.ReadAll(io.LimitReader(r, most+1))
	switch {
	case err != nil:
		return nil, fmt.Errorf("%q: %w", f.Name, err)
	case int64(len(text)) > most:
		return nil, fmt.Errorf("%q is larger than an archive of parts may hold", f.Name)
	}
	return text, nil
}

// check reads the parts and holds their checksums against the list.
func (a *Archive) check() error {
	if len(a.named) == 0 {
		return errors.New("no part stands in it; accepted: at least one, as parts/NAME.json")
	}
	told := map[string]string{}
	for line := range strings.Lines(string(a.sums)) {
		sum, name, cut := strings.Cut(strings.TrimSuffix(line, "\n"), "  ")
		if !cut || told[name] != "" {
			return fmt.Errorf("%s: %q is no line of a checksum and a name", sumsFile, line)
		}
		told[name] = sum
	}
	for _, name := range sorted(a.named) {
		sum := sha256.Sum256(a.named[name])
		if told[name] != hex.EncodeToString(sum[:]) {
			return fmt.Errorf("%s is not what its checksum says: the archive was damaged or changed", name)
		}
		file, err := ReadFile(a.named[name])
		if err != nil {
			return fmt.Errorf("%s: %w", name, err)
		}
		a.Files = append(a.Files, *file)
	}
	if len(told) != len(a.named) {
		return fmt.Errorf("%s names %d files, and %d stand in the archive", sumsFile, len(told), len(a.named))
	}
	return nil
}

// verify holds a signature against the list of checksums.
func (a *Archive) verify(raw []byte) error {
	s := &Signature{}
	if err := json.Unmarshal(raw, s, json.RejectUnknownMembers(true)); err != nil {
		return fmt.Errorf("%s: %w", signatureFile, err)
	}
	key, badKey := base64.StdEncoding.DecodeString(s.Key)
	sign, badSign := base64.StdEncoding.DecodeString(s.Signature)
	switch {
	case s.Format != SignatureFormat:
		return &rig.FieldError{Path: "/format", Value: fmt.Sprintf("%q", s.Format), Accepts: SignatureFormat}
	case s.By == "" || len([]rune(s.By)) > mostBy:
		return &rig.FieldError{Path: "/by", Value: fmt.Sprintf("%q", s.By), Accepts: fmt.Sprintf("a name of 1 to %d letters", mostBy)}
	case badKey != nil || badSign != nil || len(key) != ed25519.PublicKeySize:
		return &rig.FieldError{Path: "/key", Value: fmt.Sprintf("%q", s.Key), Accepts: "an Ed25519 key and its signature, base64"}
	case !ed25519.Verify(key, a.sums, sign):
		return errors.New("the signature does not match: the parts, or the list of their checksums, were changed after it was signed")
	}
	a.Signed = s
	return nil
}
