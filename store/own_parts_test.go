package store_test

import (
	"errors"
	"fmt"
	"testing"

	"vividperch/core/book"
)

// Parts of one's own are changed all or nothing, over what was seen; what columns are is remembered by their heads, the newest of them.
func TestOwnParts(t *testing.T) {
	t.Parallel()
	s := open(t)
	ctx := t.Context()
	pilot, err := s.Pilot(ctx, "who has "+t.Name())
	if err != nil {
		t.Fatal(err)
	}
	part := func(name, body string) book.OwnPart { return book.OwnPart{Kind: "motor", Name: name, Body: body} }
	var many []book.OwnPart
	for i := range 1200 {
		many = append(many, part(fmt.Sprintf("m%04d", i), "first"))
	}
	if err := s.ChangeOwnParts(ctx, pilot, 0, many, nil); err != nil {
		t.Fatal(err)
	}
	if err := s.ChangeOwnParts(ctx, pilot, 0, []book.OwnPart{part("m0000", "over")}, nil); !errors.Is(err, book.ErrPartsChanged) {
		t.Errorf("over what was not seen: %v", err)
	}
	if err := s.ChangeOwnParts(ctx, pilot, 1, []book.OwnPart{part("m0001", "second"), {Kind: "pack", Name: "m0001", Body: "pack"}}, []book.OwnPart{part("m0000", "")}); err != nil {
		t.Fatal(err)
	}
	list, version, err := s.OwnParts(ctx, pilot)
	if err != nil || version != 2 || len(list) != 1200 || list[0].Name != "m0001" || list[0].Body != "second" || list[1199].Kind != "pack" {
		t.Errorf("%d parts of version %d, %v", len(list), version, err)
	}
	for i := range 205 {
		if err := s.LearnColumns(ctx, pilot, "parts", fmt.Sprintf("heads %d", i), []byte(fmt.Sprint(i))); err != nil {
			t.Fatal(err)
		}
	}
	if err := s.LearnColumns(ctx, pilot, "parts", "heads 204", []byte("corrected")); err != nil {
		t.Fatal(err)
	}
	for heads, want := range map[string]string{"heads 204": "corrected", "heads 100": "100", "heads 0": "", "heads of none": ""} {
		if raw, err := s.KnownColumns(ctx, pilot, "parts", heads); err != nil || string(raw) != want {
			t.Errorf("%s: %q, %v", heads, raw, err)
		}
	}
	if raw, err := s.KnownColumns(ctx, pilot, "another purpose", "heads 204"); err != nil || raw != nil {
		t.Errorf("for another purpose: %q, %v", raw, err)
	}
}
