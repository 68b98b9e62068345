package book

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"vividperch/core/quad"
)

// Acts and their withdrawals in any order leave what a plain stack leaves, and the history says of each whether it was taken back.
func TestWithdrawalsAreAStack(t *testing.T) {
	r := rand.New(rand.NewPCG(15, 3))
	began := time.Date(2026, 5, 1, 12, 0, 0, 0, time.UTC)
	for range 300 {
		var list []Entry // newest first
		var stack []int  // what counts, the newest last
		gone := map[int]string{}
		for n := range 30 {
			at := began.Add(time.Duration(n) * time.Minute)
			if r.IntN(5) < 3 {
				list = slices.Insert(list, 0, Entry{ID: int64(n + 1), Kind: KindReading, Name: "weight", Body: json.RawMessage(fmt.Sprint(n)), At: at})
				stack = append(stack, n)
				continue
			}
			why := fmt.Sprintf("mistake %d", n)
			e, err := Withdraw(list, why, "Wren", at)
			if len(stack) == 0 {
				if f := quad.AsFault(err); f == nil || f.Code != "nothing-to-withdraw" {
					t.Fatalf("of nothing: %v", err)
				}
				continue
			}
			if err != nil {
				t.Fatal(err)
			}
			gone[stack[len(stack)-1]], stack = why, stack[:len(stack)-1]
			list = slices.Insert(list, 0, e)
		}
		if len(list) == 0 {
			continue
		}
		counts, ok, err := list[0].Counting()
		if err != nil || ok != (len(stack) > 0) {
			t.Fatalf("counts %v, %v, with %v left", ok, err, stack)
		}
		if ok && (string(counts.Body) != fmt.Sprint(stack[len(stack)-1]) || !counts.At.Equal(began.Add(time.Duration(stack[len(stack)-1])*time.Minute))) {
			t.Fatalf("counts %s of %v, left %v", counts.Body, counts.At, stack)
		}
		past, err := History(list)
		if err != nil {
			t.Fatal(err)
		}
		for _, p := range past {
			var n int
			if err := json.Unmarshal(p.Body, &n); err != nil {
				t.Fatal(err)
			}
			if why, was := gone[n]; was != (p.Withdrawn != nil) || was && (p.Withdrawn.Why != why || p.Withdrawn.By != "Wren") {
				t.Fatalf("%d: %+v, wanted %q", n, p.Withdrawn, why)
			}
		}
	}
}

func TestWhatCannotBeWithdrawn(t *testing.T) {
	if _, err := Withdraw([]Entry{{Kind: KindBoard, Body: json.RawMessage("{}")}}, "", "", time.Now()); quad.AsFault(err) == nil || quad.AsFault(err).Code != "not-withdrawable" {
		t.Errorf("a board: %v", err)
	}
	if w, err := (Entry{Body: json.RawMessage(`{"withdrawal": 7}`)}).Withdrawal(); err == nil {
		t.Errorf("a withdrawal that is none: %+v", w)
	}
	if w, err := (Entry{Body: json.RawMessage(`{"value":"{\"withdrawal\":"}`)}).Withdrawal(); w != nil || err != nil {
		t.Errorf("words that look like one: %+v, %v", w, err)
	}
}
