package store

import (
	"archive/zip"
	"bufio"
	"bytes"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hollen/internal/clock"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/pressly/goose/v3"
)

// BackupFormat names the version of a backup.
const BackupFormat = "hollen-backup/1"

// backupHead is the document of a backup that says what it is.
const backupHead = "hollen-backup.json"

// Backup says what a backup holds. A backup is a zip of this and, for each table, a document a line for each of its
// rows.
type Backup struct {
	Format   string         `json:"format"`
	Made     time.Time      `json:"made"`
	Identity string         `json:"identity"` // of the database
	Version  int64          `json:"version"`  // of its tables
	Workshop string         `json:"workshop"`
	Secrets  bool           `json:"secrets"` // passwords and tokens, hashed, are in it
	Rows     map[string]int `json:"rows"`    // by table

	Documents map[string]DocumentSum `json:"documents,omitempty"` // by table; none in backups of before
	Sum       string                 `json:"sum,omitempty"`       // of all this but the sum, SHA-256
}

// passed are tables that no backup holds: sessions and tries end with the server, what is learned and added up is made
// anew.
var passed = []string{goose.DefaultTablename, "hollen_lock", "sessions", "sign_tries", "sign_counts", "sign_devices",
	"invites", "learned", "identity", "seeded"}

// secret are columns a backup leaves empty unless it is asked for them.
var secret = map[string][]string{"accounts": {"password", "pin"}, "devices": {"token"}}

// ErrBackup says that a file is no backup that can be read.
var ErrBackup = errors.New("that is no backup of Hollen’s that can be read")

// Backup writes a backup of everything as it stands at one moment, while it is in use.
func (s *Store) Backup(ctx context.Context, w io.Writer, secrets bool) (Backup, error) {
	return backup(ctx, s.sql, s.now(), w, secrets)
}

func backup(ctx context.Context, pool *sql.DB, now time.Time, w io.Writer, secrets bool) (b Backup, err error) {
	c, err := pool.Conn(ctx)
	if err != nil {
		return b, err
	}
	defer c.Close()
	for _, q := range []string{"SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ",
		"START TRANSACTION WITH CONSISTENT SNAPSHOT"} {
		if _, err := c.ExecContext(ctx, q); err != nil {
			return b, err
		}
	}
	defer c.ExecContext(context.WithoutCancel(ctx), "ROLLBACK")
	b = Backup{Format: BackupFormat, Made: now.UTC().Truncate(time.Second), Secrets: secrets, Rows: map[string]int{},
		Documents: map[string]DocumentSum{}}
	if b.Version, err = versionOf(ctx, pool); err != nil {
		return b, err
	}
	_ = c.QueryRowContext(ctx, "SELECT name FROM identity").Scan(&b.Identity) // an older one has none
	_ = c.QueryRowContext(ctx, "SELECT name FROM workshops").Scan(&b.Workshop)
	tables, err := columnsOf(ctx, c)
	if err != nil {
		return b, err
	}
	z := zip.NewWriter(w)
	for _, t := range tables {
		if slices.Contains(passed, t.name) {
			continue
		}
		f, err := z.CreateHeader(&zip.FileHeader{Name: t.name + ".jsonl", Method: zip.Deflate, Modified: b.Made})
		if err != nil {
			return b, err
		}
		sum := &summed{w: f, h: sha256.New()}
		if b.Rows[t.name], err = t.dump(ctx, c, sum, secrets); err != nil {
			return b, fmt.Errorf("%s: %w", t.name, err)
		}
		b.Documents[t.name] = DocumentSum{b.Rows[t.name], sum.n, hex.EncodeToString(sum.h.Sum(nil))}
	}
	b.Sum = b.digest()
	f, err := z.CreateHeader(&zip.FileHeader{Name: backupHead, Method: zip.Deflate, Modified: b.Made})
	if err != nil {
		return b, err
	}
	e := json.NewEncoder(f)
	e.SetIndent("", "  ")
	return b, errors.Join(e.Encode(b), z.Close())
}

// BackupOlder writes a backup of a database whose tables may be those of an older version to a file.
func BackupOlder(ctx context.Context, dsn string, now clock.Clock, file string) error {
	pool, err := connect(dsn)
	if err != nil {
		return err
	}
	defer pool.Close()
	_, err = (&Store{sql: pool, now: now}).BackupFile(ctx, file, true, nil)
	return err
}

// table is one table and its columns, those apart that the database works out itself.
type table struct {
	name    string
	columns []column
	key     []string // its primary key
}

type column struct {
	name string
	kind string // number, text, json, bytes, time, date
}

// names are what a query of one column finds.
func names(ctx context.Context, c *sql.Conn, query string) (map[string]bool, error) {
	rows, err := c.QueryContext(ctx, query)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := map[string]bool{}
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		out[name] = true
	}
	return out, rows.Err()
}

// columnsOf reads the tables there are, by name. What is known of the tables is asked for one at a time: where it is
// joined, the server opens
// every table of all its databases for each.
func columnsOf(ctx context.Context, c *sql.Conn) (out []table, err error) {
	tables, err := names(ctx, c, "SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() "+
		"AND table_type = 'BASE TABLE'")
	if err != nil {
		return nil, err
	}
	// MariaDB keeps JSON as text that is checked.
	documents, err := names(ctx, c, "SELECT CONCAT(table_name, '.', SUBSTRING_INDEX(SUBSTRING_INDEX(check_clause, "+
		"'`', 2), '`', -1)) "+
		"FROM information_schema.check_constraints WHERE constraint_schema = DATABASE() AND check_clause LIKE "+
		"'json_valid(%'")
	if err != nil {
		return nil, err
	}
	rows, err := c.QueryContext(ctx, `SELECT table_name, column_name, data_type, column_key = 'PRI' FROM information_schema.columns
		WHERE table_schema = DATABASE() AND COALESCE(generation_expression, '') = '' ORDER BY table_name, ordinal_position`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var name, col, kind string
		var key bool
		if err := rows.Scan(&name, &col, &kind, &key); err != nil {
			return nil, err
		}
		if !tables[name] {
			continue // a view
		}
		isJSON := documents[name+"."+col]
		if len(out) == 0 || out[len(out)-1].name != name {
			out = append(out, table{name: name})
		}
		t := &out[len(out)-1]
		switch {
		case isJSON:
			kind = "json"
		case strings.Contains(kind, "blob"), strings.Contains(kind, "binary"):
			kind = "bytes"
		case strings.Contains(kind, "int"), kind == "double", kind == "float", kind == "decimal":
			kind = "number"
		case kind == "date":
		case kind == "datetime", kind == "timestamp":
			kind = "time"
		default:
			kind = "text"
		}
		t.columns = append(t.columns, column{col, kind})
		if key {
			t.key = append(t.key, quoted(col))
		}
	}
	return out, rows.Err()
}

func quoted(name string) string { return "`" + strings.ReplaceAll(name, "`", "") + "`" }

func (t *table) list() string {
	var all []string
	for _, c := range t.columns {
		all = append(all, quoted(c.name))
	}
	return strings.Join(all, ", ")
}

// timeForm is how moments stand in a backup: UTC, to the microsecond.
const timeForm = "2006-01-02T15:04:05.999999Z"

// dump writes the rows of a table, in the order of its key.
func (t *table) dump(ctx context.Context, c *sql.Conn, w io.Writer, secrets bool) (n int, err error) {
	query := "SELECT " + t.list() + " FROM " + quoted(t.name)
	if len(t.key) > 0 {
		query += " ORDER BY " + strings.Join(t.key, ", ")
	}
	rows, err := c.QueryContext(ctx, query)
	if err != nil {
		return 0, err
	}
	defer rows.Close()
	out := bufio.NewWriter(w)
	values, into := make([]sql.RawBytes, len(t.columns)), make([]any, len(t.columns))
	for i := range values {
		into[i] = &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return n, err
		}
		out.WriteByte('{')
		for i, col := range t.columns {
			if i > 0 {
				out.WriteByte(',')
			}
			v := []byte(values[i])
			if !secrets && slices.Contains(secret[t.name], col.name) {
				v = []byte{}
			}
			out.Write(plainJSON(col.name))
			out.WriteByte(':')
			out.Write(col.write(v))
		}
		out.WriteString("}\n")
		n++
	}
	return n, errors.Join(rows.Err(), out.Flush())
}

// plainJSON writes a text as JSON, its signs as they are.
func plainJSON(v any) []byte {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	_ = e.Encode(v) // texts and bytes can always be written
	return bytes.TrimSuffix(b.Bytes(), []byte("\n"))
}

func (c column) write(v []byte) []byte {
	switch {
	case v == nil:
		return []byte("null")
	case c.kind == "json" && json.Valid(v) && !bytes.ContainsAny(v, "\n\r"):
		return v
	case c.kind == "json": // as it is kept, to the letter
		return plainJSON(string(v))
	case c.kind == "bytes":
		return plainJSON(base64.StdEncoding.EncodeToString(v))
	case c.kind == "number":
		return v
	case c.kind == "date":
		return plainJSON(string(v[:min(len(v), len(time.DateOnly))]))
	case c.kind == "time":
		if t, err := time.Parse("2006-01-02T15:04:05.999999Z07:00", string(v)); err == nil {
			return plainJSON(t.UTC().Format(timeForm))
		}
	}
	return plainJSON(string(v))
}

// read turns what stands in a backup into what the database takes.
func (c column) read(v json.RawMessage) (any, error) {
	if len(v) == 0 || string(v) == "null" {
		return nil, nil
	}
	if c.kind == "json" && v[0] != '"' || c.kind == "number" {
		return string(v), nil
	}
	var text string
	if err := json.Unmarshal(v, &text); err != nil {
		return nil, err
	}
	switch c.kind {
	case "bytes":
		return base64.StdEncoding.DecodeString(text)
	case "time":
		return time.Parse(timeForm, text)
	}
	return text, nil
}

// ReadBackup reads what a backup says of itself.
func ReadBackup(r io.ReaderAt, size int64) (b Backup, err error) {
	z, err := zip.NewReader(r, size)
	if err != nil {
		return b, fmt.Errorf("%w: %w", ErrBackup, err)
	}
	f, err := z.Open(backupHead)
	if err != nil {
		return b, fmt.Errorf("%w: %w", ErrBackup, err)
	}
	defer f.Close()
	if err := json.NewDecoder(io.LimitReader(f, 1<<20)).Decode(&b); err != nil || b.Format != BackupFormat {
		return b, fmt.Errorf("%w: its format is %.40q", ErrBackup, b.Format)
	}
	return b, nil
}

// counted are the tables people are told of.
var counted = []struct{ table, one, many string }{
	{"batches", "batch", "batches"},
	{"revisions", "version", "versions"},
	{"makings", "making", "makings"},
	{
		"making_events",
		"event",
		"events",
	},
	{"cabinet", "thing of the cabinet", "things of the cabinet"},
	{"rooms", "room", "rooms"},
	{
		"accounts",
		"account",
		"accounts",
	},
	{"making_pictures", "picture", "pictures"},
	{"days", "day", "days"},
	{"orders", "order", "orders"},
	{"standing_orders", "order of the week", "orders of the week"},
	{"devices", "device", "devices"},
}

// Beyond says, for people, what a backup holds more of than another.
func (b Backup) Beyond(than Backup) (out []string) {
	for _, x := range counted {
		if n, m := b.Rows[x.table], than.Rows[x.table]; n > m {
			out = append(out, fmt.Sprintf("%d %s for %d", n, x.many, m))
		}
	}
	return out
}

// Words say what a backup holds, for people.
func (b Backup) Words() string {
	out := []string{}
	for _, x := range counted {
		if n := b.Rows[x.table]; n == 1 {
			out = append(out, "1 "+x.one)
		} else if n > 1 {
			out = append(out, strconv.Itoa(n)+" "+x.many)
		}
	}
	if len(out) == 0 {
		return "nothing"
	}
	return strings.Join(out, ", ")
}
