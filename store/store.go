// Package store keeps what a pilot did in MariaDB. What a call confirmed is on disk before it returns.
package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"encoding/json"
	"errors"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"time"

	mysqldriver "github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
	"gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"

	"vividperch/core/book"
	"vividperch/core/quad"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is a database of quads.
type Store struct{ db *gorm.DB }

// Open connects to a data source name of the MySQL driver and migrates forward. Before a database that holds
// something is migrated, backup is called; when it fails, nothing is migrated. A nil backup takes none.
func Open(ctx context.Context, dsn string, backup func(context.Context) error) (*Store, error) {
	return open(ctx, dsn, migrations, backup)
}

func open(ctx context.Context, dsn string, files fs.FS, backup func(context.Context) error) (*Store, error) {
	cfg, err := mysqldriver.ParseDSN(dsn)
	if err != nil {
		return nil, quad.Faultf("bad-database", "", "the database's address cannot be read")
	}
	cfg.Logger = &mysqldriver.NopLogger{} // every fault comes back as an error
	cfg.ParseTime, cfg.Loc, cfg.MultiStatements = true, time.UTC, true
	db, err := gorm.Open(mysql.New(mysql.Config{DSNConfig: cfg}), &gorm.Config{Logger: logger.Discard, TranslateError: true})
	if err != nil {
		return nil, quad.Faultf("database-away", cfg.Addr, "the database does not answer: %v", err)
	}
	raw, err := db.DB()
	if err != nil {
		return nil, err
	}
	raw.SetMaxOpenConns(8)
	raw.SetConnMaxIdleTime(time.Minute)
	if err := migrate(ctx, raw, files, backup); err != nil {
		raw.Close()
		return nil, err
	}
	return &Store{db}, nil
}

func migrate(ctx context.Context, raw *sql.DB, files fs.FS, backup func(context.Context) error) error {
	sub, err := fs.Sub(files, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectMySQL, raw, sub)
	if err != nil {
		return err
	}
	unlock, err := alone(ctx, raw)
	if err != nil {
		return err
	}
	defer unlock()
	now, last, err := provider.GetVersions(ctx)
	if err != nil {
		return err
	}
	if now > last {
		return quad.Faultf("newer-database", "", "the database was written by a newer program (version %d; this one knows %d)", now, last)
	}
	if now > 0 && now < last && backup != nil {
		if err := backup(ctx); err != nil {
			return quad.Faultf("no-backup", "", "the database was not migrated, because it could not be backed up: %v", err)
		}
	}
	_, err = provider.Up(ctx)
	return err
}

// patience is how long one program waits for another to migrate, s.
const patience = 120

// alone waits until no other program migrates the database, and keeps others waiting until it is told to go on. Without it two that
// start together would both begin the same migration.
func alone(ctx context.Context, raw *sql.DB) (unlock func(), err error) {
	conn, err := raw.Conn(ctx)
	if err != nil {
		return nil, err
	}
	var got sql.NullInt64
	if err := conn.QueryRowContext(ctx, "SELECT GET_LOCK(CONCAT(DATABASE(), ' migrates'), ?)", patience).Scan(&got); err != nil {
		conn.Close()
		return nil, err
	}
	if got.Int64 != 1 {
		conn.Close()
		return nil, quad.Faultf("database-busy", "", "another program is changing the database's form and does not come to an end")
	}
	return func() {
		// The lock goes with its connection too, should this fail.
		_, _ = conn.ExecContext(context.WithoutCancel(ctx), "DO RELEASE_LOCK(CONCAT(DATABASE(), ' migrates'))")
		conn.Close()
	}, nil
}

// Close the connections.
func (s *Store) Close() {
	if raw, err := s.db.DB(); err == nil {
		if err := raw.Close(); err != nil {
			slog.Warn("close database", "error", err)
		}
	}
}

// deadlocked is the server's number for a transaction that it took back because two waited for each other's rows.
const deadlocked = 1213

// whole does something in one transaction: all of it or nothing. One that the server took back for another's sake is made again.
func (s *Store) whole(ctx context.Context, do func(tx *gorm.DB) error, how ...*sql.TxOptions) error {
	for again := 1; ; again++ {
		err := s.db.WithContext(ctx).Transaction(do, how...)
		var told *mysqldriver.MySQLError
		if !errors.As(err, &told) || told.Number != deadlocked || again == 5 {
			return err
		}
	}
}

// snapshot is a transaction that reads all as of one moment.
var snapshot = &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true}

// away turns an error of the connection into a sentence: the database is gone, and nothing was changed.
func away(err *error) {
	var network net.Error
	if errors.Is(*err, driver.ErrBadConn) || errors.Is(*err, mysqldriver.ErrInvalidConn) || errors.As(*err, &network) || errors.Is(*err, io.ErrUnexpectedEOF) {
		slog.Debug("the database is away", "error", *err)
		*err = quad.Faultf("database-away", "", "the database does not answer just now; when it is back, look whether what you did last was kept")
	}
}

type pilotRow struct {
	ID        int64
	Name      string
	CreatedAt time.Time
	Wants     string
	Version   int64
	// PartsVersion counts the changes to his own parts.
	PartsVersion int64
	// PacksVersion counts the changes to his packs.
	PacksVersion int64
}

func (pilotRow) TableName() string { return "pilot" }

type quadRow struct {
	ID        int64
	PilotID   int64
	Name      string
	Words     string
	Head      int
	Edits     string
	Undone    string
	Version   int64
	Last      int64
	Flights   int
	Retired   bool
	CreatedAt time.Time
}

func (quadRow) TableName() string { return "quad" }

type revisionRow struct {
	ID        int64
	PilotID   int64
	QuadID    int64
	Number    int
	Body      string
	Hash      string
	Why       string
	Who       string
	CreatedAt time.Time
}

func (revisionRow) TableName() string { return "revision" }

type entryRow struct {
	ID      int64
	PilotID int64
	QuadID  int64
	Kind    string
	Name    string
	Body    string
	At      time.Time
}

func (entryRow) TableName() string { return "entry" }

// Pilot finds the pilot of that name or makes one.
func (s *Store) Pilot(ctx context.Context, name string) (_ int64, err error) {
	defer away(&err)
	var row pilotRow
	err = s.db.WithContext(ctx).Where(pilotRow{Name: name}).Attrs(pilotRow{CreatedAt: now(), Wants: "{}", Version: 1}).FirstOrCreate(&row).Error
	return row.ID, err
}

func now() time.Time { return time.Now().UTC().Truncate(time.Millisecond) }

func (r quadRow) quad() (book.Quad, error) {
	q := r.cover()
	if err := json.Unmarshal([]byte(r.Edits), &q.Edits); err != nil {
		return q, err
	}
	return q, json.Unmarshal([]byte(r.Undone), &q.Undone)
}

func (r quadRow) cover() book.Quad {
	return book.Quad{ID: r.ID, Name: r.Name, Words: r.Words, Head: r.Head, Version: r.Version, Last: r.Last, Flights: r.Flights, Retired: r.Retired}
}

// Covers of a pilot's quads, by the order they were made in.
func (s *Store) Covers(ctx context.Context, pilot int64) (_ []book.Cover, err error) {
	defer away(&err)
	var rows []struct {
		Cover quadRow `gorm:"embedded"`
		Rests string
	}
	// A line that is taught has a number above all before it, one that changes a higher version, one that is forgotten leaves one fewer.
	rests := `CONCAT(pilot.version, ' ', (SELECT CONCAT(COUNT(*), ' ', COALESCE(MAX(id), 0), ' ', COALESCE(SUM(version), 0)) FROM dictionary WHERE dictionary.pilot_id = pilot.id)) AS rests`
	err = s.db.WithContext(ctx).Model(&quadRow{}).Select("quad.id, quad.name, quad.words, quad.head, quad.version, quad.last, quad.flights, quad.retired, "+rests).
		Joins("JOIN pilot ON pilot.id = quad.pilot_id").Where("quad.pilot_id = ?", pilot).Order("quad.id").Scan(&rows).Error
	out := make([]book.Cover, len(rows))
	for i, r := range rows {
		out[i] = book.Cover{Quad: r.Cover.cover(), Rests: r.Rests}
	}
	return out, err
}

// Load one quad in one consistent read.
func (s *Store) Load(ctx context.Context, pilot, id int64) (_ book.File, err error) {
	defer away(&err)
	var f book.File
	err = s.whole(ctx, func(tx *gorm.DB) error {
		var row quadRow
		if err := tx.Where("pilot_id = ? AND id = ?", pilot, id).Take(&row).Error; err != nil {
			return missing(err)
		}
		q, err := row.quad()
		if err != nil {
			return err
		}
		var rev revisionRow
		if err := tx.Where("quad_id = ? AND number = ?", id, row.Head).Take(&rev).Error; err != nil {
			return err
		}
		var who pilotRow
		if err := tx.Take(&who, pilot).Error; err != nil {
			return err
		}
		f = book.File{Quad: q, Body: []byte(rev.Body), Wants: []byte(who.Wants), Taught: map[string]string{}}
		taught, err := dictionaries(tx, pilot)
		if err != nil {
			return err
		}
		for _, d := range taught {
			f.Taught[d.Line] = d.Body
		}
		var others []quadRow
		if err := tx.Select("id, name, version").Where("pilot_id = ? AND id <> ? AND NOT retired", pilot, id).Order("id").Find(&others).Error; err != nil {
			return err
		}
		for _, o := range others {
			f.Others = append(f.Others, book.Other{ID: o.ID, Name: o.Name, Version: o.Version})
		}
		var newest []entryRow
		// Grouped by the whole beginning of the index, the server jumps from name to name and reads none of what is older.
		latest := tx.Model(&entryRow{}).Select("MAX(id)").Where("quad_id = ? AND kind IN ?", id, book.Newest).Group("quad_id, kind, name")
		err = tx.Where("id IN (?)", latest).Order("id").Find(&newest).Error
		f.Newest = entries(newest)
		if err != nil || row.Last == 0 {
			return err
		}
		var last []entryRow
		err = tx.Select("id, kind, name, at").Where("id = ? AND quad_id = ?", row.Last, id).Find(&last).Error
		if len(last) > 0 {
			f.Latest = entries(last)[0]
		}
		return err
	})
	return f, err
}

// Fleet of a pilot: his quads as they stand in their drafts, all of them or those that are named, by the order they were made in.
func (s *Store) Fleet(ctx context.Context, pilot int64, only ...int64) (_ []book.Other, err error) {
	defer away(&err)
	var rows []struct {
		Quad quadRow `gorm:"embedded"`
		Body string
	}
	find := s.db.WithContext(ctx).Model(&quadRow{}).Select("quad.id, quad.name, quad.version, quad.edits, quad.undone, revision.body").
		Joins("JOIN revision ON revision.quad_id = quad.id AND revision.number = quad.head").
		Where("quad.pilot_id = ?", pilot).Order("quad.id")
	if len(only) > 0 {
		find = find.Where("quad.id IN ?", only)
	}
	if err := find.Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]book.Other, len(rows))
	for i, r := range rows {
		q, err := r.Quad.quad()
		if err != nil {
			return nil, err
		}
		out[i] = book.Other{ID: q.ID, Name: q.Name, Version: q.Version, Body: []byte(r.Body), Edits: q.Edits}
	}
	return out, nil
}

func entries(rows []entryRow) []book.Entry {
	out := make([]book.Entry, len(rows))
	for i, r := range rows {
		out[i] = book.Entry{ID: r.ID, Kind: r.Kind, Name: r.Name, Body: json.RawMessage(r.Body), At: r.At}
	}
	return out
}

func missing(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return book.ErrNoQuad
	}
	return err
}

func revisionOf(pilot, id int64, r book.Revision) *revisionRow {
	return &revisionRow{PilotID: pilot, QuadID: id, Number: r.Number, Body: string(r.Body), Hash: quad.Hash(r.Body), Why: r.Why, Who: r.Who, CreatedAt: r.At.UTC()}
}

// Act writes a change and gives the quad's new version and head. A change based on an old version is
// book.ErrChanged, unless it only adds entries.
func (s *Store) Act(ctx context.Context, pilot, id int64, c book.Change) (version int64, head int, err error) {
	defer away(&err)
	err = s.whole(ctx, func(tx *gorm.DB) error {
		var row quadRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("pilot_id = ? AND id = ?", pilot, id).Take(&row).Error; err != nil {
			return missing(err)
		}
		if c.Seen != "" && c.Seen != row.cover().Seen() {
			return book.ErrChanged
		}
		touches := c.SetDraft || c.Revision != nil
		if touches && c.Version != row.Version {
			return book.ErrChanged
		}
		if touches {
			row.Version++
		}
		if c.SetDraft {
			row.Edits, row.Undone = asList(c.Edits), asList(c.Undone)
		}
		if c.Revision != nil {
			row.Head++
			row.Edits, row.Undone = "[]", "[]"
			if err := tx.Create(revisionOf(pilot, id, book.Revision{Number: row.Head, Body: c.Revision, Why: c.Why, Who: c.Who, At: now()})).Error; err != nil {
				return err
			}
		}
		for _, e := range c.Entries {
			r := entryOf(pilot, id, e)
			if err := tx.Create(&r).Error; err != nil {
				return err
			}
			row.count(r)
		}
		version, head = row.Version, row.Head
		return tx.Save(&row).Error
	})
	return version, head, err
}

// Retire a quad, or bring it back; version is the one that was seen.
func (s *Store) Retire(ctx context.Context, pilot, id, version int64, retired bool) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error {
		row, err := asSeen(tx, pilot, id, version)
		if err != nil {
			return err
		}
		row.Retired = retired
		row.Version++
		return tx.Save(&row).Error
	})
}

// Delete a quad that never flew, and all that is kept of it; version is the one that was seen.
func (s *Store) Delete(ctx context.Context, pilot, id, version int64) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error {
		row, err := asSeen(tx, pilot, id, version)
		if err != nil {
			return err
		}
		// A flight that was struck was noted all the same.
		var flown int64
		if err := tx.Model(&entryRow{}).Where("quad_id = ? AND kind = ?", id, book.KindFlight).Limit(1).Count(&flown).Error; err != nil {
			return err
		}
		if flown > 0 {
			return quad.Faultf("has-flown", "", "it has flown, and what flew stays in the book; it can be retired")
		}
		for _, of := range []any{&entryRow{}, &revisionRow{}} {
			if err := tx.Where("quad_id = ?", id).Delete(of).Error; err != nil {
				return err
			}
		}
		return tx.Delete(&row).Error
	})
}

// asSeen locks a quad's row if it stands as it was seen.
func asSeen(tx *gorm.DB, pilot, id, version int64) (row quadRow, err error) {
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("pilot_id = ? AND id = ?", pilot, id).Take(&row).Error; err != nil {
		return row, missing(err)
	}
	if row.Version != version {
		return row, book.ErrChanged
	}
	return row, nil
}

// count an entry that was added on the quad's cover.
func (r *quadRow) count(e entryRow) {
	r.Last = max(r.Last, e.ID)
	if e.Kind == book.KindFlight {
		r.Flights++
	}
}

func asList(edits []quad.Edit) string {
	if len(edits) == 0 {
		return "[]"
	}
	raw, err := json.Marshal(edits)
	if err != nil {
		panic(err) // edits hold raw JSON that was decoded before
	}
	return string(raw)
}

// owned is a quad if it is the pilot's. Asked for so, the rows of a page are found by their own index: with the pilot named beside them the
// server would join two indexes and sort what they give, and without being told which it would read all that is newer first.
func (s *Store) owned(pilot, id int64) *gorm.DB {
	return s.db.Model(&quadRow{}).Select("id").Where("id = ? AND pilot_id = ?", id, pilot)
}

// Revisions of a quad before one of that number, newest first, at most so many; before 0 stands for the newest.
func (s *Store) Revisions(ctx context.Context, pilot, id int64, before, most int) (_ []book.Revision, err error) {
	defer away(&err)
	var rows []revisionRow
	find := s.db.WithContext(ctx).Table("revision FORCE INDEX (revision_number)").Where("quad_id = ? AND EXISTS (?)", id, s.owned(pilot, id))
	if before > 0 {
		find = find.Where("number < ?", before)
	}
	err = find.Order("number DESC").Limit(most).Find(&rows).Error
	return revisions(rows), err
}

// Revision of a quad by its number.
func (s *Store) Revision(ctx context.Context, pilot, id int64, number int) (_ book.Revision, err error) {
	defer away(&err)
	var row revisionRow
	err = s.db.WithContext(ctx).Where("pilot_id = ? AND quad_id = ? AND number = ?", pilot, id, number).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return book.Revision{}, book.ErrNoRevision
	}
	return row.revision(), err
}

func (r revisionRow) revision() book.Revision {
	return book.Revision{Number: r.Number, Hash: r.Hash, Why: r.Why, Who: r.Who, At: r.CreatedAt, Body: []byte(r.Body)}
}

func revisions(rows []revisionRow) []book.Revision {
	out := make([]book.Revision, len(rows))
	for i, r := range rows {
		out[i] = r.revision()
	}
	return out
}

// Entries of a kind before one of that number, newest first, at most so many; before 0 stands for the newest.
func (s *Store) Entries(ctx context.Context, pilot, id int64, kind string, before int64, most int) (_ []book.Entry, err error) {
	defer away(&err)
	var rows []entryRow
	find := s.db.WithContext(ctx).Table("entry FORCE INDEX (entry_page)").Where("quad_id = ? AND kind = ? AND EXISTS (?)", id, kind, s.owned(pilot, id))
	if before > 0 {
		find = find.Where("id < ?", before)
	}
	err = find.Order("id DESC").Limit(most).Find(&rows).Error
	return entries(rows), err
}

// EntriesOf one name of a kind before the one of that number, newest first, at most so many; before 0 stands for the newest.
func (s *Store) EntriesOf(ctx context.Context, pilot, id int64, kind, name string, before int64, most int) (_ []book.Entry, err error) {
	defer away(&err)
	var rows []entryRow
	find := s.db.WithContext(ctx).Table("entry FORCE INDEX (entry_newest)").Where("quad_id = ? AND kind = ? AND name = ? AND EXISTS (?)", id, kind, name, s.owned(pilot, id))
	if before > 0 {
		find = find.Where("id < ?", before)
	}
	err = find.Order("id DESC").Limit(most).Find(&rows).Error
	return entries(rows), err
}

// NewestOf gives the newest entry of each name of a kind that begins with a prefix.
func (s *Store) NewestOf(ctx context.Context, pilot, id int64, kind, prefix string) (_ []book.Entry, err error) {
	defer away(&err)
	var rows []entryRow
	db := s.db.WithContext(ctx)
	latest := db.Model(&entryRow{}).Select("MAX(id)").Where("quad_id = ? AND kind = ? AND LEFT(name, CHAR_LENGTH(?)) = ?", id, kind, prefix, prefix).Group("quad_id, kind, name")
	err = db.Where("id IN (?) AND EXISTS (?)", latest, s.owned(pilot, id)).Order("id").Find(&rows).Error
	return entries(rows), err
}

// NewestNamed gives the newest entry of each of some names of a kind.
func (s *Store) NewestNamed(ctx context.Context, pilot, id int64, kind string, names []string) (_ []book.Entry, err error) {
	defer away(&err)
	if len(names) == 0 {
		return nil, nil
	}
	var rows []entryRow
	db := s.db.WithContext(ctx)
	latest := db.Model(&entryRow{}).Select("MAX(id)").Where("quad_id = ? AND kind = ? AND name IN ?", id, kind, names).Group("quad_id, kind, name")
	err = db.Where("id IN (?) AND EXISTS (?)", latest, s.owned(pilot, id)).Order("id").Find(&rows).Error
	return entries(rows), err
}

// Owners are a pilot's quads but one, each with the mark of its own board, if it has one.
func (s *Store) Owners(ctx context.Context, pilot, but int64) (_ []book.Owner, err error) {
	defer away(&err)
	var out []book.Owner
	err = s.db.WithContext(ctx).Model(&quadRow{}).Select("quad.id AS quad, quad.name, entry.body AS mark").
		Joins("LEFT JOIN entry ON entry.id = (SELECT MAX(mark.id) FROM entry AS mark WHERE mark.quad_id = quad.id AND mark.kind = ?)", book.KindMark).
		Where("quad.pilot_id = ? AND quad.id <> ?", pilot, but).Order("quad.id").Scan(&out).Error
	return out, err
}

// Lease gives a device to an owner until some time from now, when it is free, the owner's already, or its
// lease has run out. held is false when another owner has it.
func (s *Store) Lease(ctx context.Context, pilot int64, device, owner string, length time.Duration) (held bool, err error) {
	defer away(&err)
	// One statement, judged by the database's own clock: two servers cannot both win.
	err = s.db.WithContext(ctx).Exec(`INSERT INTO lease (device, pilot_id, owner, until) VALUES (?, ?, ?, NOW(3) + INTERVAL ? MICROSECOND)
		ON DUPLICATE KEY UPDATE
			owner = IF(owner = VALUES(owner) OR until < NOW(3), VALUES(owner), owner),
			until = IF(owner = VALUES(owner), VALUES(until), until)`,
		device, pilot, owner, length.Microseconds()).Error
	if err != nil {
		return false, err
	}
	var n int64
	err = s.db.WithContext(ctx).Table("lease").Where("device = ? AND owner = ?", device, owner).Count(&n).Error
	return n == 1, err
}

// EndLease lets a device go.
func (s *Store) EndLease(ctx context.Context, device, owner string) (err error) {
	defer away(&err)
	return s.db.WithContext(ctx).Exec("DELETE FROM lease WHERE device = ? AND owner = ?", device, owner).Error
}
