// Package certs makes what a server in a firm's own network shows to be trusted: a local authority,
// made once, and a certificate by it for the names and addresses of the machine, which it renews.
package certs

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
	"math/big"
	"net"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

const (
	authorityFor   = 10 * 365 * 24 * time.Hour
	certificateFor = 397 * 24 * time.Hour // browsers take none that is good for longer
	renewBefore    = 30 * 24 * time.Hour
	early          = time.Hour // clocks of devices that go slow

	authorityFile, authorityKey     = "authority.crt", "authority.key"
	certificateFile, certificateKey = "server.crt", "server.key"
)

// Local is the authority of one machine with its certificate.
type Local struct {
	Authority   []byte // its certificate, PEM: what devices are to trust
	Fingerprint string // SHA-256 of it, as devices show it

	folder string
	names  []string
	now    func() time.Time
	root   *x509.Certificate
	key    *ecdsa.PrivateKey
	mutex  sync.Mutex
	shown  *tls.Certificate
}

// Open reads the authority of a folder, or makes it, and sees to a certificate for the names.
func Open(folder string, names []string, now func() time.Time) (*Local, error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("keep certificates: %w", err)
	}
	l := &Local{folder: folder, names: names, now: now}
	pair, err := l.read(authorityFile, authorityKey)
	if errors.Is(err, os.ErrNotExist) {
		pair, err = l.makeAuthority()
	}
	if err != nil {
		return nil, fmt.Errorf("the local authority: %w", err)
	}
	l.root = pair.Leaf
	var fine bool
	if l.key, fine = pair.PrivateKey.(*ecdsa.PrivateKey); !fine {
		return nil, fmt.Errorf("the local authority: %s is no key of its kind", authorityKey)
	}
	if now().After(l.root.NotAfter) {
		return nil, fmt.Errorf("the local authority was good until %s: take %s away, and every device is asked to trust the new one", l.root.NotAfter.Format(time.DateOnly), filepath.Join(folder, authorityFile))
	}
	l.Authority = pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: l.root.Raw})
	l.Fingerprint = fingerprint(l.root.Raw)
	if pair, err := l.read(certificateFile, certificateKey); err == nil {
		l.shown = pair
	}
	_, err = l.certificate()
	return l, err
}

func fingerprint(der []byte) string {
	sum := sha256.Sum256(der)
	parts := make([]string, len(sum))
	for i, b := range sum {
		parts[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(parts, ":")
}

func (l *Local) read(certificate, key string) (*tls.Certificate, error) {
	pair, err := tls.LoadX509KeyPair(filepath.Join(l.folder, certificate), filepath.Join(l.folder, key))
	return &pair, err
}

func (l *Local) makeAuthority() (*tls.Certificate, error) {
	host, _ := os.Hostname()
	return l.make(authorityFile, authorityKey, &x509.Certificate{
		Subject: pkix.Name{CommonName: "Dusha on " + host}, NotAfter: l.now().Add(authorityFor),
		IsCA: true, BasicConstraintsValid: true, MaxPathLenZero: true, KeyUsage: x509.KeyUsageCertSign,
	}, nil, nil)
}

// make writes a certificate of a new key, signed by another, or by itself.
func (l *Local) make(certificate, keyFile string, wanted, by *x509.Certificate, byKey *ecdsa.PrivateKey) (*tls.Certificate, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 127))
	if err != nil {
		return nil, err
	}
	wanted.SerialNumber, wanted.NotBefore = serial, l.now().Add(-early)
	if by == nil {
		by, byKey = wanted, key
	}
	der, err := x509.CreateCertificate(rand.Reader, wanted, by, &key.PublicKey, byKey)
	if err != nil {
		return nil, err
	}
	secret, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, err
	}
	for _, file := range []struct {
		name, kind string
		bytes      []byte
	}{{keyFile, "PRIVATE KEY", secret}, {certificate, "CERTIFICATE", der}} {
		text := pem.EncodeToMemory(&pem.Block{Type: file.kind, Bytes: file.bytes})
		if err := os.WriteFile(filepath.Join(l.folder, file.name), text, 0o600); err != nil {
			return nil, err
		}
	}
	return l.read(certificate, keyFile)
}

// certificate is what is shown, made anew where it soon ends, or is for other names or of another authority.
func (l *Local) certificate() (*tls.Certificate, error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	if l.shown != nil && l.good(l.shown.Leaf) {
		return l.shown, nil
	}
	wanted := &x509.Certificate{
		Subject: pkix.Name{CommonName: l.names[0]}, NotAfter: l.now().Add(certificateFor),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
	}
	for _, name := range l.names {
		if ip := net.ParseIP(name); ip != nil {
			wanted.IPAddresses = append(wanted.IPAddresses, ip)
		} else {
			wanted.DNSNames = append(wanted.DNSNames, name)
		}
	}
	made, err := l.make(certificateFile, certificateKey, wanted, l.root, l.key)
	if err != nil {
		return nil, fmt.Errorf("the server's certificate: %w", err)
	}
	l.shown = made
	return made, nil
}

func (l *Local) good(c *x509.Certificate) bool {
	if l.now().Add(renewBefore).After(c.NotAfter) || l.now().Before(c.NotBefore) || c.CheckSignatureFrom(l.root) != nil {
		return false
	}
	for _, name := range l.names {
		if c.VerifyHostname(name) != nil {
			return false
		}
	}
	return true
}

// TLS shows the certificate, renewed while the server runs.
func (l *Local) TLS() *tls.Config {
	return &tls.Config{MinVersion: tls.VersionTLS12, GetCertificate: func(*tls.ClientHelloInfo) (*tls.Certificate, error) { return l.certificate() }}
}

// Own reads a firm's own certificate files, and refuses what has ended or is for none of its names.
func Own(certificate, key string, now time.Time) (*tls.Config, []string, error) {
	pair, err := tls.LoadX509KeyPair(certificate, key)
	if err != nil {
		return nil, nil, fmt.Errorf("the certificate files: %w", err)
	}
	switch leaf := pair.Leaf; {
	case now.After(leaf.NotAfter):
		return nil, nil, fmt.Errorf("the certificate in %s was good until %s: renew it, or leave --certificate out and Dusha makes its own", certificate, leaf.NotAfter.Format(time.DateOnly))
	case now.Before(leaf.NotBefore):
		return nil, nil, fmt.Errorf("the certificate in %s is good from %s on only: is this machine's clock right?", certificate, leaf.NotBefore.Format(time.DateOnly))
	default:
		names := slices.Clone(leaf.DNSNames)
		for _, ip := range leaf.IPAddresses {
			names = append(names, ip.String())
		}
		return &tls.Config{MinVersion: tls.VersionTLS12, Certificates: []tls.Certificate{pair}}, names, nil
	}
}

// Names are those by which other machines reach this one: its name, also as local networks call it, and
// its addresses.
func Names() []string {
	names := []string{}
	if host, err := os.Hostname(); err == nil && host != "" {
		host = strings.ToLower(host)
		names = append(names, host)
		if !strings.Contains(host, ".") {
			names = append(names, host+".local")
		}
	}
	addresses, _ := net.InterfaceAddrs()
	for _, each := range addresses {
		if at, is := each.(*net.IPNet); is && !at.IP.IsLinkLocalUnicast() {
			names = append(names, at.IP.String())
		}
	}
	return append(names, "localhost")
}
