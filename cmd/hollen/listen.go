package main

import (
	"context"
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
	"net/netip"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"hollen/internal/store"
	"hollen/internal/web"
)

// reach are the flags that say how a server may be reached.
type reach struct {
	hosts, proxies list
	cert, key, tls string
	insecure       bool
	certificate    *tls.Certificate
	fingerprint    string
}

// list is a flag that may be given several times, or with commas.
type list []string

func (l *list) String() string { return strings.Join(*l, ",") }

// Set adds to the list.
func (l *list) Set(s string) error {
	for x := range strings.SplitSeq(s, ",") {
		if x = strings.ToLower(strings.TrimSpace(x)); x != "" {
			*l = append(*l, x)
		}
	}
	return nil
}

// access says how a server on an address is reached; an error where that would leave a door open, or what is asked for
// does not go together.
func (r *reach) access(addr, dir string) (web.Access, error) {
	var a web.Access
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return a, fmt.Errorf("--addr %q: HOST:PORT is wanted, as 127.0.0.1:8080 or 0.0.0.0:8443", addr)
	}
	for _, p := range r.proxies {
		if !strings.Contains(p, "/") {
			p += map[bool]string{true: "/128", false: "/32"}[strings.Contains(p, ":")]
		}
		prefix, err := netip.ParsePrefix(p)
		if err != nil {
			return a, fmt.Errorf("--behind-proxy %q: an address or a range of them is wanted, as 127.0.0.1 or "+
				"10.0.0.0/24", p)
		}
		a.Proxies = append(a.Proxies, prefix)
	}
	ip := net.ParseIP(host)
	local := host == "localhost" || ip != nil && ip.IsLoopback()
	a.SignIn = !local || len(a.Proxies) > 0
	a.Hosts = append([]string{}, r.hosts...)
	if !local {
		if ip == nil && host != "" {
			a.Hosts = append(a.Hosts, strings.ToLower(host))
		}
		a.Hosts = append(a.Hosts, ownAddresses(ip)...)
	}
	switch {
	case r.tls != "" && r.tls != "self":
		return a,
			fmt.Errorf("--tls %q: only “self” is understood; a certificate of your own goes with --cert and --key",
				r.tls)
	case (r.cert == "") != (r.key == ""):
		return a, errors.New("--cert and --key go together: the certificate’s file and its key’s, PEM")
	case r.cert != "" && r.tls != "":
		return a, errors.New("--tls self makes a certificate; leave --cert and --key, or leave it")
	case r.cert != "":
		pair, err := tls.LoadX509KeyPair(r.cert, r.key)
		if err != nil {
			return a, fmt.Errorf("--cert, --key: %w", err)
		}
		r.certificate = &pair
	case r.tls == "self":
		if r.certificate, err = selfSigned(dir, a.Hosts); err != nil {
			return a, fmt.Errorf("--tls self: %w", err)
		}
	case !local && len(a.Proxies) == 0 && !r.insecure:
		return a, errors.New("beyond this machine, passwords would go over the network for everyone on it to read.\n" +
			"Give --tls self (Hollen makes a certificate), or --cert and --key, or put it behind a proxy with " +
			"--behind-proxy;\n" +
			"--insecure-http serves all the same, on a network where nobody else is")
	}
	a.Secure = r.certificate != nil || len(a.Proxies) > 0 && !r.insecure
	if r.certificate != nil {
		sum := sha256.Sum256(r.certificate.Certificate[0])
		r.fingerprint = strings.ToUpper(strings.Trim(fmt.Sprintf("% x", sum), " "))
		r.fingerprint = strings.ReplaceAll(r.fingerprint, " ", ":")
	}
	return a, nil
}

// ownAddresses are the addresses a server is reached by that listens on one: that one, or of all of them each.
func ownAddresses(ip net.IP) (out []string) {
	if ip != nil && !ip.IsUnspecified() {
		return []string{ip.String()}
	}
	all, _ := net.InterfaceAddrs()
	for _, a := range all {
		if n, is := a.(*net.IPNet); is && !n.IP.IsLoopback() && !n.IP.IsLinkLocalUnicast() {
			out = append(out, n.IP.String())
		}
	}
	if name, err := os.Hostname(); err == nil {
		out = append(out, strings.ToLower(name), strings.ToLower(name)+".local")
	}
	return out
}

// A certificate of one's own is made for so long, and made anew when so little is left: browsers take none for longer.
const (
	certFor  = 390 * 24 * time.Hour
	certLeft = 30 * 24 * time.Hour
)

// selfSigned returns the certificate kept in a folder; another is made where there is none, it is about to end, or it
// does not name the machine. One
// whose address is another stays, and with it the fingerprint people have compared: of an address a router gave,
// browsers warn as they did.
func selfSigned(dir string, hosts []string) (*tls.Certificate, error) {
	certFile, keyFile := filepath.Join(dir, "tls.crt"), filepath.Join(dir, "tls.key")
	names := append([]string{"localhost"}, hosts...)
	if pair, err := tls.LoadX509KeyPair(certFile, keyFile); err == nil && pair.Leaf.NotAfter.Sub(now()) > certLeft {
		if !slices.ContainsFunc(
			names,
			func(n string) bool { return net.ParseIP(n) == nil && pair.Leaf.VerifyHostname(n) != nil },
		) {
			return &pair, nil
		}
	}
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120))
	if err != nil {
		return nil, err
	}
	c := x509.Certificate{SerialNumber: serial, Subject: pkix.Name{CommonName: "Hollen"},
		NotBefore: now().Add(-time.Hour), NotAfter: now().Add(certFor),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
		BasicConstraintsValid: true,
		IPAddresses:           []net.IP{net.IPv4(127, 0, 0, 1), net.IPv6loopback}}
	for _, n := range names {
		if ip := net.ParseIP(n); ip != nil {
			c.IPAddresses = append(c.IPAddresses, ip)
		} else {
			c.DNSNames = append(c.DNSNames, n)
		}
	}
	der, err := x509.CreateCertificate(rand.Reader, &c, &c, &key.PublicKey, key)
	if err != nil {
		return nil, err
	}
	keyDER, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	if err := errors.Join(os.WriteFile(keyFile, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: keyDER}),
		0o600),
		os.WriteFile(certFile, pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der}), 0o600)); err != nil {
		return nil, err
	}
	pair, err := tls.LoadX509KeyPair(certFile, keyFile)
	return &pair, err
}

// listen takes the address before anything else is begun. A port that was free when it was last asked for is asked for
// again, so that open
// pages find the server.
func listen(addr, remembered string) (net.Listener, error) {
	if host, port, err := net.SplitHostPort(addr); err == nil && port == "0" {
		if last, err := os.ReadFile(remembered); err == nil {
			if l, err := net.Listen("tcp", net.JoinHostPort(host, strings.TrimSpace(string(last)))); err == nil {
				return l, nil
			}
		}
	}
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return nil, fmt.Errorf("cannot serve on %s: %w", addr, err)
	}
	return l, nil
}

// remember keeps the port a server has, for its next start; without it that takes a free one.
func remember(l net.Listener, file string) {
	if _, port, err := net.SplitHostPort(l.Addr().String()); err == nil {
		_ = os.WriteFile(file, []byte(port), 0o600)
	}
}

// addresses are where a browser finds the server.
func (r *reach) addresses(l net.Addr, a web.Access) []string {
	at := l.(*net.TCPAddr)
	scheme := "http"
	if r.certificate != nil {
		scheme = "https"
	}
	hosts := []string{at.IP.String()}
	if at.IP.IsUnspecified() {
		hosts = append([]string{}, a.Hosts...)
	}
	if len(hosts) == 0 {
		hosts = []string{"127.0.0.1"}
	}
	var out []string
	for _, h := range hosts {
		out = append(out, scheme+"://"+net.JoinHostPort(h, fmt.Sprint(at.Port))+"/")
	}
	return out
}

// first prints the address that makes the first account, where there is none yet.
func first(ctx context.Context, s *store.Store, a web.Access, at string) (string, error) {
	if !a.SignIn {
		return "", nil
	}
	if any, err := s.AnyAccount(ctx); err != nil || any {
		return "", err
	}
	token, err := s.Invite(ctx)
	return at + "first/" + token, err
}
