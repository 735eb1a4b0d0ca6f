package main

import (
	"errors"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/go-sql-driver/mysql"

	"hollen/internal/store/localdb"
)

// place are the flags that say where the database is.
type place struct{ data, dsn, dsnFile string }

// flags adds them to a set.
func (p *place) flags(f *flag.FlagSet, isDemo bool) {
	f.StringVar(&p.data, "data", defaultData(isDemo), "folder of the private database")
	if !isDemo {
		f.StringVar(&p.dsn, "dsn", "", "an existing MariaDB server: user@tcp(host:port)/database; with a password by "+
			"HOLLEN_DSN or --dsn-file")
		f.StringVar(&p.dsnFile, "dsn-file", "", "file whose first line is that, password and all: "+
			"user:password@tcp(host:port)/database")
	}
}

// words say where the database is, without a password.
func (p *place) words() string {
	if p.dsn == "" {
		return p.data
	}
	if cfg, err := mysql.ParseDSN(p.dsn); err == nil {
		return cfg.DBName + " at " + cfg.Addr
	}
	return "a server of its own"
}

// where are the flags that name the same database to another command.
func (p *place) where() string {
	if p.dsn != "" || p.data == defaultData(false) {
		return ""
	}
	return " --data " + p.data
}

// noDatabase returns an error where a folder holds no database: a slip of the pen makes none.
func (p *place) noDatabase() error {
	if p.dsn != "" || localdb.Holds(p.data) {
		return nil
	}
	return fmt.Errorf("there is no database in %s; --data names the folder of one, and hollen serve begins one", p.data)
}

// demoMark is the file in a data folder that says that the demo made it.
const demoMark = "hollen-demo"

// claim has a folder without a database be the demo’s, and refuses one whose database the demo did not make.
func (p *place) claim() error {
	mark := filepath.Join(p.data, demoMark)
	if _, err := os.Stat(mark); err == nil {
		return nil
	}
	if localdb.Holds(p.data) {
		return fmt.Errorf("%s holds a database the demo did not make: hollen serve --data opens it, and another "+
			"folder for the demo is named with "+
			"--data. Nothing has been changed. (A demo of an older Hollen all the same? Put an empty file called %s "+
			"into it.)", p.data, demoMark)
	}
	return os.WriteFile(mark, []byte("The demo made what is in this folder, and demo --fresh empties it.\n"), 0o600)
}

// disclaim has a folder be the demo’s no longer: what is served as one’s own is one’s own.
func (p *place) disclaim() error {
	if err := os.Remove(filepath.Join(p.data, demoMark)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return err
	}
	return nil
}

// settle reads where the database is from where it was said: a password in a flag could be read by everyone on the
// machine.
func (p *place) settle() error {
	switch {
	case p.dsnFile != "":
		raw, err := os.ReadFile(p.dsnFile)
		if err != nil {
			return fmt.Errorf("--dsn-file: %w", err)
		}
		p.dsn, _, _ = strings.Cut(strings.TrimSpace(string(raw)), "\n")
	case p.dsn == "":
		p.dsn = os.Getenv("HOLLEN_DSN")
	default:
		if cfg, err := mysql.ParseDSN(p.dsn); err == nil && cfg.Passwd != "" {
			return errors.New("--dsn: a password there can be read by everyone on this machine; give it by " +
				"HOLLEN_DSN, or by a file with --dsn-file")
		}
	}
	return nil
}
