package store_test

import (
	"errors"
	"testing"
	"time"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// A pack's figures and measurements are kept over what was seen; what was measured stays when it is withdrawn, and goes with its pack alone.
func TestPacks(t *testing.T) {
	t.Parallel()
	s := open(t)
	ctx := t.Context()
	pilot, err := s.Pilot(ctx, "who has "+t.Name())
	if err != nil {
		t.Fatal(err)
	}
	other, err := s.Pilot(ctx, "who has none in "+t.Name())
	if err != nil {
		t.Fatal(err)
	}
	grey := quad.Pack{Cells: 6, Capacity: 1300}
	if err := s.AdoptPacks(ctx, pilot, map[string]quad.Pack{"grey": grey, "it's \"odd\" \\": {Cells: 1}}); err != nil {
		t.Fatal(err)
	}
	if err := s.AdoptPacks(ctx, pilot, map[string]quad.Pack{"grey": {Cells: 4}}); err != nil {
		t.Fatal(err)
	}
	list, version, err := s.Packs(ctx, pilot)
	if err != nil || version != 1 || len(list) != 2 || list[0].Told != grey {
		t.Fatalf("%+v of version %d, %v", list, version, err)
	}
	at := time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC)
	for i := range 70 {
		if err := s.MeasurePack(ctx, pilot, int64(1+i), "grey", book.PackMeasured{Resistance: float64(10 + i)}, at.AddDate(0, 0, i)); err != nil {
			t.Fatal(err)
		}
	}
	for name, act := range map[string]func(who, version int64) error{
		"measured":  func(who, v int64) error { return s.MeasurePack(ctx, who, v, "grey", book.PackMeasured{Spread: 3}, at) },
		"forgotten": func(who, v int64) error { return s.ForgetPack(ctx, who, v, "grey") },
		"withdrawn": func(who, v int64) error {
			return s.WithdrawPackReading(ctx, who, v, "grey", list[0].Health[0].ID, "why")
		},
	} {
		if list, _, err = s.Packs(ctx, pilot); err != nil {
			t.Fatal(err)
		}
		if err := act(pilot, 1); !errors.Is(err, book.ErrPacksChanged) {
			t.Errorf("%s over what was not seen: %v", name, err)
		}
		if err := act(other, 0); !errors.Is(err, book.ErrNoPack) {
			t.Errorf("%s by another pilot: %v", name, err)
		}
	}
	newest := list[0].Health
	if len(newest) != 60 || newest[0].Resistance != 79 || newest[59].Resistance != 20 || !newest[0].At.Equal(at.AddDate(0, 0, 69)) {
		t.Fatalf("%d measurements, the newest %+v", len(newest), newest[0])
	}
	if err := s.WithdrawPackReading(ctx, pilot, 71, "grey", newest[0].ID, "another pack's"); err != nil {
		t.Fatal(err)
	}
	if err := s.WithdrawPackReading(ctx, pilot, 72, "grey", newest[0].ID, "again"); !errors.Is(err, book.ErrNoEntry) {
		t.Errorf("withdrawn twice: %v", err)
	}
	if err := s.SetPack(ctx, pilot, 72, "grey", quad.Pack{Cells: 6, Capacity: 1250}); err != nil {
		t.Fatal(err)
	}
	if err := s.SetPack(ctx, pilot, 73, "new", quad.Pack{Cells: 3}); err != nil {
		t.Fatal(err)
	}
	list, version, err = s.Packs(ctx, pilot)
	if err != nil || version != 74 || len(list) != 3 || list[0].Health[0].Withdrawn != "another pack's" || list[0].Now() != (quad.Pack{Cells: 6, Capacity: 1250, Resistance: 78}) {
		t.Errorf("%+v of version %d, %v", list, version, err)
	}
	if err := s.ForgetPack(ctx, pilot, 74, "grey"); err != nil {
		t.Fatal(err)
	}
	if list, _, err = s.Packs(ctx, pilot); err != nil || len(list) != 2 || list[0].Name != `it's "odd" \` || list[1].Name != "new" {
		t.Errorf("%+v, %v", list, err)
	}
}
