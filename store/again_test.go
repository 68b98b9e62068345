package store

import (
	"sync"
	"sync/atomic"
	"testing"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"vividperch/store/mariadb/mariadbtest"
)

// Two that lock the same rows in opposite order wait for each other; the server takes one back, and it is made again.
func TestWhatWasTakenBackIsMadeAgain(t *testing.T) {
	t.Parallel()
	s, err := Open(t.Context(), mariadbtest.Server.DSN, nil)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	var rows [2]int64
	for i, name := range []string{"one", "other"} {
		if rows[i], err = s.Pilot(t.Context(), t.Name()+" "+name); err != nil {
			t.Fatal(err)
		}
	}
	var all, both sync.WaitGroup
	var tries atomic.Int64
	both.Add(2)
	for i := range 2 {
		all.Go(func() {
			first := true
			err := s.whole(t.Context(), func(tx *gorm.DB) error {
				tries.Add(1)
				lock := func(id int64) error {
					return tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&pilotRow{}, id).Error
				}
				if err := lock(rows[i]); err != nil {
					return err
				}
				if first { // both hold their own before either asks for the other's
					first = false
					both.Done()
					both.Wait()
				}
				return lock(rows[1-i])
			})
			if err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
	if tries.Load() < 3 {
		t.Errorf("%d tries; nothing was taken back", tries.Load())
	}
}
