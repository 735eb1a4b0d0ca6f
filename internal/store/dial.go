package store

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"strings"
	"sync/atomic"
	"time"

	"github.com/go-sql-driver/mysql"
)

// connector connects to the one of several addresses that takes writes, and asks the last one that did first.
type connector struct {
	all []driver.Connector
	at  atomic.Int32
}

// patience is how long one of several addresses may take to answer.
const patience = 2 * time.Second

// Connect returns a connection to the first address that answers and takes writes.
func (c *connector) Connect(ctx context.Context) (driver.Conn, error) {
	if len(c.all) == 1 {
		return c.all[0].Connect(ctx)
	}
	var errs []error
	first := int(c.at.Load())
	for i := range c.all {
		k := (first + i) % len(c.all)
		conn, err := try(ctx, c.all[k])
		if err == nil {
			c.at.Store(int32(k))
			return conn, nil
		}
		errs = append(errs, err)
	}
	return nil, errors.Join(errs...)
}

// Driver is the driver of the first address.
func (c *connector) Driver() driver.Driver { return c.all[0].Driver() }

// errReadOnly is of a server that takes no writes: one that follows another.
var errReadOnly = errors.New("it takes no writes")

func try(ctx context.Context, c driver.Connector) (driver.Conn, error) {
	ctx, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	conn, err := c.Connect(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := conn.(driver.QueryerContext).QueryContext(ctx, "SELECT @@read_only", nil)
	if err == nil {
		value := make([]driver.Value, 1)
		if err = rows.Next(value); err == nil && fmt.Sprintf("%s", value[0]) != "0" && fmt.Sprint(value[0]) != "0" {
			err = errReadOnly
		}
		_ = rows.Close()
	}
	if err != nil {
		_ = conn.Close()
		return nil, err
	}
	return conn, nil
}

// addresses are a DSN of several addresses as one of each.
func addresses(dsn string) (out []string) {
	head, rest, ok := strings.Cut(dsn, "@tcp(")
	list, tail, closed := strings.Cut(rest, ")")
	if !ok || !closed {
		return []string{dsn}
	}
	for a := range strings.SplitSeq(list, ",") {
		out = append(out, head+"@tcp("+strings.TrimSpace(a)+")"+tail)
	}
	return out
}

// settings are what every connection is made with; alone says that there is no other address to go to.
func settings(dsn string, alone bool) (driver.Connector, error) {
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return nil, fmt.Errorf("dsn: %w; expected user:password@tcp(host:port)/database", err)
	}
	if cfg.DBName == "" {
		return nil, errors.New("dsn: names no database; expected user:password@tcp(host:port)/database")
	}
	cfg.ParseTime = true
	cfg.Loc = time.UTC
	cfg.ClientFoundRows = true
	cfg.InterpolateParams = true
	cfg.Collation = "utf8mb4_unicode_ci"
	cfg.Timeout = 10 * time.Second
	cfg.ReadTimeout = 30 * time.Second
	cfg.WriteTimeout = 30 * time.Second
	cfg.RejectReadOnly = !alone
	c, err := mysql.NewConnector(cfg)
	if err != nil {
		return nil, fmt.Errorf("dsn: %w", err)
	}
	return c, nil
}
