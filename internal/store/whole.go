package store

import (
	"archive/zip"
	"bufio"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"hash"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Bounds of a backup that is read, whatever it says of itself: documents, bytes of one when it is unpacked, and bytes
// of a row.
const (
	mostDocuments = 200
	mostDocument  = 64 << 30
	mostRow       = 16 << 20
)

// DocumentSum is what the head of a backup says of one of its documents.
type DocumentSum struct {
	Rows   int    `json:"rows"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// digest is the sum of a head without the sum.
func (b Backup) digest() string {
	b.Sum = ""
	raw, _ := json.Marshal(b) // numbers and texts
	sum := sha256.Sum256(raw)
	return hex.EncodeToString(sum[:])
}

// summed counts and sums up what is written.
type summed struct {
	w io.Writer
	h hash.Hash
	n int64
}

func (s *summed) Write(p []byte) (int, error) {
	n, err := s.w.Write(p)
	s.h.Write(p[:n])
	s.n += int64(n)
	return n, err
}

// VerifyBackup reads a backup from its beginning to its end, a row at a time, and returns what it says of itself: every
// document it names is there with
// as many rows and bytes and the same sum, and nothing else is. One of before the sums is held to its rows and to what
// the zip itself keeps.
// ErrBackup says what is wrong; ErrNewer that it is of a newer version.
func VerifyBackup(r io.ReaderAt, size int64) (b Backup, err error) {
	if b, err = ReadBackup(r, size); err != nil {
		return b, err
	}
	if b.Sum != "" && b.Sum != b.digest() {
		return b, fmt.Errorf("%w: its head has been altered", ErrBackup)
	}
	if newest, err := newestVersion(); err != nil {
		return b, err
	} else if b.Version > newest {
		return b, fmt.Errorf("%w (the backup has version %d, this one knows %d)", ErrNewer, b.Version, newest)
	}
	z, err := zip.NewReader(r, size)
	if err != nil {
		return b, fmt.Errorf("%w: %w", ErrBackup, err)
	}
	if len(z.File) > mostDocuments {
		return b, fmt.Errorf("%w: it holds %d documents, and %d are allowed", ErrBackup, len(z.File), mostDocuments)
	}
	seen := map[string]bool{}
	for _, f := range z.File {
		table := strings.TrimSuffix(f.Name, ".jsonl")
		rows, named := b.Rows[table]
		switch {
		case seen[f.Name]:
			err = errors.New("it is there twice")
		case f.Name == backupHead:
		case !named:
			err = errors.New("its head does not name it")
		default:
			err = b.reads(f, table, rows)
		}
		if err != nil {
			return b, fmt.Errorf("%w: %s: %w", ErrBackup, f.Name, err)
		}
		seen[f.Name] = true
	}
	for table := range b.Rows {
		if !seen[table+".jsonl"] {
			return b, fmt.Errorf("%w: %s.jsonl is missing", ErrBackup, table)
		}
	}
	return b, nil
}

// reads reads one document and says what is wrong with it.
func (b Backup) reads(f *zip.File, table string, rows int) error {
	most := int64(min(f.UncompressedSize64, mostDocument))
	said, summed := b.Documents[table]
	if b.Sum != "" && !summed {
		return errors.New("its head has no sum of it")
	}
	if summed {
		most = min(said.Bytes, mostDocument)
	}
	in, err := f.Open()
	if err != nil {
		return err
	}
	defer in.Close()
	h := sha256.New()
	lines := rowsOf(io.TeeReader(io.LimitReader(in, most+1), h))
	n, bytes := 0, int64(0)
	for lines.Scan() {
		n, bytes = n+1, bytes+int64(len(lines.Bytes()))+1
	}
	if err := lines.Err(); err != nil {
		return err
	}
	switch {
	case bytes > most:
		return fmt.Errorf("it is longer than the %d bytes it says", most)
	case n != rows || summed && n != said.Rows:
		return fmt.Errorf("%d rows are there, and it says %d", n, rows)
	case summed && (bytes != said.Bytes || hex.EncodeToString(h.Sum(nil)) != said.SHA256):
		return errors.New("it has been altered: its sum is another")
	}
	return nil
}

// rowsOf reads a document a row at a time, none longer than is allowed.
func rowsOf(r io.Reader) *bufio.Scanner {
	lines := bufio.NewScanner(r)
	lines.Buffer(make([]byte, 64<<10), mostRow)
	lines.Split(func(data []byte, end bool) (int, []byte, error) { // as they are, to the byte
		if i := bytes.IndexByte(data, '\n'); i >= 0 {
			return i + 1, data[:i], nil
		}
		if end && len(data) > 0 {
			return 0, nil, errors.New("its last row is cut off")
		}
		return 0, nil, nil
	})
	return lines
}

// newestVersion is the version of tables this program knows.
func newestVersion() (newest int64, err error) {
	all, err := migrations.ReadDir("migrations")
	for _, f := range all {
		number, _, _ := strings.Cut(f.Name(), "_")
		if n, err := strconv.ParseInt(number, 10, 64); err == nil {
			newest = max(newest, n)
		}
	}
	return newest, err
}

// looked are the files that were read from beginning to end, by name, size and time, and whether they were whole.
var looked sync.Map

// lookedKey is what a file that was looked at is known by: one that has changed is another.
func lookedKey(file string, info os.FileInfo) string {
	return fmt.Sprint(file, "\x00", info.Size(), info.ModTime().UnixNano())
}

// foundDamaged says whether a file was looked at before and was not whole.
func foundDamaged(file string) bool {
	info, err := os.Stat(file)
	if err != nil {
		return true
	}
	was, ok := looked.Load(lookedKey(file, info))
	return ok && !was.(bool)
}

// verifiedFile says whether a file is a backup that is whole; one that was looked at and has not changed is not read
// again.
func verifiedFile(file string) bool {
	f, err := os.Open(file)
	if err != nil {
		return false
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return false
	}
	key := lookedKey(file, info)
	if was, ok := looked.Load(key); ok {
		return was.(bool)
	}
	_, err = VerifyBackup(f, info.Size())
	looked.Store(key, err == nil)
	return err == nil
}

// KeptSafe says what backups made by themselves stand in a folder.
type KeptSafe struct {
	Last    time.Time // when the newest was made that is whole; zero: there is none
	Whole   int       // so many are, or have not been found otherwise
	Damaged []string  // names of files that are none
	Ahead   []string  // names of those dated after now: the clock was put back, or they were dated so
}

// aheadBy is how much a clock may differ between two starts.
const aheadBy = time.Hour

// LookedAt opens the backups of a folder, the newest first, and reads each to its end until one is whole. Those before
// it have been read when they
// were made, or when older ones were taken away; what was found then counts, for a page waits for this.
func LookedAt(dir string, now time.Time) (k KeptSafe) {
	all := Backups(dir)
	slices.Reverse(all)
	for _, name := range all {
		at, _ := backupTime(name)
		switch {
		case at.After(now.Add(aheadBy)):
			k.Ahead = append(k.Ahead, name)
		case k.Last.IsZero() && !verifiedFile(filepath.Join(dir, name)), foundDamaged(filepath.Join(dir, name)):
			k.Damaged = append(k.Damaged, name)
		default:
			if k.Whole++; k.Last.IsZero() {
				k.Last = at
			}
		}
	}
	return k
}

// thin removes what is older than the newest whole backups that are kept.
func thin(dir string, now time.Time) {
	all := Backups(dir)
	slices.Reverse(all)
	whole := 0
	for _, name := range all {
		if at, _ := backupTime(name); at.After(now.Add(aheadBy)) {
			continue
		}
		file := filepath.Join(dir, name)
		if whole == KeptBackups {
			_ = os.Remove(file) // the next night tries again
		} else if verifiedFile(file) {
			whole++
		}
	}
}
