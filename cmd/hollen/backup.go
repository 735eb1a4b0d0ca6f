package main

import (
	"bufio"
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"golang.org/x/term"

	"hollen/internal/store"
)

// backupCommand writes everything to one file.
func backupCommand(ctx context.Context, args []string, out, errw io.Writer) int {
	f := flag.NewFlagSet("hollen backup", flag.ContinueOnError)
	f.SetOutput(errw)
	var at place
	at.flags(f, false)
	secrets := f.Bool("secrets", false, "with passwords and tokens, hashed")
	replace := f.Bool("replace", false, "replace the backup that stands under that name")
	less := f.Bool("less", false, "replace it, too, where it holds more than there is now")
	file, ok := wordFirst(f, args)
	if !ok || file == "" {
		fmt.Fprintln(errw, "hollen backup: FILE.zip is wanted")
		return exitUsage
	}
	err := withStore(ctx, &at, func(s *store.Store) error {
		if !*replace && !*less { // said before the work, too
			if err := takesPlace(file, store.Backup{}, false, false); err != nil {
				return err
			}
		}
		b, err := s.BackupFile(ctx, file, *secrets, func(b store.Backup) error {
			return takesPlace(file, b, *replace,
				*less)
		})
		if err == nil {
			fmt.Fprintf(out, "%s: %s; of %s\n", file, b.Words(), at.words())
		}
		return err
	})
	if err != nil {
		fmt.Fprintf(errw, "hollen backup: %v\n", err)
		return exitFailed
	}
	return 0
}

// takesPlace returns why a backup does not take the place of the file that stands under its name.
func takesPlace(file string, b store.Backup, replace, less bool) error {
	if _, err := os.Lstat(file); errors.Is(err, os.ErrNotExist) {
		return nil
	}
	was, err := readBackup(file)
	switch fewer := was.Beyond(b); {
	case err != nil:
		return fmt.Errorf("%s is there already, and no backup of Hollen’s that can be read: name another file; it "+
			"has been left as it was", file)
	case !replace && !less:
		return fmt.Errorf("%s is there already, made %s: %s. --replace replaces it; it has been left as it was", file,
			was.Made.Local().Format("2 January 2006, 15:04"), was.Words())
	case len(fewer) > 0 && !less:
		return fmt.Errorf("%s holds more than there is now (%s): name another file, or replace it with --less; it "+
			"has been left as it was", file,
			strings.Join(fewer, ", "))
	}
	return nil
}

// wordFirst reads flags round one word.
func wordFirst(f *flag.FlagSet, args []string) (word string, ok bool) {
	if f.Parse(args) != nil {
		return "", false
	}
	if f.NArg() > 0 {
		word = f.Arg(0)
		if f.Parse(f.Args()[1:]) != nil || f.NArg() > 0 {
			return word, false
		}
	}
	return word, true
}

func readBackup(file string) (b store.Backup, err error) {
	f, size, err := opened(file)
	if err != nil {
		return b, err
	}
	defer f.Close()
	return store.VerifyBackup(f, size)
}

func opened(file string) (*os.File, int64, error) {
	f, err := os.Open(file)
	if err != nil {
		return nil, 0, err
	}
	info, err := f.Stat()
	if err != nil {
		f.Close()
		return nil, 0, err
	}
	return f, info.Size(), nil
}

// restoreCommand puts a backup into an empty database, or beside what is there.
func restoreCommand(ctx context.Context, args []string, out, errw io.Writer) int {
	f := flag.NewFlagSet("hollen restore", flag.ContinueOnError)
	f.SetOutput(errw)
	var at place
	at.flags(f, false)
	beside := f.Bool("beside", false, "put what is not there beside what is")
	clashes := f.String(
		"clashes",
		"",
		"with --beside, what both sides say otherwise is to be as it is: here, or in the backup",
	)
	preview := f.Bool("preview", false, "say what would be done, and do nothing")
	file, ok := wordFirst(f, args)
	if !ok || file == "" {
		fmt.Fprintln(errw, "hollen restore: FILE.zip is wanted")
		return exitUsage
	}
	if *clashes != "" && (!*beside || *clashes != "here" && *clashes != "backup") {
		fmt.Fprintln(errw, "hollen restore: --clashes is here or backup, and goes with --beside")
		return exitUsage
	}
	err := func() error {
		r, size, err := opened(file)
		if err != nil {
			return err
		}
		defer r.Close()
		b, err := store.VerifyBackup(r, size)
		if err != nil {
			return err
		}
		fmt.Fprintf(out, "%s, made %s: %s\n", filepath.Base(file), b.Made.Local().Format("2 January 2006, 15:04"),
			b.Words())
		if *preview && !*beside {
			return nil
		}
		if err := at.settle(); err != nil {
			return err
		}
		if *beside { // beside what, where nothing is?
			if err := at.noDatabase(); err != nil {
				return err
			}
		}
		return withDatabase(ctx, &at, func(dsn string) error {
			if *beside {
				return restoreBeside(ctx, dsn, r, size, besideSays{*preview, *clashes}, out)
			}
			done, err := store.Restore(ctx, dsn, now, r, size)
			if errors.Is(err, store.ErrNotEmpty) {
				return fmt.Errorf("%w; --beside puts the backup beside what is there, --data names another folder", err)
			} else if err != nil {
				return err
			}
			if done.Kept != "" {
				fmt.Fprintf(out, "%s, who was there already, stays and signs in with the password of here\n", done.Kept)
			}
			fmt.Fprintln(out, "restored")
			if n := b.Rows["devices"]; n > 0 && !b.Secrets {
				fmt.Fprintln(out, withoutTokens)
			}
			return nil
		})
	}()
	if err != nil {
		fmt.Fprintf(errw, "hollen restore: %v\n", err)
		return exitFailed
	}
	return 0
}

// withoutTokens is said of devices of a backup that holds no secrets.
const withoutTokens = "the devices have no token in this backup: hollen device add NAME gives each a new one"

// besideSays is how a backup is to be put beside.
type besideSays struct {
	preview bool
	clashes string // here, backup, or ask
}

// restoreBeside puts a backup beside what is there. What both sides say otherwise is asked where somebody can answer.
func restoreBeside(ctx context.Context, dsn string, r io.ReaderAt, size int64, says besideSays, out io.Writer) error {
	answers := map[string]bool{}
	decide := func(c store.Clash) (backup, settled bool) {
		if says.clashes != "" {
			return says.clashes == "backup", true
		}
		backup, settled = answers[c.Key]
		return backup, settled
	}
	for {
		done, err := store.RestoreBeside(
			ctx,
			dsn,
			now,
			r,
			size,
			store.BesideOptions{Preview: says.preview, Decide: decide},
		)
		if !errors.Is(err, store.ErrClashes) {
			if err == nil {
				fmt.Fprintln(out, done.Words(says.preview))
				if done.Kind("devices").Added > 0 && !done.Backup.Secrets {
					fmt.Fprintln(out, withoutTokens)
				}
			}
			return err
		}
		if !term.IsTerminal(int(os.Stdin.Fd())) {
			for _, c := range done.Clashes {
				fmt.Fprintln(out, "otherwise here than in the backup: "+c.Words)
			}
			return fmt.Errorf(
				"%w, see above: --clashes here leaves all of them as they are here, --clashes backup takes the "+
					"backup’s; "+
					"nothing has been changed",
				err,
			)
		}
		if err := ask(done.Clashes, answers, os.Stdin, out); err != nil {
			return err
		}
	}
}

// ask asks of each clash which side it is to be.
func ask(clashes []store.Clash, answers map[string]bool, in io.Reader, out io.Writer) error {
	lines := bufio.NewScanner(in)
	for _, c := range clashes {
		if _, said := answers[c.Key]; said {
			continue
		}
		for {
			fmt.Fprintf(out, "%s is otherwise in the backup. As it is [h]ere, or the [b]ackup’s? ", c.Words)
			if !lines.Scan() {
				return errors.Join(lines.Err(), errors.New("nobody has answered; nothing has been changed"))
			}
			word := strings.ToLower(strings.TrimSpace(lines.Text()))
			if word == "h" || word == "b" || word == "here" || word == "backup" {
				answers[c.Key] = word[0] == 'b'
				break
			}
			fmt.Fprintln(out, "h or b is wanted.")
		}
	}
	return nil
}
