// Package store keeps a workshop's rows in PostgreSQL.
//
// Every call takes a context that says whose rows are meant (see
// [WithWorkshop]); a call without one is refused, and no query can reach
// another workshop's rows: [tenancy] adds the condition to each of them.
// Writes that matter happen inside [Store.Tx]. Rows are plain records; what
// they mean is decided above.
package store
