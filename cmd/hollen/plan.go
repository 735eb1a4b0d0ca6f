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

// planFile works out the request in a file, or on standard input. A plan’s document is one, too, with what the log had
// learned: alone it makes that
// plan again, and beside a request its learning is counted in.
func planFile(args []string, in io.Reader, out, errw io.Writer) int {
	if len(args) < 1 || len(args) > 2 {
		fmt.Fprintf(
			errw,
			"hollen plan: name one file, or - for standard input, or --example; a plan beside it says what the log "+
				"had learned\n",
		)
		return exitUsage
	}
	w := bufio.NewWriter(out)
	if args[0] == "--example" && len(args) == 1 {
		return finish(errw, exchange.Write(w, request.Default()), w.Flush)
	}
	ru := rules.Default()
	r, learned, err := plannedIn(ru, args[0], in)
	if err == nil && len(args) == 2 {
		_, learned, err = plannedIn(ru, args[1], in)
	}
	var p *plan.Plan
	if err == nil {
		ru.Learned = learned
		p, err = plan.Make(ru, r)
	}
	if err != nil {
		fmt.Fprintf(errw, "hollen plan: %v\n", err)
		return exitUsage
	}
	return finish(errw, exchange.Write(w, p), w.Flush)
}

// plannedIn reads a file, or standard input for -, as what is to be planned.
func plannedIn(ru rules.Rules, name string, in io.Reader) (r request.Request, l rules.Learned, err error) {
	said := "standard input"
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return r, l, err
		}
		defer f.Close()
		said, in = name, f
	}
	if r, l, err = exchange.ReadPlanned(ru, in); err != nil {
		err = fmt.Errorf("%s: %w", said, err)
	}
	return r, l, err
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
