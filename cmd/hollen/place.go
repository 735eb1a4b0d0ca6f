package main

import (
	"errors"
	"flag"
	"fmt"
	"os"
	"strings"

	"github.com/go-sql-driver/mysql"
)

// place are the flags that say where the database is.
type place struct{ data, dsn, dsnFile string }

// flags adds them to a set.
func (p *place) flags(f *flag.FlagSet, isDemo bool) {
	f.StringVar(&p.data, "data", defaultData(isDemo), "folder of the private database")
	if !isDemo {
		f.StringVar(&p.dsn, "dsn", "", "an existing MariaDB server: user@tcp(host:port)/database; with a password by HOLLEN_DSN or --dsn-file")
		f.StringVar(&p.dsnFile, "dsn-file", "", "file whose first line is that, password and all: user:password@tcp(host:port)/database")
	}
}

// settle reads where the database is from where it was said: a password in a flag could be read by everyone on the machine.
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
			return errors.New("--dsn: a password there can be read by everyone on this machine; give it by HOLLEN_DSN, or by a file with --dsn-file")
		}
	}
	return nil
}
