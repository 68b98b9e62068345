package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"runtime"
	"strings"
	"sync"
	"time"

	"vividperch/core/oracle"
	"vividperch/demo"
)

type oracleCommand struct {
	Seed  uint64 `help:"Of the quads that are drawn." default:"1"`
	Count int    `help:"How many." default:"1000"`
	JSON  bool   `help:"As JSON." name:"json"`
}

// Run draws quads, judges them, flies those that pass, and says where rules and model disagree.
func (c oracleCommand) Run(ctx context.Context) error {
	sound, err := demo.Sound(time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC))
	if err != nil {
		return err
	}
	began := time.Now()
	o, err := oracle.New([]oracle.Base{{Name: "Dunlin", Known: sound}})
	if err != nil {
		return err
	}
	results, err := c.all(ctx, o)
	if err != nil {
		return err
	}
	table := oracle.TableOf(results)
	if c.JSON {
		out := json.NewEncoder(os.Stdout)
		out.SetIndent("", "  ")
		err = out.Encode(table)
	} else {
		writeTable(table, time.Since(began))
	}
	if err == nil && len(table.Misses) > 0 {
		return exit{code: exitStop}
	}
	return err
}

// all of them, on every core.
func (c oracleCommand) all(ctx context.Context, o *oracle.Oracle) ([]oracle.Result, error) {
	results, errs := make([]oracle.Result, c.Count), make([]error, c.Count)
	next := make(chan int)
	var wait sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		wait.Go(func() {
			for i := range next {
				results[i], errs[i] = o.Try(oracle.Ask{Seed: c.Seed}, i)
			}
		})
	}
	for i := range c.Count {
		if ctx.Err() != nil {
			break
		}
		next <- i
	}
	close(next)
	wait.Wait()
	return results, errors.Join(append(errs, ctx.Err())...)
}

func writeTable(t oracle.Table, took time.Duration) {
	changed := func(list []oracle.Change) string {
		var words []string
		for _, c := range list {
			words = append(words, strings.TrimSpace(string(c.Path)+" "+c.What))
		}
		if len(words) == 0 {
			return "nothing changed"
		}
		return strings.Join(words, "; ")
	}
	for _, m := range t.Misses {
		fmt.Printf("%s: %s (%s)\n  %s, pack %s at %.1f V a cell, %s hand: %s\n  stood: %s\n  seed %d\n", m.Ending, m.Kind, changed(m.Changes), m.Flown.Scenario, m.Flown.Pack, m.Flown.CellVolt, m.Flown.Hand, m.Flown.Sentence, strings.Join(m.Judged, "; "), m.Seed)
	}
	for _, a := range t.FalseAlarms {
		fmt.Printf("not shown: %s (%s)\n  %s: %s, shows %s: %s\n  seed %d\n", a.Kind, changed(a.Changes), a.Rule, a.Title, a.Shows, a.Flown, a.Seed)
	}
	share := 0.0
	if t.Named > 0 {
		share = 100 * float64(len(t.FalseAlarms)) / float64(t.Named)
	}
	fmt.Printf("%d quads: %d stopped, %d with something open, %d passed and were flown; %.0f s of flight in %.0f s.\n", t.Count, t.Stopped, t.Open, t.Flown, t.Seconds, took.Seconds())
	fmt.Printf("%d passed and ended badly. %d of %d stops that name a consequence are not shown by the flight (%.1f %%).\n", len(t.Misses), len(t.FalseAlarms), t.Named, share)
	for _, e := range oracle.Endings {
		if n := t.Endings[e]; n > 0 {
			fmt.Printf("  %-24s %d\n", e, n)
		}
	}
}
