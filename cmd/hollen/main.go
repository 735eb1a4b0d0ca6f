// Command hollen plans batches of fresh egg pasta: it serves the pages, or works out one
// request from a file.
package main

import (
	"context"
	"fmt"
	"hollen/internal/clock"
	"io"
	"os"
	"os/signal"
	"syscall"
)

const usage = `hollen plans batches of fresh egg pasta.

  hollen demo  [--fresh] [--data DIR] [--addr HOST:PORT] [--log FILE]
      starts a private database, loads the demo workshop, serves it
  hollen serve [--dsn DSN] [--data DIR] [--addr HOST:PORT] [--log FILE]
      serves your own batches, from a private database in DIR or, with HOLLEN_DSN or
      --dsn-file (user:password@tcp(host:port)/database), from a server of yours
      beyond this machine: --tls self, or --cert FILE --key FILE, or --behind-proxy CIDR,
      or --insecure-http; --host NAME for the names it answers to. Accounts are asked for
  hollen user  add NAME [--role keeps|makes|looks] | list | password NAME | remove NAME |
               role NAME --role keeps|makes|looks
      accounts, one of which keeps; the password is asked for, or comes by
      HOLLEN_PASSWORD, --password-file or standard input
  hollen backup FILE.zip [--secrets] [--replace | --less]
      everything as open documents in one file, while it is in use; a file that is there is left
      as it is without --replace, and one that holds more than there is now without --less
  hollen restore FILE.zip [--beside [--clashes here|backup]] [--preview]
      into a database that holds nothing but its first account, or beside what is there
  hollen device add NAME [--kind scale|room] | list | remove NAME
      lets a scale or a room sensor send readings; add prints its token, once
  hollen remake
      makes what lists read of ended makings anew from their events
  hollen refit
      weighs the log anew from nothing, and says whether the digits are the same
  hollen sim   scale|room --url URL --name NAME --token TOKEN
      a stand-in for a scale or a room sensor
  hollen plan  FILE.json | - [PLAN.json]
      works out a request and prints the plan as JSON; - reads standard input. A plan
      that was downloaded is read, too, with what the log had learned: alone, or beside a request
  hollen plan  --example
      prints a complete request to start from
`

// exit codes: 0 done, 1 failed, 2 the call or the request is wrong.
const (
	exitFailed = 1
	exitUsage  = 2
)

// now is the one clock, handed to what is begun here.
var now = clock.System()

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM, syscall.SIGHUP)
	code := run(ctx, os.Args[1:], os.Stdin, os.Stdout, os.Stderr)
	stop()
	os.Exit(code)
}

func run(ctx context.Context, args []string, in io.Reader, out, errw io.Writer) int {
	if len(args) == 0 {
		fmt.Fprint(errw, usage)
		return exitUsage
	}
	switch args[0] {
	case "demo":
		return serve(ctx, args[1:], true, out, errw)
	case "serve":
		return serve(ctx, args[1:], false, out, errw)
	case "backup":
		return backupCommand(ctx, args[1:], out, errw)
	case "restore":
		return restoreCommand(ctx, args[1:], out, errw)
	case "user":
		return userCommand(ctx, args[1:], in, out, errw)
	case "device":
		return deviceCommand(ctx, args[1:], out, errw)
	case "refit":
		return refitCommand(ctx, args[1:], out, errw)
	case "remake":
		return remakeCommand(ctx, args[1:], out, errw)
	case "sim":
		return simCommand(ctx, args[1:], out, errw)
	case "plan":
		return planFile(args[1:], in, out, errw)
	case "help", "-h", "--help":
		fmt.Fprint(out, usage)
		return 0
	}
	fmt.Fprintf(errw, "hollen: there is no %q\n\n%s", args[0], usage)
	return exitUsage
}
