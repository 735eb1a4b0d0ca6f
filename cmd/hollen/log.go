package main

import (
	"context"
	"flag"
	"fmt"
	"io"

	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// onStore runs a command that takes no more than the database it is to work on.
func onStore(ctx context.Context, name string, args []string, errw io.Writer, do func(*store.Store) error) int {
	f := flag.NewFlagSet("hollen "+name, flag.ContinueOnError)
	f.SetOutput(errw)
	var at place
	at.flags(f, false)
	if f.Parse(args) != nil {
		return exitUsage
	}
	if err := withStore(ctx, &at, do); err != nil {
		fmt.Fprintf(errw, "hollen %s: %v\n", name, err)
		return exitFailed
	}
	return 0
}

// remakeCommand makes what lists read of ended makings anew from their events.
func remakeCommand(ctx context.Context, args []string, out, errw io.Writer) int {
	return onStore(ctx, "remake", args, errw, func(s *store.Store) error {
		n, err := s.RemakeSummaries(ctx, true)
		fmt.Fprintf(out, "%d made anew\n", n)
		return err
	})
}

// refitCommand weighs the log anew from nothing, and says whether what was kept is the same.
func refitCommand(ctx context.Context, args []string, out, errw io.Writer) int {
	return onStore(ctx, "refit", args, errw, func(s *store.Store) error {
		n, was, same, err := s.Refit(ctx, rules.Default().Learn)
		if err != nil {
			return err
		}
		words := "what was kept was otherwise, and is this now"
		switch {
		case !was:
			words = "nothing was kept before"
		case same:
			words = "the same digits as were kept"
		}
		fmt.Fprintf(out, "weighed anew from %s: %s\n", measure.Plural(n, "making", "makings"), words)
		return nil
	})
}
