package app

import (
	"context"
	"slices"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// takeAlarm raises the warning above the present voltage, listens, and puts it back whatever happens.
func takeAlarm(ctx context.Context, t *taking) error {
	build, err := firmware.For(t.known.Board)
	if err != nil {
		return err
	}
	if !t.live.Pack || t.live.Board != "running" {
		return quad.Faultf("pack-out", string(t.path), "connect the pack and read the board first")
	}
	now, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	loud := t.known.Sheet
	loud.Watch.WarnPerCell = 4.3
	want, err := build.Dictionary.Encode(loud, now)
	if err != nil {
		return err
	}
	alarm := build.Dictionary.SettingsFor("sheet.watch.warnPerCell")
	changes := slices.DeleteFunc(build.Changes(now, want), func(c firmware.Change) bool { return !slices.Contains(alarm, c.Name) })
	defer func() {
		back, cancel := context.WithTimeout(context.WithoutCancel(ctx), client.Patience)
		defer cancel()
		for _, c := range changes {
			_ = t.device.Write(back, c.Name, c.Before) // the next read-back shows a stop if this failed
		}
	}()
	for _, c := range changes {
		if err := t.device.Write(ctx, c.Name, c.After); err != nil {
			return err
		}
	}
	_, heard, err := t.until(ctx, time.Second, func(l protocol.Live) bool { return l.Beeping })
	if err != nil {
		return err
	}
	if heard {
		if err := t.put("readings.watch.route", quad.RouteSounder); err != nil { // what the bench hears is the board's own
			return err
		}
	}
	return t.put(t.path, heard)
}
