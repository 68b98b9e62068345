package main

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"vividperch/api"
	"vividperch/app"
	"vividperch/bench/standin"
	"vividperch/demo"
	"vividperch/store"
	"vividperch/store/mariadb"
	"vividperch/ui"
)

type serveCommand struct {
	Data     string   `help:"Folder for database and secrets." default:"data" type:"path"`
	Database string   `help:"Data source name of a MariaDB that runs already; empty starts one of its own." env:"PERCH_DATABASE"`
	Listen   string   `help:"Address to listen on." default:"127.0.0.1"`
	Port     int      `help:"Port; when it is taken another is picked and printed." default:"7460"`
	Host     []string `help:"Further host names to answer to. Anyone who can reach them can use the program: there is no sign-in."`
	Page     string   `help:"Folder of a page built apart, for developing; the program carries its own." type:"path"`
	NoDemo   bool     `help:"Do not load the demo world into an empty database."`
	Fresh    bool     `help:"Throw away what the data folder holds first."`
	Bench    string   `help:"Address of a bench that runs already; empty starts the simulated one, none leaves it out."`
	Token    string   `help:"Token of that bench." env:"PERCH_BENCH_TOKEN"`
}

func (c serveCommand) Run(ctx context.Context) error {
	if err := os.MkdirAll(c.Data, 0o700); err != nil {
		return err
	}
	unlock, err := lock(c.Data)
	if err != nil {
		return err
	}
	defer unlock()
	if c.Fresh {
		if err := c.empty(); err != nil {
			return err
		}
	}
	dsn, backup := c.Database, func(context.Context) error { return nil } // a database elsewhere is its keeper's to back up
	if dsn == "" {
		db, err := mariadb.Start(ctx, c.Data, 0)
		if err != nil {
			return err
		}
		defer db.Stop()
		go db.Keep(ctx)
		dsn = db.DSN
		backup = func(ctx context.Context) error {
			path := dated(c.Data, "before-migration")
			fmt.Printf("Backing up to %s\n", path)
			return db.Dump(ctx, path)
		}
	}
	keep, err := store.Open(ctx, dsn, backup)
	if err != nil {
		return err
	}
	defer keep.Close()
	pilot, err := keep.Pilot(ctx, "the pilot")
	if err != nil {
		return err
	}
	a := app.New(keep, pilot, "the pilot", time.Now)
	if !c.NoDemo {
		if err := loadDemo(ctx, a); err != nil {
			return err
		}
	}
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	if err := c.attachBench(ctx, a); err != nil {
		return err
	}
	err = c.serve(ctx, a)
	cancel()
	if b, none := a.Bench(); none == nil {
		b.Wait() // it lets the device's lease go while the database is still there
	}
	return err
}

// lock keeps a second program off the same data folder, and says where the first one is.
func lock(data string) (func(), error) {
	f, err := os.OpenFile(filepath.Join(data, "running"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		where, _ := os.ReadFile(f.Name())
		f.Close()
		return nil, exit{exitUnreadable, fmt.Errorf("this folder is in use: Vivid Perch runs already at %s", strings.TrimSpace(string(where)))}
	}
	return func() {
		_ = f.Truncate(0)
		f.Close()
	}, nil
}

// empty throws away the data folder's content, except for the lock that is held.
func (c serveCommand) empty() error {
	list, err := os.ReadDir(c.Data)
	if err != nil {
		return err
	}
	for _, e := range list {
		if e.Name() == "running" {
			continue
		}
		if err := os.RemoveAll(filepath.Join(c.Data, e.Name())); err != nil {
			return err
		}
	}
	return nil
}

func (c serveCommand) note(address string) {
	if err := os.WriteFile(filepath.Join(c.Data, "running"), []byte(address+"\n"), 0o600); err != nil {
		slog.Warn("note address", "error", err)
	}
}

func (c serveCommand) attachBench(ctx context.Context, a *app.App) error {
	switch c.Bench {
	case "none":
		return nil
	case "":
		kits, err := demoKits("")
		if err != nil {
			return err
		}
		address, token, err := startBench(ctx, kits, 1, false, "127.0.0.1:0", "")
		if err != nil {
			return err
		}
		a.AttachBench(ctx, address, token)
		return nil
	}
	a.AttachBench(ctx, c.Bench, c.Token)
	return nil
}

func (c serveCommand) serve(ctx context.Context, a *app.App) error {
	l, err := net.Listen("tcp", net.JoinHostPort(c.Listen, strconv.Itoa(c.Port)))
	if err != nil && errors.Is(err, syscall.EADDRINUSE) {
		l, err = net.Listen("tcp", net.JoinHostPort(c.Listen, "0"))
	}
	if err != nil {
		return err
	}
	o := api.Options{Hosts: c.Host, Page: ui.Page()}
	if c.Page != "" {
		o.Page = os.DirFS(c.Page)
	}
	handler, err := api.New(a, o)
	if err != nil {
		return err
	}
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 32 << 10}
	address := "http://" + l.Addr().String()
	c.note(address)
	fmt.Printf("Vivid Perch is at %s\n", address)
	context.AfterFunc(ctx, func() {
		end, cancel := context.WithTimeout(context.Background(), 2*time.Second)
		defer cancel()
		if server.Shutdown(end) != nil {
			server.Close()
		}
	})
	if err := server.Serve(l); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// demoKits gives the quads of the demo's bench; with a name only that one.
func demoKits(name string) ([]standin.Kit, error) {
	names := demo.Kits
	if name != "" {
		names = []string{name}
	}
	var out []standin.Kit
	for _, n := range names {
		k, err := demo.Kit(n)
		if err != nil {
			return nil, err
		}
		out = append(out, k)
	}
	if name != "" {
		return out, nil
	}
	soldered, err := demo.Soldered()
	return append(out, soldered...), err
}

func startBench(ctx context.Context, kits []standin.Kit, seed uint64, stepped bool, listen, wanted string) (address, token string, err error) {
	var devices []*standin.Device
	for _, kit := range kits {
		d, err := standin.New(kit, seed)
		if err != nil {
			return "", "", err
		}
		devices = append(devices, d)
	}
	l, err := net.Listen("tcp", listen)
	if err != nil {
		return "", "", err
	}
	if token = wanted; token == "" {
		var b [16]byte
		if _, err := rand.Read(b[:]); err != nil {
			return "", "", err
		}
		token = hex.EncodeToString(b[:])
	}
	go func() {
		if err := standin.NewServer(token, stepped, devices[0], devices[1:]...).Serve(ctx, l); err != nil {
			slog.Error("bench ended", "error", err)
		}
	}()
	return l.Addr().String(), token, nil
}

type benchCommand struct {
	Listen  string `help:"Loopback address to listen on." default:"127.0.0.1:7461"`
	Quad    string `help:"Whose bench; empty lets every quad of the demo world be put on it." default:"dunlin"`
	Seed    uint64 `help:"Seed of jitter and meter noise." default:"1"`
	Token   string `help:"Token to ask for; without one a new one is made and printed." env:"PERCH_BENCH_TOKEN"`
	Stepped bool   `help:"Let the clock stand still between the step calls of the client."`
	// LinkFault is a cause of why it will not bind.
	LinkFault string `help:"What keeps the receiver from binding, by the name of its cause; drawn has the seed draw one."`
}

func (c benchCommand) Run(ctx context.Context) error {
	kits, err := demoKits(c.Quad)
	if err != nil {
		return err
	}
	for i := range kits {
		if c.LinkFault != "" {
			kits[i].Link.Fault = c.LinkFault
		}
	}
	address, token, err := startBench(ctx, kits, c.Seed, c.Stepped, c.Listen, c.Token)
	if err != nil {
		return err
	}
	fmt.Printf("The bench is at %s, its token is %s\n", address, token)
	<-ctx.Done()
	return nil
}

// loadDemo puts the demo world into an empty hangar, through the same use cases a pilot goes through.
func loadDemo(ctx context.Context, a *app.App) error {
	there, err := a.Hangar(ctx)
	if err != nil || len(there.Quads) > 0 {
		return err
	}
	for _, name := range demo.Names {
		q, err := demo.Load(name)
		if err != nil {
			return err
		}
		if err := loadQuad(ctx, a, q); err != nil {
			return fmt.Errorf("demo %s: %w", q.Name, err)
		}
	}
	sites, err := demo.Sites()
	if err != nil {
		return err
	}
	for _, s := range sites {
		if _, err := a.AddSite(ctx, s.Name, s.Map); err != nil {
			return fmt.Errorf("demo %s: %w", s.Name, err)
		}
	}
	return nil
}

func loadQuad(ctx context.Context, a *app.App, q demo.Quad) error {
	id, err := a.Create(ctx, q.Name, q.Words, q.Meant)
	if err != nil {
		return err
	}
	if q.Board != nil {
		if _, err := a.ReadList(ctx, id, q.List(), false); err != nil {
			return err
		}
	}
	for _, r := range q.Readings {
		if _, err := a.Told(ctx, id, r.Path, json.RawMessage(r.Value)); err != nil {
			return err
		}
	}
	for _, s := range q.Signed {
		if _, err := a.Sign(ctx, id, s, ""); err != nil {
			return err
		}
	}
	return nil
}
