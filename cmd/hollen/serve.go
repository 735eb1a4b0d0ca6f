package main

import (
	"context"
	"crypto/tls"
	"errors"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"runtime/debug"
	"strings"
	"time"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/localdb"
	"hollen/internal/web"
)

// options are the flags of serve and demo.
type options struct {
	addr, log   string
	fresh, demo bool
	place
	reach
}

func parse(args []string, isDemo bool, errw io.Writer) (options, error) {
	o := options{demo: isDemo}
	name := "serve"
	if isDemo {
		name = "demo"
	}
	f := flag.NewFlagSet("hollen "+name, flag.ContinueOnError)
	f.SetOutput(errw)
	o.place.flags(f, isDemo)
	f.StringVar(&o.addr, "addr", "127.0.0.1:0", "address to serve on; port 0 takes a free one")
	f.StringVar(&o.log, "log", "", "file the log goes to; - is standard error")
	f.Var(&o.hosts, "host",
		"a name or address it answers to, besides those of this machine; may be given several times")
	f.Var(&o.proxies, "behind-proxy", "addresses of the proxy in front of it, as 127.0.0.1 or 10.0.0.0/24")
	f.StringVar(&o.cert, "cert", "", "file of its certificate, PEM")
	f.StringVar(&o.key, "key", "", "file of the certificate’s key, PEM")
	f.StringVar(&o.tls, "tls", "", "“self” makes a certificate and keeps it in the data folder")
	f.BoolVar(&o.insecure, "insecure-http", false, "serve others without encryption: whoever is on the network can "+
		"read passwords")
	if isDemo {
		f.BoolVar(&o.fresh, "fresh", false, "forget what the demo holds and start over")
	}
	if err := f.Parse(args); err != nil {
		return o, err
	}
	if f.NArg() > 0 {
		err := fmt.Errorf("%q is not understood", f.Arg(0))
		fmt.Fprintf(errw, "hollen %s: %v\n", name, err)
		return o, err
	}
	if isDemo {
		return o, nil
	}
	err := o.settle()
	if err != nil {
		fmt.Fprintf(errw, "hollen %s: %v\n", name, err)
	}
	return o, err
}

// defaultData is where a private database stands unless told otherwise.
func defaultData(isDemo bool) string {
	base := os.Getenv("XDG_DATA_HOME")
	if base == "" {
		home, err := os.UserHomeDir()
		if err != nil {
			home = "."
		}
		base = filepath.Join(home, ".local", "share")
	}
	if isDemo {
		return filepath.Join(base, "hollen-demo")
	}
	return filepath.Join(base, "hollen")
}

// serve starts what is needed, serves until ctx ends, and stops it all in order.
func serve(ctx context.Context, args []string, isDemo bool, out, errw io.Writer) int {
	o, err := parse(args, isDemo, errw)
	switch {
	case errors.Is(err, flag.ErrHelp):
		return 0
	case err != nil:
		return exitUsage
	}
	if err := o.serve(ctx, out, errw); err != nil {
		fmt.Fprintf(errw, "hollen: %v\n", err)
		return exitFailed
	}
	return 0
}

func (o options) serve(ctx context.Context, out, errw io.Writer) error {
	lost := make(<-chan struct{})
	access, err := o.access(o.addr, o.data)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(o.data, 0o700); err != nil {
		return fmt.Errorf("data folder: %w", err)
	}
	remembered, backups := filepath.Join(o.data, "port"), filepath.Join(o.data, "backups")
	l, err := listen(o.addr, remembered)
	if err != nil {
		return o.taken(err)
	}
	defer l.Close() // what follows may fail
	if o.dsn != "" {
		o.data = "" // the private database is not used
	} else {
		db, err := o.private(ctx)
		if err != nil {
			return err
		}
		defer db.Stop()
		o.dsn, lost = db.DSN, db.Done()
	}
	remember(l, remembered)
	log, closeLog, err := o.logger(errw)
	if err != nil {
		return err
	}
	defer closeLog()
	s, err := open(ctx, o.dsn, backups, log)
	if err != nil {
		return err
	}
	defer s.Close()
	s.Log(log)
	ru := rules.Default()
	if o.demo {
		if _, err := s.Seed(ctx, demo.WithLog(ru, now())); err != nil {
			return err
		}
	}
	if !o.demo {
		access.Backups = backups
		go s.Nightly(ctx, backups, time.Minute)
	}
	go remake(ctx, s, log)
	addr := l.Addr().(*net.TCPAddr)
	bounds()
	srv := web.NewHTTP(web.New(s, ru, log, access), log)
	failed := make(chan error, 1)
	go func() { failed <- o.answer(srv, l) }()
	at := o.addresses(addr, access)
	token, err := first(ctx, s, access, at[0])
	if err != nil {
		return err
	}
	nobody, err := s.NobodyKeeps(ctx)
	if err != nil {
		return err
	}
	defer o.leaveWord(at[0])()
	if err := o.announce(ctx, out, s, access, addr, at); err != nil {
		return err
	}
	o.warn(out, access, nobody, token)
	select {
	case <-ctx.Done():
	case err := <-failed:
		return err
	case <-lost:
		err = errors.New("the private database has stopped by itself; see mariadb.log in the data folder")
	}
	shutDown(srv, log)
	return err
}

// shutDown tells what goes on to end, and whoever waits for a database that hangs.
func shutDown(srv *http.Server, log *slog.Logger) {
	quiet, cancel := context.WithTimeout(context.Background(), time.Second)
	defer cancel()
	if down := srv.Shutdown(quiet); down != nil && !errors.Is(down, http.ErrServerClosed) {
		log.Warn("shutdown", "err", errors.Join(down, srv.Close()))
	}
}

// remake makes summaries of an older version anew; lists do without meanwhile.
func remake(ctx context.Context, s *store.Store, log *slog.Logger) {
	if _, err := s.RemakeSummaries(ctx, false); err != nil && ctx.Err() == nil {
		log.Warn("summaries", "err", err)
	}
}

// private starts the database of the folder, whose it must be.
func (o *options) private(ctx context.Context) (*localdb.Server, error) {
	if err := o.whose(); err != nil {
		return nil, err
	}
	if o.fresh {
		if err := localdb.Reset(o.data); err != nil {
			return nil, o.busy(err)
		}
	}
	db, err := localdb.Start(ctx, o.data)
	if err != nil {
		return nil, o.busy(err)
	}
	return db, nil
}

// bounds keeps the program within its memory, where its environment does not say how much that is.
func bounds() {
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(web.GCPercent)
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(web.MemoryLimit)
	}
}

// leaveWord says in the folder where it serves, for whoever starts a second one; nothing depends on it. What it returns
// takes the word away.
func (o options) leaveWord(at string) (gone func()) {
	if o.data == "" {
		return func() {}
	}
	files := map[string]string{o.addressFile(): at, filepath.Join(o.data, dsnFile): o.dsn}
	for name, text := range files {
		_ = os.WriteFile(name, []byte(text), 0o600)
	}
	return func() {
		for name := range files {
			_ = os.Remove(name)
		}
	}
}

// open opens the database; before its tables change a backup is made.
func open(ctx context.Context, dsn, backups string, log *slog.Logger) (*store.Store, error) {
	return store.OpenAfter(ctx, dsn, now, func(from, to int64) error {
		file := filepath.Join(backups, fmt.Sprintf("before-%d-to-%d-%s.zip", from, to,
			now().UTC().Format("2006-01-02T15-04-05Z")))
		log.Info("tables change", "from", from, "to", to, "backup", file)
		if err := os.MkdirAll(backups, 0o700); err != nil {
			return err
		}
		return store.BackupOlder(ctx, dsn, now, file)
	})
}

// answer answers requests at an address until the server ends.
func (o options) answer(srv *http.Server, l net.Listener) error {
	if o.certificate == nil {
		return srv.Serve(l)
	}
	srv.TLSConfig = &tls.Config{Certificates: []tls.Certificate{*o.certificate}, MinVersion: tls.VersionTLS12,
		NextProtos: []string{"http/1.1"}}
	return srv.ServeTLS(l, "", "")
}

// announce says where Hollen serves; the demo’s stand-ins start with it.
func (o options) announce(ctx context.Context, out io.Writer, s *store.Store, access web.Access, addr *net.TCPAddr,
	at []string) error {
	if o.demo && !access.SignIn {
		page, err := standIns(ctx, s, addr)
		if err != nil {
			return err
		}
		fmt.Fprintf(out, "Hollen serves at %s, with a stand-in for a scale at %s (Ctrl-C stops both)\n",
			strings.Join(at, " "), page)
	} else {
		fmt.Fprintf(out, "Hollen serves at %s (Ctrl-C stops it)\n", strings.Join(at, " "))
	}
	return nil
}

// warn says what whoever starts it should know.
func (o options) warn(out io.Writer, access web.Access, nobody bool, token string) {
	if o.fingerprint != "" {
		fmt.Fprintf(out, "The certificate is Hollen’s own: a browser warns once. Its SHA-256 fingerprint is\n  %s\n",
			o.fingerprint)
	}
	if o.insecure && access.SignIn {
		fmt.Fprintln(out, "Without encryption: whoever is on this network can read passwords and everything else.")
	}
	if nobody && access.SignIn {
		fmt.Fprintf(
			out,
			"No account keeps the workshop: nobody can open Accounts. This mends it, with the name of one:\n  hollen "+
				"user role NAME --role keeps%s\n",
			o.where(),
		)
	}
	if token != "" {
		fmt.Fprintf(out,
			"Nobody can sign in yet. Make the first account at\n  %s\nThe address works once, within a day.\n", token)
	}
}

// whose has the folder be the demo’s, or one’s own.
func (o *options) whose() error {
	if o.demo {
		return o.claim()
	}
	return o.disclaim()
}

// taken adds to a taken address what of ours is there.
func (o options) taken(err error) error {
	if at, e := os.ReadFile(o.addressFile()); e == nil {
		return fmt.Errorf("%w; a Hollen of this folder serves at %s", err, at)
	}
	return err
}

// addressFile is where a running Hollen leaves its address, beside its database.
func (o options) addressFile() string { return filepath.Join(o.data, "address") }

// busy adds to a BusyError where the other Hollen serves.
func (o options) busy(err error) error {
	var b *localdb.BusyError
	if at, e := os.ReadFile(o.addressFile()); errors.As(err, &b) && e == nil {
		return fmt.Errorf("%w; it serves at %s", err, at)
	}
	return err
}

// logger opens the log: the demo keeps it beside its database, so that the one line with the
// address stands alone.
func (o options) logger(errw io.Writer) (*slog.Logger, func(), error) {
	file := o.log
	if file == "" && o.demo && o.data != "" {
		file = filepath.Join(o.data, "hollen.log")
	}
	if file == "" || file == "-" {
		return slog.New(slog.NewTextHandler(errw, nil)), func() {}, nil
	}
	f, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_APPEND, 0o600)
	if err != nil {
		return nil, nil, fmt.Errorf("log: %w", err)
	}
	return slog.New(slog.NewTextHandler(f, nil)), func() { f.Close() }, nil
}
