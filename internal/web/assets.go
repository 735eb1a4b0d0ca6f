package web

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"io/fs"
	"net/http"
	"strings"
)

//go:embed static
var staticFiles embed.FS

//go:embed templates/*.html
var templateFiles embed.FS

// assetBase is the address under which the static files of this build stand. It carries a
// hash of them all, so each may be kept by the browser for good, and the relative addresses
// inside style sheets and scripts stay true.
var assetBase = "/static/" + hashOf(staticFiles) + "/"

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

// serveStatic serves the embedded files; those asked for by this build's hash are cached
// for good.
func serveStatic() http.Handler {
	sub, err := fs.Sub(staticFiles, "static")
	if err != nil {
		panic(err)
	}
	files := http.FileServerFS(sub)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		path, ok := strings.CutPrefix(r.URL.Path, assetBase)
		if !ok || path == "" || strings.HasSuffix(path, "/") {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		http.StripPrefix(strings.TrimSuffix(assetBase, "/"), files).ServeHTTP(w, r)
	})
}
