package store

import (
	"database/sql/driver"
	"errors"
	"io"
	"net"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm"
)

// What a call may report; test with errors.Is.
var (
	ErrNotFound   = errors.New("there is no such thing in this workshop")
	ErrNoWorkshop = errors.New("store: called without a workshop")
	ErrTaken      = errors.New("that name is taken already")
	ErrStale      = errors.New("someone else changed it meanwhile")
)

// orNotFound turns GORM's "no record" into ErrNotFound.
func orNotFound(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}

// orNone turns a change of nothing into ErrNotFound.
func orNone(done *gorm.DB) error {
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// orTaken turns a broken unique constraint into ErrTaken.
func orTaken(err error) error {
	if errors.Is(err, gorm.ErrDuplicatedKey) || codeOf(err) == "23505" {
		return ErrTaken
	}
	return err
}

// codeOf is PostgreSQL's code of an error (SQLSTATE), empty for others.
func codeOf(err error) string {
	var pg *pgconn.PgError
	if errors.As(err, &pg) {
		return pg.Code
	}
	return ""
}

// IsAway reports whether an error says that the database does not answer: it
// was stopped, is starting, or cannot be reached.
func IsAway(err error) bool {
	switch code := codeOf(err); {
	case strings.HasPrefix(code, "08"), // connection exceptions
		strings.HasPrefix(code, "57P0"): // shut down, crashed, starting up
		return true
	case code != "":
		return false
	}
	var connect *pgconn.ConnectError
	var network *net.OpError
	return errors.As(err, &connect) || errors.As(err, &network) || errors.Is(err, driver.ErrBadConn) ||
		errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) || err != nil && strings.Contains(err.Error(), "conn closed")
}

// IsFull reports whether an error says that the database's disk is full, or so nearly that
// nothing more is kept.
func IsFull(err error) bool {
	if code := codeOf(err); code == "53100" || code == "XX000" && strings.Contains(err.Error(), "could not write init file") { // what a new connection says of it
		return true
	}
	return errors.Is(err, ErrNearlyFull)
}

// IsBusy reports whether an error says that the database has too much to do at once: what
// was asked waited too long for something, or two waited for each other.
func IsBusy(err error) bool {
	switch codeOf(err) {
	case "40001", "40P01", // serialization failure, deadlock
		"53200", "53300", "53400", // no memory, no connection left, a configured limit
		"55P03", "57014": // a lock not had in time, a statement not done in time
		return true
	}
	return false
}

// IsOutOfRange reports whether an error says that a value does not fit its
// column: too large a number, a text that PostgreSQL cannot keep, a broken
// check.
func IsOutOfRange(err error) bool {
	code := codeOf(err)
	return strings.HasPrefix(code, "22") || code == "23514" ||
		errors.Is(err, gorm.ErrCheckConstraintViolated) || err != nil && strings.Contains(err.Error(), "is greater than maximum value for int")
}
