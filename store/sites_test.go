package store_test

import (
	"errors"
	"fmt"
	"reflect"
	"sync"
	"testing"

	"vividperch/core/book"
	"vividperch/core/site"
)

func TestSites(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, _ := made(t, s)
	ctx := t.Context()
	high := 12.5
	m := site.Map{Areas: []site.Area{{Kind: site.Obstacle, Name: "poplars", Corners: []site.Offset{{East: 1}, {North: 9}, {East: -4}}, Height: &high}}, Safe: []site.Spot{}, Lines: []site.Line{}}
	id, err := s.AddSite(ctx, pilot, "reeds", m)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.AddSite(ctx, pilot, "reeds", m); !errors.Is(err, book.ErrSiteNamed) {
		t.Errorf("two of a name: %v", err)
	}
	got, err := s.Site(ctx, pilot, id)
	if err != nil || !reflect.DeepEqual(got, book.Site{ID: id, Name: "reeds", Version: 1, Map: m}) {
		t.Errorf("%+v, %v", got, err)
	}
	if named, err := s.SiteNamed(ctx, pilot, "reeds"); err != nil || named.ID != id {
		t.Errorf("%+v, %v", named, err)
	}
	m.Areas = []site.Area{}
	if err := s.ChangeSite(ctx, pilot, id, 1, m); err != nil {
		t.Fatal(err)
	}
	// Another window still has the first.
	if err := s.ChangeSite(ctx, pilot, id, 1, m); !errors.Is(err, book.ErrSiteChanged) {
		t.Errorf("a change that was lost: %v", err)
	}
	if err := s.ForgetSite(ctx, pilot, id, 1); !errors.Is(err, book.ErrSiteChanged) {
		t.Errorf("forgotten unseen: %v", err)
	}
	if err := s.ForgetSite(ctx, pilot, id, 2); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Site(ctx, pilot, id); !errors.Is(err, book.ErrNoSite) {
		t.Errorf("%v", err)
	}
	if err := s.ChangeSite(ctx, pilot, id, 2, m); !errors.Is(err, book.ErrNoSite) {
		t.Errorf("%v", err)
	}
}

// Of changes that are made at once from one version exactly one is kept, and nobody gets more sites than can be kept.
func TestSitesAtOnce(t *testing.T) {
	t.Parallel()
	s := open(t)
	pilot, _ := made(t, s)
	ctx := t.Context()
	id, err := s.AddSite(ctx, pilot, "reeds", site.Map{})
	if err != nil {
		t.Fatal(err)
	}
	var all sync.WaitGroup
	kept := make(chan int, 8)
	for i := range 8 {
		all.Go(func() {
			err := s.ChangeSite(ctx, pilot, id, 1, site.Map{Safe: []site.Spot{{Name: fmt.Sprint(i)}}})
			if err == nil {
				kept <- i
			} else if !errors.Is(err, book.ErrSiteChanged) {
				t.Error(err)
			}
		})
	}
	all.Wait()
	close(kept)
	got, err := s.Site(ctx, pilot, id)
	if won := <-kept; err != nil || len(kept) > 0 || got.Version != 2 || got.Map.Safe[0].Name != fmt.Sprint(won) {
		t.Errorf("%+v, %v", got, err)
	}
	for i := range book.MostSites {
		if _, err = s.AddSite(ctx, pilot, fmt.Sprint("place ", i), site.Map{}); err != nil {
			break
		}
	}
	if !errors.Is(err, book.ErrManySites) {
		t.Errorf("more than can be kept: %v", err)
	}
	if list, err := s.Sites(ctx, pilot); err != nil || len(list) != book.MostSites {
		t.Errorf("%d, %v", len(list), err)
	}
}
