// Package benchtest runs simulated benches for tests.
package benchtest

import (
	"context"
	"net"
	"testing"

	"vividperch/bench/standin"
	"vividperch/demo"
)

// Token that every bench of a test wants to hear.
const Token = "a token of the test"

// Serve runs a bench on loopback until the test ends, and gives its address. A stepped one's clock stands
// still between the step calls of its clients.
func Serve(t testing.TB, kit standin.Kit, stepped bool) (address string) {
	t.Helper()
	return serve(t, stepped, 1, kit)
}

// ServeShelf runs a bench on which the first of some kits lies, and the others can be put in its place.
func ServeShelf(t testing.TB, kits ...standin.Kit) (address string) {
	t.Helper()
	return serve(t, false, 1, kits...)
}

// ServeHurried runs one whose clock is so many times as fast as the wall's.
func ServeHurried(t testing.TB, kit standin.Kit, hurry int) (address string) {
	t.Helper()
	return serve(t, false, hurry, kit)
}

func serve(t testing.TB, stepped bool, hurry int, kits ...standin.Kit) string {
	t.Helper()
	var shelf []*standin.Device
	for _, kit := range kits {
		d, err := standin.New(kit, 1)
		if err != nil {
			t.Fatal(err)
		}
		shelf = append(shelf, d)
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan error, 1)
	server := standin.NewServer(Token, stepped, shelf[0], shelf[1:]...)
	server.Hurry = hurry
	go func() { done <- server.Serve(ctx, l) }()
	t.Cleanup(func() {
		cancel()
		if err := <-done; err != nil {
			t.Errorf("the bench ended with %v", err)
		}
	})
	return l.Addr().String()
}

// Kit of the demo world.
func Kit(t testing.TB, name string) standin.Kit {
	t.Helper()
	kit, err := demo.Kit(name)
	if err != nil {
		t.Fatal(err)
	}
	return kit
}

// Dunlin is the kit of the demo's half finished quad, with everything that it hides.
func Dunlin(t testing.TB) standin.Kit {
	t.Helper()
	kit, err := demo.Kit("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	return kit
}
