package main

import (
	"bufio"
	"fmt"
	"io"
	"os"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/exchange"
)

// planFile works out the request in a file, or on standard input.
func planFile(args []string, in io.Reader, out, errw io.Writer) int {
	if len(args) != 1 {
		fmt.Fprintf(errw, "hollen plan: name one file, or - for standard input, or --example\n")
		return exitUsage
	}
	w := bufio.NewWriter(out)
	if args[0] == "--example" {
		return finish(errw, exchange.Write(w, request.Default()), w.Flush)
	}
	name := args[0]
	if name == "-" {
		name = "standard input"
	} else {
		f, err := os.Open(name)
		if err != nil {
			fmt.Fprintf(errw, "hollen plan: %v\n", err)
			return exitUsage
		}
		defer f.Close()
		in = f
	}
	r, err := exchange.ReadRequest(rules.Default(), in)
	if err != nil {
		fmt.Fprintf(errw, "hollen plan: %s: %v\n", name, err)
		return exitUsage
	}
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		fmt.Fprintf(errw, "hollen plan: %s: %v\n", name, err)
		return exitUsage
	}
	return finish(errw, exchange.Write(w, p), w.Flush)
}

func finish(errw io.Writer, err error, flush func() error) int {
	if err == nil {
		err = flush()
	}
	if err != nil {
		fmt.Fprintf(errw, "hollen: %v\n", err)
		return exitFailed
	}
	return 0
}
