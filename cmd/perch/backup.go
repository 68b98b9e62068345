package main

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"vividperch/core/quad"
	"vividperch/store"
	"vividperch/store/mariadb"
)

type backupCommand struct {
	File string `arg:"" optional:"" help:"Where to; without it a dated file in the data folder." type:"path"`
	Data string `help:"Folder of the instance." default:"data" type:"path"`
}

// Run backs up everything the instance holds, whether it runs or not.
func (c backupCommand) Run(ctx context.Context) error {
	if _, err := os.Stat(filepath.Join(c.Data, "mariadb")); err != nil {
		return quad.Faultf("no-instance", c.Data, "holds no instance to back up")
	}
	db, runs := mariadb.Attach(c.Data)
	if !runs {
		unlock, err := lock(c.Data)
		if err != nil {
			return err
		}
		defer unlock()
		if db, err = mariadb.Start(ctx, c.Data, 0); err != nil {
			return err
		}
		defer db.Stop()
	}
	if c.File == "" {
		c.File = dated(c.Data, "backup")
	}
	if err := db.Dump(ctx, c.File); err != nil {
		return err
	}
	fmt.Printf("Backed up to %s\n", c.File)
	return nil
}

// dated is a file of the data folder that tells what it is and when it was made.
func dated(data, what string) string {
	return filepath.Join(data, what+"-"+time.Now().Format("20060102-150405")+".sql.gz")
}

type restoreCommand struct {
	File string `arg:"" help:"Backup to restore." type:"path"`
	Data string `help:"Folder of the instance." default:"data" type:"path"`
}

// Run puts a backup in the place of what the instance holds. What it held is backed up first; a backup that
// cannot be read, or is of a newer program, changes nothing.
func (c restoreCommand) Run(ctx context.Context) error {
	if err := os.MkdirAll(c.Data, 0o700); err != nil {
		return err
	}
	unlock, err := lock(c.Data)
	if err != nil {
		return err
	}
	defer unlock()
	_, missing := os.Stat(filepath.Join(c.Data, "mariadb"))
	db, err := mariadb.Start(ctx, c.Data, 0)
	if err != nil {
		return err
	}
	defer db.Stop()
	dsn, err := db.Stage(ctx, c.File)
	if err != nil {
		return err
	}
	keep, err := store.Open(ctx, dsn, nil) // migrates it forward, or says that it is of a newer program
	if err != nil {
		return err
	}
	quads, err := keep.Count(ctx)
	keep.Close()
	if err != nil {
		return err
	}
	if missing == nil {
		before := dated(c.Data, "before-restore")
		if err := db.Dump(ctx, before); err != nil {
			return err
		}
		fmt.Printf("What was here is in %s\n", before)
	}
	if err := db.Swap(ctx); err != nil {
		return err
	}
	fmt.Printf("Restored %d quads from %s\n", quads, c.File)
	return nil
}
