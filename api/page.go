package api

import (
	"crypto/rand"
	"html/template"
	"io/fs"
	"net/http"
	"path"
	"strings"
)

// policy of what a page may do: nothing but what comes from here. Parts that bring styles of their own do so under the nonce of the answer.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"

// policyWith the nonce of one answer.
func policyWith(nonce string) string {
	return strings.Replace(policy, "style-src 'self'", "style-src 'self' 'nonce-"+nonce+"'", 1)
}

// page serves the built front end; every path that is not a file is the page itself, so that a place in it can be bookmarked. The page is
// a template, filled anew for every answer, and kept by nobody.
func page(files fs.FS) (http.Handler, error) {
	index, err := template.ParseFS(files, "index.html")
	if err != nil {
		return nil, err
	}
	server := http.FileServerFS(files)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := strings.TrimPrefix(path.Clean(r.URL.Path), "/")
		if info, err := fs.Stat(files, name); err == nil && !info.IsDir() && name != "index.html" {
			if strings.HasPrefix(name, "assets/") {
				w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
			}
			server.ServeHTTP(w, r)
			return
		}
		n := rand.Text() // that nobody can foresee
		h := w.Header()
		h.Set("Content-Security-Policy", policyWith(n))
		h.Set("Cache-Control", "no-store")
		h.Set("Content-Type", "text/html; charset=utf-8")
		if r.Method == http.MethodHead {
			return
		}
		_ = index.Execute(w, struct{ Nonce string }{n}) // whoever asked has gone
	}), nil
}

// unbuilt answers for a program that was built without its page.
func unbuilt(w http.ResponseWriter, _ *http.Request) {
	http.Error(w, "This program was built without its page. bin/start builds both; the API is here all the same.", http.StatusNotFound)
}
