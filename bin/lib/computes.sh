#!/bin/sh
# Of bin/test, what only computes: formatting, lint, types, and the Go tests that go by no clock. It runs beside those that do, at the lowest
# priority: it takes the time in which they wait.
# usage: nice -n 19 sh bin/lib/computes.sh [--long]
set -eu
cd "$(dirname "$0")/../.."
. bin/lib/need.sh
began=$(date +%s)
unformatted=$(gofmt -l api app bench cmd core demo store ui/*.go bin/lib)
[ -z "$unformatted" ] || { say "not formatted: $unformatted"; exit 1; }
go vet ./...
go tool staticcheck ./...
npx biome check --error-on-warnings
(cd ui && npx tsc --noEmit)
(cd e2e && npx tsc)
say "   formatting, lint and types: $(($(date +%s) - began)) s"
began=$(date +%s)
# shellcheck disable=SC2046
go test ${1:+-tags long} $(go list ./... | grep -vE '/(api|app|store|bench/[a-z]+)$')
say "   Go tests that only compute: $(($(date +%s) - began)) s"
