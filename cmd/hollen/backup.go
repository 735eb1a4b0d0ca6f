package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

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
		b, err := s.BackupFile(ctx, file, *secrets, func(b store.Backup) error { return takesPlace(file, b, *replace, *less) })
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
		return fmt.Errorf("%s is there already, and no backup of Hollen’s that can be read: name another file; it has been left as it was", file)
	case !replace && !less:
		return fmt.Errorf("%s is there already, made %s: %s. --replace replaces it; it has been left as it was", file,
			was.Made.Local().Format("2 January 2006, 15:04"), was.Words())
	case len(fewer) > 0 && !less:
		return fmt.Errorf("%s holds more than there is now (%s): name another file, or replace it with --less; it has been left as it was", file,
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
	return store.Whole(f, size)
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
	beside := f.Bool("beside", false, "put batches, makings, cabinet and rooms beside what is there")
	preview := f.Bool("preview", false, "say what would be done, and do nothing")
	file, ok := wordFirst(f, args)
	if !ok || file == "" {
		fmt.Fprintln(errw, "hollen restore: FILE.zip is wanted")
		return exitUsage
	}
	err := func() error {
		r, size, err := opened(file)
		if err != nil {
			return err
		}
		defer r.Close()
		b, err := store.Whole(r, size)
		if err != nil {
			return err
		}
		fmt.Fprintf(out, "%s, made %s: %s\n", filepath.Base(file), b.Made.Local().Format("2 January 2006, 15:04"), b.Words())
		if *preview && !*beside {
			return nil
		}
		if err := at.settle(); err != nil {
			return err
		}
		if *beside { // beside what, where nothing is?
			if err := at.held(); err != nil {
				return err
			}
		}
		return withDatabase(ctx, &at, func(dsn string) error {
			if *beside {
				done, err := store.RestoreBeside(ctx, dsn, now, r, size, *preview)
				if err == nil {
					fmt.Fprintln(out, done.Words())
				}
				return err
			}
			if _, err := store.Restore(ctx, dsn, r, size); errors.Is(err, store.ErrNotEmpty) {
				return fmt.Errorf("%w; --beside puts the backup beside what is there, --data names another folder", err)
			} else if err != nil {
				return err
			}
			fmt.Fprintln(out, "restored")
			return nil
		})
	}()
	if err != nil {
		fmt.Fprintf(errw, "hollen restore: %v\n", err)
		return exitFailed
	}
	return 0
}
