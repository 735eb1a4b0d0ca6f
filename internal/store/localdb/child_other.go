//go:build !linux

package localdb

import "syscall"

// childAttr gives the server its own process group.
func childAttr() *syscall.SysProcAttr { return &syscall.SysProcAttr{Setpgid: true} }
