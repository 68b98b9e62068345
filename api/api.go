// Package api turns HTTP into calls and nothing else: typed operations, the live socket, the page's files.
package api

import (
	"context"
	"errors"
	"io/fs"
	"log/slog"
	"net/http"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humago"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/core/trace"
)

// BodyLimit of every request, bytes.
const BodyLimit = 2 << 20

// answerLevel packs an answer as tightly as costs no time: of the levels of gzip the last one before it gets slow. A quad of 180 kB goes out
// as 25 kB, 6 kB less than at the quickest level, in less than a millisecond more. The page goes out once and is kept: as tightly as it can be.
const answerLevel, pageLevel = 6, 9

// Options of the server.
type Options struct {
	// Hosts that may be asked for besides the loopback's names, without port.
	Hosts []string
	// Page is the built front end, its index.html a template with a place for the nonce; nil says that there is none.
	Page fs.FS
}

// New handler for an app. An error is a page that is none.
func New(a *app.App, o Options) (http.Handler, error) {
	mux := http.NewServeMux()
	operations(newHuma(mux), a)

	e := echo.New()
	e.HTTPErrorHandler = refuse
	e.Use(middleware.Recover(), guard(o.Hosts), echo.WrapMiddleware(http.NewCrossOriginProtection().Handler), headers, rates())
	e.GET("/api/live", echo.WrapHandler(liveSocket(a)))
	e.GET("/api/cable", echo.WrapHandler(cableSocket(a)))
	e.POST("/api/archive", echo.WrapHandler(mux), middleware.BodyLimit(book.ArchiveLimit))
	e.POST(tracesAt+"*", echo.WrapHandler(mux), middleware.BodyLimit(trace.Limit+1))
	e.Any("/api/*", echo.WrapHandler(mux), middleware.BodyLimit(BodyLimit), middleware.GzipWithConfig(middleware.GzipConfig{Level: answerLevel}))
	shown := http.Handler(http.HandlerFunc(unbuilt))
	if o.Page != nil {
		var err error
		if shown, err = page(o.Page); err != nil {
			return nil, err
		}
	}
	e.Any("/*", echo.WrapHandler(shown), middleware.GzipWithConfig(middleware.GzipConfig{Level: pageLevel}))
	return e, nil
}

func newHuma(mux *http.ServeMux) huma.API {
	cfg := huma.DefaultConfig("Vivid Perch", "1")
	cfg.OpenAPIPath, cfg.DocsPath, cfg.SchemasPath = "/api/openapi", "", ""
	cfg.CreateHooks = nil
	cfg.Components = &huma.Components{Schemas: huma.NewMapRegistry("#/components/schemas/", schemaName)}
	return humago.New(mux, cfg)
}

// schemaName keeps types of the same name in two rooms apart.
func schemaName(t reflect.Type, hint string) string {
	name := huma.DefaultSchemaNamer(t, hint)
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	path := t.PkgPath()
	switch room := path[strings.LastIndexByte(path, '/')+1:]; room {
	case "flight", "protocol", "check":
		return strings.ToUpper(room[:1]) + room[1:] + name
	}
	return name
}

// Document is the OpenAPI description of all operations and of the socket's messages, as JSON.
func Document() ([]byte, error) {
	h := newHuma(http.NewServeMux())
	operations(h, nil)
	return h.OpenAPI().MarshalJSON()
}

// Problem is an RFC 9457 answer with the core's code and place.
type Problem struct {
	Title  string `json:"title"`
	Status int    `json:"status"`
	Detail string `json:"detail"`
	Code   string `json:"code"`
	Place  string `json:"place,omitempty"`
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus of the answer.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType of a problem.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

func init() {
	huma.DefaultArrayNullable = false
	huma.NewError = func(status int, msg string, errs ...error) huma.StatusError {
		p := &Problem{Title: http.StatusText(status), Status: status, Detail: msg, Code: "request"}
		for _, err := range errs {
			var d *huma.ErrorDetail
			if errors.As(err, &d) {
				p.Detail, p.Place = d.Message, strings.TrimPrefix(d.Location, "body.")
				break
			}
			if err != nil {
				p.Detail += ": " + err.Error()
			}
		}
		return p
	}
}

// saidOf the answers that are given before an operation is reached.
var saidOf = map[int]Problem{
	http.StatusRequestEntityTooLarge: {Code: "too-large", Detail: "That is larger than 2 MB; nothing was taken."},
	http.StatusMisdirectedRequest:    {Code: "foreign-host", Detail: "This program does not serve that host name."},
	http.StatusForbidden:             {Code: "foreign-origin", Detail: "Requests from other pages are refused."},
	http.StatusNotFound:              {Code: "no-place", Detail: "There is no such place here."},
	http.StatusTooManyRequests:       {Code: "too-many", Detail: "That is more than one pilot asks for; wait a second."},
}

// refuse answers what no operation answered.
func refuse(c *echo.Context, err error) {
	if res, _ := echo.UnwrapResponse(c.Response()); res != nil && res.Committed {
		return
	}
	status := echo.StatusCode(err)
	p, known := saidOf[status]
	if !known {
		if status < 400 || status >= 500 {
			slog.Error("request failed", "error", err)
			status = http.StatusInternalServerError
		}
		p = Problem{Code: "request", Detail: http.StatusText(status) + "."}
	}
	p.Status, p.Title = status, http.StatusText(status)
	c.Response().Header().Set("Content-Type", p.ContentType(""))
	if err := c.JSON(status, p); err != nil {
		slog.Debug("answer not written", "error", err)
	}
}

var statusOf = map[string]int{
	"no-quad": http.StatusNotFound, "no-revision": http.StatusNotFound, "no-entry": http.StatusNotFound, "no-station": http.StatusNotFound, "changed": http.StatusConflict, "busy": http.StatusConflict,
	"device-away": http.StatusServiceUnavailable, "database-away": http.StatusServiceUnavailable, "no-bench": http.StatusServiceUnavailable, "device-slow": http.StatusGatewayTimeout,
	"device-taken": http.StatusConflict, "other-quad": http.StatusConflict, "name-taken": http.StatusConflict, "too-large": http.StatusRequestEntityTooLarge,
}

// statusGone is what web servers note of a request that its sender gave up.
const statusGone = 499

// problem turns an error into an answer. What is not a Fault is ours: it is logged, and the pilot is told
// no more than that.
func problem(err error) error {
	if err == nil {
		return nil
	}
	f := quad.AsFault(err)
	if f == nil && errors.Is(err, context.Canceled) {
		// Whoever asked has gone: nobody reads this, and nothing is wrong here.
		return &Problem{Title: "Gone", Status: statusGone, Detail: "The request was given up.", Code: "given-up"}
	}
	if f == nil {
		slog.Error("request failed", "error", err)
		return &Problem{Title: "Internal error", Status: http.StatusInternalServerError, Detail: "Something went wrong here; nothing was changed.", Code: "internal"}
	}
	status, ok := statusOf[f.Code]
	if !ok {
		status = http.StatusUnprocessableEntity
	}
	return &Problem{Title: http.StatusText(status), Status: status, Detail: sentence(f.Sentence), Code: f.Code, Place: f.Place}
}

func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + strings.TrimSuffix(s[1:], ".") + "."
}
