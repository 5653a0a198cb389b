package pairing

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"os"
	"slices"
	"strings"
	"sync"
	"time"
)

// An Authority signs certificates for the addresses of one Kolvan. It is made once and lies
// beside the data file, its key for its owner alone; devices take its certificate in and trust
// what it signs, which is never more than a server's own addresses.
type Authority struct {
	cert *x509.Certificate
	key  *ecdsa.PrivateKey
	now  func() time.Time

	mu    sync.Mutex
	names []string
	leaf  *tls.Certificate
}

// How long certificates are good: the authority's for ten years, a server's for ninety days, of
// which the last third is for renewing it.
const (
	authorityLife = 10 * 365 * 24 * time.Hour
	serverLife    = 90 * 24 * time.Hour
	backdated     = time.Hour // for clocks that are late
)

// OpenAuthority reads the authority kept as file.crt and file.key, or makes it.
func OpenAuthority(file string) (*Authority, error) {
	a := &Authority{now: time.Now}
	pair, err := tls.LoadX509KeyPair(file+".crt", file+".key")
	switch {
	case errors.Is(err, fs.ErrNotExist):
		if err := a.found(file); err != nil {
			return nil, fmt.Errorf("making the certificate authority %s.crt and %s.key: %w; where one of the two lies there, put the other back",
				file, file, err)
		}
		return a, nil
	case err != nil:
		return nil, fmt.Errorf("the certificate authority %s.crt and %s.key: %w", file, file, err)
	}
	key, is := pair.PrivateKey.(*ecdsa.PrivateKey)
	if a.cert, err = x509.ParseCertificate(pair.Certificate[0]); err != nil || !is || !a.cert.IsCA {
		return nil, fmt.Errorf("%s.crt and %s.key are no certificate authority of Kolvan's: %w", file, file, err)
	}
	a.key = key
	return a, nil
}

// found makes the authority and keeps it; neither of its files is overwritten.
func (a *Authority) found(file string) (err error) {
	if a.key, err = ecdsa.GenerateKey(elliptic.P256(), rand.Reader); err != nil {
		return err
	}
	host, _ := os.Hostname() // where it tells none, the name stays shorter
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: strings.TrimSpace("Kolvan on " + host)}, NotBefore: a.now().Add(-backdated),
		NotAfter: a.now().Add(authorityLife), IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true,
		KeyUsage: x509.KeyUsageCertSign | x509.KeyUsageDigitalSignature,
	}
	der, err := x509.CreateCertificate(rand.Reader, template, template, a.key.Public(), a.key)
	if err != nil {
		return err
	}
	if a.cert, err = x509.ParseCertificate(der); err != nil {
		return err
	}
	raw, err := x509.MarshalECPrivateKey(a.key)
	if err != nil {
		return err
	}
	return errors.Join(keepPEM(file+".key", "EC PRIVATE KEY", raw, 0o600), keepPEM(file+".crt", "CERTIFICATE", der, 0o644))
}

func keepPEM(file, kind string, der []byte, mode os.FileMode) error {
	w, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, mode)
	if err != nil {
		return err
	}
	return errors.Join(pem.Encode(w, &pem.Block{Type: kind, Bytes: der}), w.Sync(), w.Close())
}

func serial() *big.Int {
	n, _ := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120)) // never fails
	return n
}

// Certificate is the authority's own, for a device to take in (PEM).
func (a *Authority) Certificate() []byte {
	return pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: a.cert.Raw})
}

// Fingerprint is the SHA-256 of that certificate, as devices show it.
func (a *Authority) Fingerprint() string {
	sum := sha256.Sum256(a.cert.Raw)
	pairs := make([]string, len(sum))
	for i, b := range sum {
		pairs[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(pairs, ":")
}

// For names the addresses, host:port or host, that certificates are for from now on.
func (a *Authority) For(hosts []string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	for _, host := range hosts {
		name, _, err := net.SplitHostPort(host)
		if err != nil {
			name = strings.Trim(host, "[]")
		}
		if !slices.Contains(a.names, name) {
			a.names, a.leaf = append(a.names, name), nil
		}
	}
}

// Config serves with a certificate for the addresses in use, made anew before it runs out.
func (a *Authority) Config() *tls.Config {
	return &tls.Config{MinVersion: tls.VersionTLS12, GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate,
		error) {
		return a.current()
	}}
}

func (a *Authority) current() (*tls.Certificate, error) {
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.leaf != nil && a.now().Before(a.leaf.Leaf.NotAfter.Add(-serverLife/3)) {
		return a.leaf, nil
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	template := &x509.Certificate{
		SerialNumber: serial(), Subject: pkix.Name{CommonName: "Kolvan"}, NotBefore: a.now().Add(-backdated), NotAfter: a.now().Add(serverLife),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth}, BasicConstraintsValid: true,
	}
	for _, name := range a.names {
		if ip := net.ParseIP(name); ip != nil {
			template.IPAddresses = append(template.IPAddresses, ip)
		} else {
			template.DNSNames = append(template.DNSNames, name)
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, template, a.cert, key.Public(), a.key)
	if err != nil {
		return nil, fmt.Errorf("signing a certificate for %s: %w", strings.Join(a.names, ", "), err)
	}
	leaf, err := x509.ParseCertificate(der)
	if err != nil {
		return nil, err
	}
	a.leaf = &tls.Certificate{Certificate: [][]byte{der, a.cert.Raw}, PrivateKey: key, Leaf: leaf}
	return a.leaf, nil
}
