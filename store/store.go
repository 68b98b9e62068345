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
	q := book.Quad{ID: r.ID, Name: r.Name, Words: r.Words, Head: r.Head, Version: r.Version}
	if err := json.Unmarshal([]byte(r.Edits), &q.Edits); err != nil {
		return q, err
	}
	return q, json.Unmarshal([]byte(r.Undone), &q.Undone)
}

// Quads of a pilot, by the order they were made in.
func (s *Store) Quads(ctx context.Context, pilot int64) (_ []book.Quad, err error) {
	defer away(&err)
	var rows []quadRow
	if err := s.db.WithContext(ctx).Where("pilot_id = ?", pilot).Order("id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]book.Quad, 0, len(rows))
	for _, r := range rows {
		q, err := r.quad()
		if err != nil {
			return nil, err
		}
		out = append(out, q)
	}
	return out, nil
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
		if f.Others, err = others(tx, pilot, id); err != nil {
			return err
		}
		var newest, history []entryRow
		latest := tx.Model(&entryRow{}).Select("MAX(id)").Where("quad_id = ? AND kind IN ?", id, book.Newest).Group("kind, name")
		if err := tx.Where("id IN (?)", latest).Order("id").Find(&newest).Error; err != nil {
			return err
		}
		if err := tx.Where("quad_id = ? AND kind IN ?", id, book.History).Order("id").Find(&history).Error; err != nil {
			return err
		}
		f.Newest, f.History = entries(newest), entries(history)
		f.Last, err = lastEntry(tx, id)
		return err
	})
	return f, err
}

// Fleet of a pilot: all quads as they stand in their drafts, by the order they were made in.
func (s *Store) Fleet(ctx context.Context, pilot int64) (_ []book.Other, err error) {
	defer away(&err)
	return others(s.db.WithContext(ctx), pilot, 0)
}

// others of a pilot's quads than one.
func others(tx *gorm.DB, pilot, id int64) ([]book.Other, error) {
	var rows []struct {
		ID      int64
		Name    string
		Version int64
		Edits   string
		Body    string
	}
	err := tx.Model(&quadRow{}).Select("quad.id, quad.name, quad.version, quad.edits, revision.body").
		Joins("JOIN revision ON revision.quad_id = quad.id AND revision.number = quad.head").
		Where("quad.pilot_id = ? AND quad.id <> ?", pilot, id).Order("quad.id").Scan(&rows).Error
	if err != nil {
		return nil, err
	}
	out := make([]book.Other, 0, len(rows))
	for _, r := range rows {
		o := book.Other{ID: r.ID, Name: r.Name, Version: r.Version, Body: []byte(r.Body)}
		if err := json.Unmarshal([]byte(r.Edits), &o.Edits); err != nil {
			return nil, err
		}
		out = append(out, o)
	}
	return out, nil
}

// lastEntry of a quad, 0 when it has none.
func lastEntry(tx *gorm.DB, id int64) (last int64, err error) {
	err = tx.Model(&entryRow{}).Select("COALESCE(MAX(id), 0)").Where("quad_id = ?", id).Scan(&last).Error
	return last, err
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
		if c.Seen != "" {
			last, err := lastEntry(tx, id)
			if err != nil {
				return err
			}
			if c.Seen != (book.File{Quad: book.Quad{Version: row.Version}, Last: last}).Seen() {
				return book.ErrChanged
			}
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
		}
		version, head = row.Version, row.Head
		if !touches {
			return nil
		}
		return tx.Save(&row).Error
	})
	return version, head, err
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

// Revisions of a quad, newest first, at most so many.
func (s *Store) Revisions(ctx context.Context, pilot, id int64, most int) (_ []book.Revision, err error) {
	defer away(&err)
	var rows []revisionRow
	if err := s.db.WithContext(ctx).Where("pilot_id = ? AND quad_id = ?", pilot, id).Order("number DESC").Limit(most).Find(&rows).Error; err != nil {
		return nil, err
	}
	return revisions(rows), nil
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

// Find entries of a kind, newest first.
func (s *Store) Find(ctx context.Context, pilot, id int64, kind string) (_ []book.Entry, err error) {
	defer away(&err)
	var rows []entryRow
	err = s.db.WithContext(ctx).Where("pilot_id = ? AND quad_id = ? AND kind = ?", pilot, id, kind).Order("id DESC").Limit(200).Find(&rows).Error
	return entries(rows), err
}

// NewestOf gives the newest entry of each name of a kind that begins with a prefix.
func (s *Store) NewestOf(ctx context.Context, pilot, id int64, kind, prefix string) (_ []book.Entry, err error) {
	defer away(&err)
	var rows []entryRow
	db := s.db.WithContext(ctx)
	latest := db.Model(&entryRow{}).Select("MAX(id)").Where("pilot_id = ? AND quad_id = ? AND kind = ? AND LEFT(name, CHAR_LENGTH(?)) = ?", pilot, id, kind, prefix, prefix).Group("name")
	err = db.Where("id IN (?)", latest).Order("id").Find(&rows).Error
	return entries(rows), err
}

// Owners are a pilot's quads but one, each with the mark of its own board, if it has one.
func (s *Store) Owners(ctx context.Context, pilot, but int64) (_ []book.Owner, err error) {
	defer away(&err)
	db := s.db.WithContext(ctx)
	var out []book.Owner
	latest := db.Model(&entryRow{}).Select("MAX(id)").Where("pilot_id = ? AND kind = ?", pilot, book.KindMark).Group("quad_id")
	err = db.Model(&quadRow{}).Select("quad.id AS quad, quad.name, entry.body AS mark").
		Joins("LEFT JOIN entry ON entry.quad_id = quad.id AND entry.id IN (?)", latest).
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
