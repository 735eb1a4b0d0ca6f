package main

import (
	"bufio"
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"

	"hollen/internal/account"
	"hollen/internal/store"
)

// userCommand adds, lists and removes accounts and changes passwords. A password comes by HOLLEN_PASSWORD, a file, or the first line of
// standard input, never by a flag others could read.
func userCommand(ctx context.Context, args []string, in io.Reader, out, errw io.Writer) int {
	f := flag.NewFlagSet("hollen user", flag.ContinueOnError)
	f.SetOutput(errw)
	var at place
	at.flags(f, false)
	role := f.String("role", string(account.Makes), "keeps, makes or looks")
	file := f.String("password-file", "", "file whose first line is the password")
	what, name := "", ""
	for len(args) > 0 && !strings.HasPrefix(args[0], "-") { // words come before flags
		switch {
		case what == "":
			what = args[0]
		case name == "":
			name = args[0]
		default:
			fmt.Fprintf(errw, "hollen user: %q is not understood\n", args[0])
			return exitUsage
		}
		args = args[1:]
	}
	if f.Parse(args) != nil {
		return exitUsage
	}
	if !slices.Contains([]string{"add", "list", "password", "remove"}, what) || (what == "list") != (name == "") {
		fmt.Fprintln(errw, "hollen user: add NAME [--role keeps|makes|looks], list, password NAME or remove NAME is understood")
		return exitUsage
	}
	secret := ""
	if what == "add" || what == "password" {
		var err error
		if secret, err = password(in, *file); err == nil {
			err = errors.Join(account.CheckName(name), account.CheckPassword(name, secret))
		}
		if err == nil && !slices.Contains(account.Roles, account.Role(*role)) {
			err = account.ErrRole
		}
		if err != nil {
			fmt.Fprintf(errw, "hollen user: %v\n", err)
			return exitUsage
		}
	}
	err := withStore(ctx, at, func(s *store.Store) error {
		note := func(what, detail string) error {
			return s.Audited(ctx, store.Audit{Who: "the command line", What: what, Detail: detail})
		}
		if what == "list" {
			all, err := s.Accounts(ctx)
			for _, a := range all {
				fmt.Fprintf(out, "%s\t%s\tsince %s\n", a.Name, a.Role, a.Made.Local().Format("2006-01-02"))
			}
			return err
		}
		if what == "add" {
			if _, err := s.AddAccount(ctx, name, *role, account.Hash(secret)); err != nil {
				return err
			}
			return note("account", "made "+name+", who "+*role)
		}
		a, err := s.AccountNamed(ctx, name)
		if errors.Is(err, store.ErrNotFound) {
			return fmt.Errorf("there is no account %q", name)
		} else if err != nil {
			return err
		}
		if what == "password" {
			return errors.Join(s.SetPassword(ctx, a.ID, account.Hash(secret)), note("password", "another for "+name))
		}
		if err := s.RemoveAccount(ctx, a.ID); err != nil {
			return err
		}
		return note("account", "removed "+name)
	})
	if err != nil {
		fmt.Fprintf(errw, "hollen user: %v\n", err)
		return exitFailed
	}
	return 0
}

// password is read from where others cannot.
func password(in io.Reader, file string) (string, error) {
	if p := os.Getenv("HOLLEN_PASSWORD"); p != "" {
		return p, nil
	}
	if file != "" {
		f, err := os.Open(file)
		if err != nil {
			return "", err
		}
		defer f.Close()
		in = f
	}
	line, err := bufio.NewReader(in).ReadString('\n')
	if line = strings.TrimRight(line, "\r\n"); line == "" {
		return "", errors.Join(errors.New("the password comes by HOLLEN_PASSWORD, --password-file or standard input"), ignoreEOF(err))
	}
	return line, nil
}

func ignoreEOF(err error) error {
	if errors.Is(err, io.EOF) {
		return nil
	}
	return err
}
