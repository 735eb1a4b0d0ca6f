package store_test

import (
	"archive/zip"
	"bytes"
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/json"
	"errors"
	"io"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"sync"
	"testing"
	"time"

	"hollen/internal/core/rules"

	"hollen/internal/account"
	"hollen/internal/core/bench"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// documents are those of a backup, by name.
func documents(t *testing.T, raw []byte) map[string]string {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(raw), int64(len(raw)))
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]string{}
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		b, err := io.ReadAll(r)
		if err != nil {
			t.Fatal(err)
		}
		out[f.Name] = string(b)
	}
	return out
}

func backedUp(t *testing.T, s *store.Store, secrets bool) []byte {
	t.Helper()
	var b bytes.Buffer
	if _, err := s.Backup(context.Background(), &b, secrets); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func restored(t *testing.T, raw []byte) *store.Store {
	t.Helper()
	dsn := storetest.DSN(t)
	if _, err := store.Restore(context.Background(), dsn, storetest.Now, bytes.NewReader(raw),
		int64(len(raw))); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(context.Background(), dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

// Everything comes back to the letter: each document of a backup of what was restored is the one it was restored from.
// Passwords and tokens
// come along when they are asked for, and not otherwise.
func TestBackupAndRestore(t *testing.T) {
	s, ctx := logged(t), context.Background()
	hash, err := account.Hash(ctx, "a heron on the quay")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddAccount(ctx, "Linde", "keeps", hash); err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddDevice(ctx, "bench", "scale"); err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddPicture(ctx, 1, []byte{0xff, 0xd8, 0, 1, 2, '\n', '"'}); err != nil {
		t.Fatal(err)
	}
	if err := s.Audited(ctx, store.Audit{Who: "Linde", What: "deleted", Detail: "batch “<&\u2028>”"}); err != nil {
		t.Fatal(err)
	}
	if err := s.Delete(ctx, 3); err != nil {
		t.Fatal(err)
	}
	for _, secrets := range []bool{true, false} {
		was := backedUp(t, s, secrets)
		back := restored(t, was)
		a, b := documents(t, was), documents(t, backedUp(t, back, secrets))
		if len(a) < 14 || len(a) != len(b) {
			t.Errorf("%d documents, %d", len(a), len(b))
		}
		for name, doc := range a {
			if name != "hollen-backup.json" && doc != b[name] {
				t.Errorf("%s: %.300s\n%.300s", name, doc, b[name])
			}
		}
		linde, err := back.AccountNamed(ctx, "Linde")
		right, e := account.Verify(ctx, linde.Password, "a heron on the quay")
		if err != nil || e != nil || right != secrets {
			t.Errorf("secrets %v: %v", secrets, err)
		}
		if strings.Contains(a["accounts.jsonl"], "argon2id") != secrets {
			t.Error("a password stands in a backup that is to have none")
		}
		if l, _, _, err := back.Learned(ctx, rules.Default().Learn); err != nil || l.Len() < 100 {
			t.Errorf("%v", err)
		}
		if _, err := back.Get(ctx, 3); !errors.Is(err, store.ErrDeleted) {
			t.Errorf("what was deleted: %v", err)
		}
	}
}

// While others write, a backup is of one moment: every event it holds is of a making it holds, as far as that making
// says it has come.
func TestBackupIsOfOneMoment(t *testing.T) {
	s, m := begun(t)
	ctx, cancel := context.WithCancel(context.Background())
	var wait sync.WaitGroup
	for w := range 3 {
		wait.Go(func() {
			for i := 0; ctx.Err() == nil && i < 3000; i++ {
				_, _ = s.AddEvents(ctx, m.ID, []bench.Event{{ID: strings.Repeat("abc"[w:w+1], 3) +
					storetest.Now().Format("150405.000000000"), At: storetest.Now(), Says: bench.Noted{Text: "x"}}})
			}
		})
	}
	for range 4 {
		back := restored(t, backedUp(t, s, false))
		got, err := back.Making(context.Background(), m.ID)
		if err != nil {
			t.Fatal(err)
		}
		events, last, err := back.Events(context.Background(), m.ID, 0)
		if err != nil || last != got.Seq || uint64(len(events)) != got.Seq {
			t.Errorf("%d events up to %d, and the making says %d: %v", len(events), last, got.Seq, err)
		}
	}
	cancel()
	wait.Wait()
}

// A backup of every version there has been is read by this one; it stands in testdata as it was written.
func TestBackupsOfBefore(t *testing.T) {
	all, err := filepath.Glob("testdata/backup-*.zip")
	if err != nil || len(all) == 0 {
		t.Fatalf("no backup of any version: %v", err)
	}
	for _, f := range all {
		raw, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		s := restored(t, raw)
		list, _, err := s.List(context.Background(), store.Query{})
		if err != nil || len(list) != 10 || list[0].Row.Name == "" {
			t.Errorf("%s: %d batches, %v", f, len(list), err)
		}
		if b, err := s.Get(context.Background(), 7); err != nil || b.Request.Name != "Tagliatelle for Saturday" {
			t.Errorf("%s: %v", f, err)
		}
		if made, err := s.NewestMade(context.Background(), 10); err != nil || len(made) != 1 {
			t.Errorf("%s: %d makings, %v", f, len(made), err)
		}
	}
}

// What killed restores and backups have left goes; what goes on stays.
func TestClearLeft(t *testing.T) {
	ctx, dir, dsn := t.Context(), t.TempDir(), storetest.DSN(t)
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	pool, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer pool.Close()
	names := []string{"hollen_beside_left" + strings.ToLower(rand.Text()[:6]), "hollen_beside_held" +
		strings.ToLower(rand.Text()[:6])}
	for _, n := range names {
		if _, err := pool.ExecContext(ctx, "CREATE DATABASE "+n); err != nil {
			t.Fatal(err)
		}
		defer pool.ExecContext(context.WithoutCancel(ctx), "DROP DATABASE IF EXISTS "+n)
	}
	hold, err := pool.Conn(ctx)
	if err != nil {
		t.Fatal(err)
	}
	defer hold.Close()
	if _, err := hold.ExecContext(ctx, "DO GET_LOCK(?, 0)", names[1]); err != nil {
		t.Fatal(err)
	}
	old, fresh := filepath.Join(dir, "hollen-a.zip.part"), filepath.Join(dir, "hollen-b.zip.part")
	for f, age := range map[string]time.Duration{old: 2 * time.Hour, fresh: time.Minute} {
		if err := errors.Join(os.WriteFile(f, nil, 0o600), os.Chtimes(f, time.Time{},
			storetest.Now().Add(-age))); err != nil {
			t.Fatal(err)
		}
	}
	if err := s.ClearLeft(ctx, dir); err != nil {
		t.Fatal(err)
	}
	var there int
	for i, n := range names {
		if err := pool.QueryRowContext(ctx, "SELECT COUNT(*) FROM information_schema.schemata WHERE schema_name = ?",
			n).Scan(&there); err != nil || there != i {
			t.Errorf("%s: %d, %v", n, there, err)
		}
	}
	if _, err := os.Stat(old); err == nil {
		t.Error("half a backup is left")
	}
	if _, err := os.Stat(fresh); err != nil {
		t.Errorf("one that goes on: %v", err)
	}
}

// What is no backup, one of a newer version, a broken one, and a database that holds something are refused, and nothing
// is written.
func TestRestoreRefuses(t *testing.T) {
	s, ctx := logged(t), context.Background()
	raw := backedUp(t, s, false)
	try := func(raw []byte, dsn string) error {
		_, err := store.Restore(ctx, dsn, storetest.Now, bytes.NewReader(raw), int64(len(raw)))
		return err
	}
	full := storetest.DSN(t)
	if err := try(raw, full); err != nil {
		t.Fatal(err)
	}
	if err := try(raw, full); !errors.Is(err, store.ErrNotEmpty) {
		t.Errorf("into a database that holds something: %v", err)
	}
	for name, bad := range map[string][]byte{"rubbish": []byte("PK rubbish"), "cut": raw[:len(raw)/2], "empty": {},
		"newer": rewritten(t, raw, "hollen-backup.json", `"version": `, `"version": 9`), "fewer": rewritten(t, raw,
			"rooms.jsonl", "{", "")} {
		dsn := storetest.DSN(t)
		if err := try(bad, dsn); err == nil {
			t.Errorf("%s is restored", name)
		}
		s, err := store.Open(ctx, dsn, storetest.Now)
		if err != nil {
			t.Fatal(err)
		}
		if list, _, err := s.List(ctx, store.Query{}); err != nil || len(list) > 0 {
			t.Errorf("%s: %d batches are written, %v", name, len(list), err)
		}
		s.Close()
	}
}

// A backup is read to its end before it is believed, for a preview, too: a document that is missing, altered, there
// twice or not named, an altered
// head, flipped bytes, another version, and a row too long to be one are each refused, in little memory. One of before
// the sums is read.
func TestWhole(t *testing.T) {
	raw := backedUp(t, logged(t), false)
	whole := func(raw []byte) error {
		_, err := store.VerifyBackup(bytes.NewReader(raw), int64(len(raw)))
		return err
	}
	if err := whole(raw); err != nil {
		t.Fatal(err)
	}
	without := func(drop string, more ...[2]string) []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
		put := func(name, doc string) {
			f, err := z.Create(name)
			if err == nil {
				_, err = f.Write([]byte(doc))
			}
			if err != nil {
				t.Fatal(err)
			}
		}
		for n, doc := range documents(t, raw) {
			if n != drop {
				put(n, doc)
			}
		}
		for _, m := range more {
			put(m[0], m[1])
		}
		if err := z.Close(); err != nil {
			t.Fatal(err)
		}
		return b.Bytes()
	}
	flipped := bytes.Clone(raw)
	flipped[len(raw)/3] ^= 0x55
	rooms := documents(t, raw)["rooms.jsonl"]
	bomb := without("rooms.jsonl", [2]string{"rooms.jsonl", strings.Repeat("{", 256<<20)})
	for name, c := range map[string]struct {
		raw  []byte
		want string
	}{
		"missing":     {without("rooms.jsonl"), "rooms.jsonl is missing"},
		"no row less": {rewritten(t, raw, "rooms.jsonl", `"name":"`, `"name":"x`), "rooms.jsonl: it"},
		"a row less": {without("rooms.jsonl", [2]string{"rooms.jsonl", rooms[:strings.LastIndex(strings.TrimSuffix(
			rooms, "\n"), "\n")+1]}), "rows are there, and it says"},
		"cut off": {without("rooms.jsonl", [2]string{"rooms.jsonl", strings.TrimSuffix(rooms, "\n")}), "cut off"},
		"twice":   {without("", [2]string{"rooms.jsonl", rooms}), "there twice"},
		"unnamed": {without("", [2]string{"more.jsonl", "{}\n"}), "does not name it"},
		"altered head": {rewritten(t, raw, "hollen-backup.json", `"workshop": "`, `"workshop": "x`),
			"head has been altered"},
		"newer":   {rewritten(t, raw, "hollen-backup.json", `"version": `, `"version": 9`), "altered"},
		"flipped": {flipped, ""},
		"bomb":    {bomb, "rooms.jsonl"},
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		err := whole(c.raw)
		runtime.ReadMemStats(&after)
		if !errors.Is(err, store.ErrBackup) || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%s: %v, want %q", name, err, c.want)
		}
		if used := after.TotalAlloc - before.TotalAlloc; used > 80<<20 {
			t.Errorf("%s: %d MB were used", name, used>>20)
		}
	}
	// A head of before: without sums.
	var head store.Backup
	if err := json.Unmarshal([]byte(documents(t, raw)["hollen-backup.json"]), &head); err != nil {
		t.Fatal(err)
	}
	head.Sum, head.Documents = "", nil
	old, err := json.Marshal(head)
	if err != nil {
		t.Fatal(err)
	}
	if err := whole(without("hollen-backup.json", [2]string{"hollen-backup.json", string(old)})); err != nil {
		t.Errorf("of before the sums: %v", err)
	}
	head.Version = 99
	if old, err = json.Marshal(head); err != nil {
		t.Fatal(err)
	}
	if err := whole(without("hollen-backup.json", [2]string{"hollen-backup.json", string(old)})); !errors.Is(err,
		store.ErrNewer) {
		t.Errorf("of a version nobody knows: %v", err)
	}
}

// rewritten is a backup with something else in one of its documents.
func rewritten(t *testing.T, raw []byte, name, from, to string) []byte {
	t.Helper()
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for n, doc := range documents(t, raw) {
		if n == name {
			doc = strings.Replace(doc, from, to, 1)
		}
		f, err := z.Create(n)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := f.Write([]byte(doc)); err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// What is no backup is refused without harm, whatever it is.
func FuzzReadBackup(f *testing.F) {
	raw, err := os.ReadFile("testdata/backup-1.zip")
	if err != nil {
		f.Fatal(err)
	}
	f.Add(raw[:2000])
	f.Add([]byte("PK\x05\x06"))
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	w, _ := z.Create("hollen-backup.json")
	_, _ = w.Write([]byte(`{"format":"hollen-backup/1","version":3,"rows":{"rooms":1}}`))
	_ = z.Close()
	f.Add(b.Bytes())
	f.Fuzz(func(t *testing.T, doc []byte) {
		if b, err := store.ReadBackup(bytes.NewReader(doc), int64(len(doc))); err == nil &&
			(b.Format != store.BackupFormat || b.Words() == "") {
			t.Errorf("%+v", b)
		}
	})
}

// What somebody has added to the database to look at it, a view, is no part of a backup.
func TestViewsAreNotBackedUp(t *testing.T) {
	dsn := storetest.DSN(t)
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.Exec("CREATE VIEW our_batches AS SELECT id FROM batches"); err != nil {
		t.Fatal(err)
	}
	b, err := s.Backup(ctx, io.Discard, false)
	if _, there := b.Rows["our_batches"]; err != nil || there || len(b.Rows) < 10 {
		t.Errorf("%v, %v", b.Rows, err)
	}
}
