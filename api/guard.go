package api

import (
	"net"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
)

// guard refuses a request that names a foreign host (a rebound name) or comes from a foreign page.
func guard(hosts []string) echo.MiddlewareFunc {
	return func(next echo.HandlerFunc) echo.HandlerFunc {
		return func(c *echo.Context) error {
			r := c.Request()
			if !ownHost(r.Host, hosts) {
				return echo.NewHTTPError(http.StatusMisdirectedRequest, "")
			}
			if origin := r.Header.Get("Origin"); origin != "" {
				u, err := url.Parse(origin)
				if err != nil || u.Host != r.Host {
					return echo.NewHTTPError(http.StatusForbidden, "")
				}
			}
			return next(c)
		}
	}
}

func ownHost(host string, more []string) bool {
	name := host
	if h, _, err := net.SplitHostPort(host); err == nil {
		name = h
	}
	name = strings.Trim(name, "[]")
	return name == "localhost" || name == "127.0.0.1" || name == "::1" || slices.Contains(more, name)
}

const (
	// requestsPerSecond of one address, for good; requestBurst at once. A page that reloads everything asks for
	// some thirty things.
	requestsPerSecond = 300
	requestBurst      = 900
)

// rates keeps one address from taking all of the program. The cut is never held up.
func rates() echo.MiddlewareFunc {
	return middleware.RateLimiterWithConfig(middleware.RateLimiterConfig{
		Skipper: func(c *echo.Context) bool {
			p := c.Request().URL.Path
			return p == "/api/bench/cut" || !strings.HasPrefix(p, "/api/")
		},
		Store: middleware.NewRateLimiterMemoryStoreWithConfig(middleware.RateLimiterMemoryStoreConfig{Rate: requestsPerSecond, Burst: requestBurst, ExpiresIn: time.Minute}),
		IdentifierExtractor: func(c *echo.Context) (string, error) {
			host, _, err := net.SplitHostPort(c.Request().RemoteAddr)
			return host, err
		},
		DenyHandler: func(c *echo.Context, _ string, _ error) error {
			c.Response().Header().Set("Retry-After", "1")
			return echo.NewHTTPError(http.StatusTooManyRequests, "")
		},
	})
}

func headers(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		h := c.Response().Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "no-referrer")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Permissions-Policy", "serial=(self)")
		if strings.HasPrefix(c.Request().URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store")
		}
		return next(c)
	}
}
