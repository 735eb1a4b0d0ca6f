package localdb

import "syscall"

// childAttr gives the server its own process group and ends it when Hollen dies unasked.
func childAttr() *syscall.SysProcAttr {
	return &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGTERM}
}
