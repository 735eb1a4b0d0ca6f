package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"net"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"

	"hollen/internal/device/sim"
	"hollen/internal/store"
	"hollen/internal/store/localdb"
)

// dsnFile is where a running Hollen leaves how its private database is reached, for commands beside it.
const dsnFile = "dsn"

// withStore opens the store of a data folder that holds one, the running one's where one runs, or of a server of one's
// own.
func withStore(ctx context.Context, p *place, f func(*store.Store) error) error {
	if err := p.settle(); err != nil {
		return err
	}
	if err := p.noDatabase(); err != nil {
		return err
	}
	return withDatabase(ctx, p, func(dsn string) error {
		s, err := store.Open(ctx, dsn, now)
		if err != nil {
			return err
		}
		defer s.Close()
		return f(s)
	})
}

// withDatabase reaches the database of a data folder, the running one's where one runs, or a server of one's own.
func withDatabase(ctx context.Context, p *place, f func(dsn string) error) error {
	dsn := p.dsn
	if dsn == "" {
		kept, err := os.ReadFile(filepath.Join(p.data, dsnFile))
		if dsn = string(kept); err != nil || !answers(dsn) { // of one that was killed
			db, err := localdb.Start(ctx, p.data)
			if err != nil {
				return err
			}
			defer db.Stop()
			dsn = db.DSN
		}
	}
	return f(dsn)
}

// answers says whether somebody listens where a database is said to be.
func answers(dsn string) bool {
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return false
	}
	c, err := net.DialTimeout("tcp", cfg.Addr, time.Second)
	if err == nil {
		c.Close()
	}
	return err == nil
}

// deviceCommand adds, lists and removes devices.
func deviceCommand(ctx context.Context, args []string, out, errw io.Writer) int {
	f := flag.NewFlagSet("hollen device", flag.ContinueOnError)
	f.SetOutput(errw)
	var at place
	at.flags(f, false)
	kind := f.String("kind", "scale", "scale or room")
	if len(args) == 0 {
		fmt.Fprint(errw, usage)
		return exitUsage
	}
	what := args[0]
	rest := args[1:]
	name := ""
	if len(rest) > 0 && !strings.HasPrefix(rest[0], "-") { // the name stands before the flags
		name, rest = rest[0], rest[1:]
	}
	if err := f.Parse(rest); err != nil {
		return exitUsage
	}
	err := withStore(ctx, &at, func(s *store.Store) error {
		switch what {
		case "add":
			token, err := s.AddDevice(ctx, name, *kind)
			if err == nil {
				fmt.Fprintf(out, "%s\n", token)
			}
			return err
		case "list":
			all, err := s.Devices(ctx)
			for _, d := range all {
				fmt.Fprintf(out, "%s\t%s\tsince %s\n", d.Name, d.Kind, d.Made.Format("2006-01-02"))
			}
			return err
		case "remove":
			err := s.RemoveDevice(ctx, name)
			if errors.Is(err, store.ErrNotFound) {
				return fmt.Errorf("there is no device %q", name)
			}
			return err
		}
		return fmt.Errorf("%q is not understood: add, list or remove", what)
	})
	if err != nil {
		fmt.Fprintf(errw, "hollen device: %v\n", err)
		return exitFailed
	}
	return 0
}

// simCommand runs a stand-in for a device against a Hollen that serves.
func simCommand(ctx context.Context, args []string, out, errw io.Writer) int {
	f := flag.NewFlagSet("hollen sim", flag.ContinueOnError)
	f.SetOutput(errw)
	url := f.String("url", "", "where Hollen serves, as http://127.0.0.1:8080")
	name := f.String("name", "", "the device it stands in for")
	token := f.String("token", os.Getenv("HOLLEN_TOKEN"), "its token, as hollen device add prints it")
	addr := f.String("addr", "127.0.0.1:0", "address of the scale’s own page")
	if len(args) == 0 || f.Parse(args[1:]) != nil {
		return exitUsage
	}
	to := sim.Sender{URL: *url, Name: *name, Token: *token}
	switch {
	case args[0] != "scale" && args[0] != "room":
		fmt.Fprintf(errw, "hollen sim: %q is not understood: scale or room\n", args[0])
		return exitUsage
	case to.URL == "" || to.Name == "" || to.Token == "":
		fmt.Fprintln(errw, "hollen sim: --url, --name and --token are wanted")
		return exitUsage
	case args[0] == "room":
		sim.RoomSensor(ctx, to)
		return 0
	}
	l, err := net.Listen("tcp", *addr)
	if err != nil {
		fmt.Fprintf(errw, "hollen sim: %v\n", err)
		return exitFailed
	}
	fmt.Fprintf(out, "The stand-in scale is at http://%s/ (Ctrl-C stops it)\n", l.Addr())
	if err := sim.Scale(ctx, l, to); err != nil {
		fmt.Fprintf(errw, "hollen sim: %v\n", err)
		return exitFailed
	}
	return 0
}

// standIns run beside the demo as ordinary clients of the same addresses; it returns where the scale's page is.
func standIns(ctx context.Context, s *store.Store, server net.Addr) (page string, err error) {
	url := "http://" + server.String()
	token, err := s.AddDevice(ctx, "stand-in-room", "room")
	if err != nil {
		return "", err
	}
	go sim.RoomSensor(ctx, sim.Sender{URL: url, Name: "stand-in-room", Token: token})
	if token, err = s.AddDevice(ctx, "stand-in-scale", "scale"); err != nil {
		return "", err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	go sim.Scale(ctx, l, sim.Sender{URL: url, Name: "stand-in-scale", Token: token})
	return "http://" + l.Addr().String() + "/", nil
}
