package store

import (
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"testing"

	mysqldriver "github.com/go-sql-driver/mysql"

	"vividperch/core/quad"
)

// Only an error of the connection says that the database is away: what was refused keeps its own sentence, and what nobody foresaw stays
// what it is.
func TestOnlyTheConnectionIsAway(t *testing.T) {
	t.Parallel()
	refused, odd := quad.Faultf("name-taken", "name", "you have a quad of that name"), errors.New("odd")
	for _, c := range []struct {
		err  error
		away bool
	}{
		{nil, false}, {refused, false}, {odd, false}, {io.EOF, false},
		{driver.ErrBadConn, true}, {mysqldriver.ErrInvalidConn, true}, {io.ErrUnexpectedEOF, true},
		{&net.OpError{Op: "dial", Err: errors.New("refused")}, true}, {fmt.Errorf("load: %w", driver.ErrBadConn), true},
	} {
		err := c.err
		away(&err)
		if f := quad.AsFault(err); c.away != (f != nil && f.Code == "database-away") || !c.away && err != c.err {
			t.Errorf("%v: %v", c.err, err)
		}
	}
}
