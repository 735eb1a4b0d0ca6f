// Package static holds the styles, scripts, fonts and icons of the pages, and serves them.
package static

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io/fs"
	"net/http"
	"strings"
)

//go:embed css icons js vendor
var files embed.FS

// Base is the address under which the static files of this build stand. It carries a
// hash of them all, so each may be kept by the browser for good, and the relative addresses
// inside style sheets and scripts stay true.
var Base = "/static/" + hashOf(files) + "/"

// Has is the path of a file where there is one, "" where there is none.
func Has(path string) string {
	if _, err := fs.Stat(files, path); err != nil {
		return ""
	}
	return path
}

func hashOf(files fs.FS) string {
	h := sha256.New()
	err := fs.WalkDir(files, ".", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := fs.ReadFile(files, path)
		h.Write([]byte(path))
		h.Write(b)
		return err
	})
	if err != nil {
		panic(err) // embedded files are always readable
	}
	return hex.EncodeToString(h.Sum(nil))[:12]
}

// Serve serves the embedded files; those asked for by this build's hash are cached
// for good.
func Serve() http.Handler {
	served := http.FileServerFS(files)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		path, ok := strings.CutPrefix(r.URL.Path, Base)
		if !ok || path == "" || strings.HasSuffix(path, "/") {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		http.StripPrefix(strings.TrimSuffix(Base, "/"), served).ServeHTTP(w, r)
	})
}
