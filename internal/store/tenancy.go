package store

import (
	"context"
	"errors"
	"reflect"
	"strings"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/schema"
)

type contextKey int

const (
	workshopKey contextKey = iota
	acrossKey
)

// WithWorkshop returns a context for the rows of one workshop.
func WithWorkshop(ctx context.Context, workshop uuid.UUID) context.Context {
	return context.WithValue(ctx, workshopKey, workshop)
}

// acrossWorkshops is for the few questions asked before anyone is signed in.
// It stays inside this package.
func acrossWorkshops(ctx context.Context) context.Context {
	return context.WithValue(ctx, acrossKey, true)
}

func workshopOf(ctx context.Context) (uuid.UUID, bool) {
	id, ok := ctx.Value(workshopKey).(uuid.UUID)
	return id, ok && id != uuid.Nil
}

// nameWorkshop tells a connection whose rows it is about to see: the second wall,
// held by PostgreSQL, behind the conditions of [tenancy]. It is run each time a
// connection is taken from the pool, and asks the server only when the workshop is
// another than the last time.
func nameWorkshop(ctx context.Context, conn *pgx.Conn) (bool, error) {
	const known = "workshop"
	name := ""
	if id, ok := workshopOf(ctx); ok {
		name = id.String()
	}
	if before, is := conn.PgConn().CustomData()[known].(string); is && before == name {
		return true, nil
	}
	if _, err := conn.Exec(ctx, "select set_config('keencrock.workshop', $1, false)", name); err != nil {
		return false, nil // not this connection: another is tried
	}
	conn.PgConn().CustomData()[known] = name
	return true, nil
}

// tenancy is a GORM plugin that confines every statement to the workshop of
// its context: reads, updates and deletes get a condition, new rows their
// workshop. A statement on a table of rows that belong to a workshop fails
// when the context names none; SQL written by hand has to use @workshop.
type tenancy struct{}

func (tenancy) Name() string { return "tenancy" }

func (tenancy) Initialize(db *gorm.DB) error {
	cb := db.Callback()
	return errors.Join(
		cb.Query().Before("gorm:query").Register("tenancy:query", confine),
		cb.Update().Before("gorm:update").Register("tenancy:update", confine),
		cb.Delete().Before("gorm:delete").Register("tenancy:delete", confine),
		cb.Create().Before("gorm:create").Register("tenancy:create", stamp),
		cb.Row().Before("gorm:row").Register("tenancy:row", confine),
		cb.Raw().Before("gorm:raw").Register("tenancy:raw", confineRaw),
	)
}

// owned returns the column that says whose a row is, nil for the few tables
// without one.
func owned(db *gorm.DB) *schema.Field {
	if db.Statement.Schema == nil {
		return nil
	}
	if db.Statement.Schema.Table == "workshops" {
		return db.Statement.Schema.LookUpField("id")
	}
	return db.Statement.Schema.LookUpField("workshop_id")
}

func across(db *gorm.DB) bool { return db.Statement.Context.Value(acrossKey) != nil }

func confine(db *gorm.DB) {
	if db.Statement.SQL.Len() > 0 {
		confineRaw(db)
		return
	}
	if db.Statement.Schema == nil {
		_ = db.AddError(errors.New("store: a query needs a model"))
		return
	}
	field := owned(db)
	if field == nil || across(db) {
		return
	}
	id, ok := workshopOf(db.Statement.Context)
	if !ok {
		_ = db.AddError(ErrNoWorkshop)
		return
	}
	db.Statement.AddClause(clause.Where{Exprs: []clause.Expression{
		clause.Eq{Column: clause.Column{Table: clause.CurrentTable, Name: field.DBName}, Value: id},
	}})
}

func stamp(db *gorm.DB) {
	field := owned(db)
	if field == nil || across(db) {
		return
	}
	id, ok := workshopOf(db.Statement.Context)
	if !ok {
		_ = db.AddError(ErrNoWorkshop)
		return
	}
	set := func(row reflect.Value) {
		if err := field.Set(db.Statement.Context, row, id); err != nil {
			_ = db.AddError(err)
		}
	}
	switch rows := db.Statement.ReflectValue; rows.Kind() {
	case reflect.Slice, reflect.Array:
		for i := range rows.Len() {
			set(reflect.Indirect(rows.Index(i)))
		}
	case reflect.Struct:
		set(rows)
	}
}

// confineRaw lets hand-written SQL through only when it was built with the
// workshop as a parameter, which [Tx.sql] does.
func confineRaw(db *gorm.DB) {
	if across(db) {
		return
	}
	id, ok := workshopOf(db.Statement.Context)
	if !ok {
		_ = db.AddError(ErrNoWorkshop)
		return
	}
	for _, v := range db.Statement.Vars {
		if v == id {
			return
		}
	}
	_ = db.AddError(errors.New("store: hand-written SQL without @workshop: " + strings.TrimSpace(db.Statement.SQL.String())))
}

// sql prepares hand-written SQL, in which @workshop stands for the workshop.
func (t *Tx) sql(query string, args map[string]any) *gorm.DB {
	if args == nil {
		args = map[string]any{}
	}
	id, _ := workshopOf(t.db.Statement.Context)
	args["workshop"] = id
	return t.db.Raw(query, args)
}
