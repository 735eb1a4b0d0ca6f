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

	"golang.org/x/term"

	"hollen/internal/account"
	"hollen/internal/store"
)

// userCommand adds, lists and removes accounts and changes passwords. A password comes by HOLLEN_PASSWORD, a file, or
// the first line of
// standard input, never by a flag others could read; on a terminal it is asked for twice and not shown.
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
	if !slices.Contains([]string{"add", "list", "password", "role", "remove"}, what) ||
		(what == "list") != (name == "") {
		fmt.Fprintln(
			errw,
			"hollen user: add NAME [--role keeps|makes|looks], list, password NAME, role NAME --role "+
				"keeps|makes|looks or remove NAME is understood",
		)
		return exitUsage
	}
	secret := ""
	said := false
	f.Visit(func(x *flag.Flag) { said = said || x.Name == "role" })
	if what == "role" && (!said || !slices.Contains(account.Roles, account.Role(*role))) {
		fmt.Fprintln(errw, "hollen user: role NAME --role keeps, makes or looks is understood")
		return exitUsage
	}
	if what == "add" || what == "password" {
		var err error
		if what == "add" { // one of before may be called otherwise
			err = account.CheckName(name)
		}
		if err == nil && !slices.Contains(account.Roles, account.Role(*role)) {
			err = account.ErrRole
		}
		if err == nil {
			if secret, err = password(ctx, in, errw, *file); err == nil {
				err = account.CheckPassword(name, secret)
			}
		}
		if err != nil {
			fmt.Fprintf(errw, "hollen user: %v\n", err)
			return exitUsage
		}
	}
	err := withStore(ctx, &at, func(s *store.Store) error {
		switch what {
		case "list":
			return listAccounts(ctx, s, out)
		case "add":
			return addAccount(ctx, s, name, *role, secret)
		}
		return changeAccount(ctx, s, what, name, *role, secret)
	})
	if err != nil {
		fmt.Fprintf(errw, "hollen user: %v\n", err)
		return exitFailed
	}
	return 0
}

// noted writes into the trail what the command line did.
func noted(ctx context.Context, s *store.Store, what, detail string) error {
	return s.Audited(ctx, store.Audit{Who: "the command line", What: what, Detail: detail})
}

func listAccounts(ctx context.Context, s *store.Store, out io.Writer) error {
	all, err := s.Accounts(ctx)
	for _, a := range all {
		fmt.Fprintf(out, "%s\t%s\tsince %s\n", a.Name, a.Role, a.Made.Local().Format("2006-01-02"))
	}
	return err
}

func addAccount(ctx context.Context, s *store.Store, name, role, secret string) error {
	hash, err := account.Hash(ctx, secret)
	if err != nil {
		return err
	}
	if _, err := s.AddAccount(ctx, name, role, hash); err != nil {
		return err
	}
	return noted(ctx, s, "account", "made "+name+", who "+role)
}

// changeAccount gives an account another password or role, or removes it.
func changeAccount(ctx context.Context, s *store.Store, what, name, role, secret string) error {
	a, err := s.AccountNamed(ctx, name)
	if errors.Is(err, store.ErrNotFound) {
		return fmt.Errorf("there is no account %q", name)
	} else if err != nil {
		return err
	}
	switch what {
	case "password":
		hash, err := account.Hash(ctx, secret)
		if err != nil {
			return err
		}
		return errors.Join(s.SetPassword(ctx, a.ID, hash), noted(ctx, s, "password", "another for "+name))
	case "role":
		if err := s.SetRole(ctx, a.ID, role); err != nil {
			return err
		}
		return noted(ctx, s, "role", name+" now "+role)
	}
	if err := s.RemoveAccount(ctx, a.ID); err != nil {
		return err
	}
	return noted(ctx, s, "account", "removed "+name)
}

// password is read from where others cannot.
func password(ctx context.Context, in io.Reader, ask io.Writer, file string) (string, error) {
	if p := os.Getenv("HOLLEN_PASSWORD"); p != "" {
		return p, nil
	}
	if t, is := in.(*os.File); is && file == "" && term.IsTerminal(int(t.Fd())) {
		return typed(ctx, t, ask)
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
		return "", errors.Join(errors.New("the password comes by HOLLEN_PASSWORD, --password-file or standard input"),
			ignoreEOF(err))
	}
	return line, nil
}

// typed asks for a password on a terminal, twice, without showing it.
func typed(ctx context.Context, t *os.File, ask io.Writer) (string, error) {
	var said [2]string
	was, err := term.GetState(int(t.Fd()))
	if err != nil {
		return "", err
	}
	type line struct {
		b   []byte
		err error
	}
	for i, words := range []string{"Password (not shown): ", "The same again: "} {
		fmt.Fprint(ask, words)
		read := make(chan line, 1)
		go func() {
			b, err := term.ReadPassword(int(t.Fd()))
			read <- line{b, err}
		}()
		select {
		case l := <-read:
			fmt.Fprintln(ask)
			if l.err != nil {
				return "", l.err
			}
			said[i] = string(l.b)
		case <-ctx.Done(): // the terminal shows again what is typed
			fmt.Fprintln(ask)
			return "", errors.Join(ctx.Err(), term.Restore(int(t.Fd()), was))
		}
	}
	if said[0] != said[1] {
		return "", errors.New("the two are not the same; nothing has been changed")
	}
	return said[0], nil
}

func ignoreEOF(err error) error {
	if errors.Is(err, io.EOF) {
		return nil
	}
	return err
}
