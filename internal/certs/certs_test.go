package certs_test

import (
	"crypto/tls"
	"crypto/x509"
	"io"
	"log"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"dusha/internal/certs"
)

var now = time.Date(2026, 3, 4, 12, 0, 0, 0, time.UTC)

func at(t time.Time) func() time.Time { return func() time.Time { return t } }

func open(t *testing.T, folder string, when time.Time, names ...string) *certs.Local {
	t.Helper()
	l, err := certs.Open(folder, names, at(when))
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func leaf(t *testing.T, l *certs.Local) *x509.Certificate {
	t.Helper()
	c, err := l.TLS().GetCertificate(nil)
	if err != nil {
		t.Fatal(err)
	}
	return c.Leaf
}

// The authority is made once; its certificate is renewed by itself, and made anew for other names.
func TestACertificateRenewsItself(t *testing.T) {
	folder := t.TempDir()
	first := open(t, folder, now, "tower.local", "192.0.2.7")
	again := open(t, folder, now.Add(time.Hour), "tower.local", "192.0.2.7")
	if string(first.Authority) != string(again.Authority) || first.Fingerprint != again.Fingerprint {
		t.Error("the authority was made twice")
	}
	if !leaf(t, first).Equal(leaf(t, again)) {
		t.Error("a good certificate was made anew")
	}
	if got := leaf(t, again).NotAfter.Sub(now); got > 398*24*time.Hour {
		t.Errorf("it is good for %v, which browsers do not take", got)
	}
	later := open(t, folder, now.Add(380*24*time.Hour), "tower.local", "192.0.2.7")
	if leaf(t, later).Equal(leaf(t, again)) || !strings.Contains(string(later.Authority), string(first.Authority)) {
		t.Error("one that ends within a month was not renewed, or by another authority")
	}
	moved := open(t, folder, now.Add(380*24*time.Hour), "tower.local", "192.0.2.9")
	if leaf(t, moved).VerifyHostname("192.0.2.9") != nil {
		t.Error("the new address is not in it")
	}
	roots := x509.NewCertPool()
	roots.AppendCertsFromPEM(first.Authority)
	if _, err := leaf(t, moved).Verify(x509.VerifyOptions{Roots: roots, DNSName: "tower.local", CurrentTime: now.Add(381 * 24 * time.Hour)}); err != nil {
		t.Error(err)
	}
	for _, file := range []string{"authority.key", "server.key"} {
		if info, err := os.Stat(filepath.Join(folder, file)); err != nil || info.Mode().Perm() != 0o600 {
			t.Errorf("%s: %v, %v", file, info.Mode(), err)
		}
	}
	if _, err := certs.Open(folder, []string{"tower.local"}, at(now.Add(11*365*24*time.Hour))); err == nil {
		t.Error("an authority that has ended goes on")
	}
}

// A client that trusts the authority reaches the server; one that does not is stopped.
func TestWhoTrustsTheAuthorityReachesTheServer(t *testing.T) {
	l := open(t, t.TempDir(), time.Now(), "127.0.0.1")
	listener, err := tls.Listen("tcp", "127.0.0.1:0", l.TLS())
	if err != nil {
		t.Fatal(err)
	}
	server := http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(http.StatusNoContent) }), ErrorLog: log.New(io.Discard, "", 0)}
	go server.Serve(listener) //nolint // until it is closed
	defer server.Close()
	roots := x509.NewCertPool()
	roots.AppendCertsFromPEM(l.Authority)
	ask := func(trusting *x509.CertPool) error {
		client := http.Client{Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: trusting}}}
		answer, err := client.Get("https://" + listener.Addr().String())
		if err == nil {
			answer.Body.Close()
		}
		return err
	}
	if err := ask(roots); err != nil {
		t.Error(err)
	}
	if ask(x509.NewCertPool()) == nil {
		t.Error("a client that trusts nothing was let in")
	}
}

func TestOwnFilesOfYesterday(t *testing.T) {
	folder := t.TempDir()
	open(t, folder, now, "dusha.example", "192.0.2.7")
	certificate, key := filepath.Join(folder, "server.crt"), filepath.Join(folder, "server.key")
	_, names, err := certs.Own(certificate, key, now)
	if err != nil || strings.Join(names, " ") != "dusha.example 192.0.2.7" {
		t.Errorf("%v, %v", names, err)
	}
	for _, c := range []struct {
		when time.Time
		says string
	}{{now.Add(398 * 24 * time.Hour), "was good until"}, {now.Add(-48 * time.Hour), "clock"}} {
		if _, _, err := certs.Own(certificate, key, c.when); err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("at %s: %v", c.when, err)
		}
	}
	if _, _, err := certs.Own(certificate, certificate, now); err == nil {
		t.Error("a certificate without its key was taken")
	}
}

func TestNamesOfThisMachine(t *testing.T) {
	found := false
	for _, name := range certs.Names() {
		found = found || name == "localhost"
		if ip := net.ParseIP(name); ip != nil && ip.IsLinkLocalUnicast() {
			t.Errorf("%s is of no use to others", name)
		}
	}
	if !found {
		t.Error("localhost is missing")
	}
}
