// Package api is the contract in Go: openapi.yaml is written by hand, the
// models here and the server in internal/web/contract are generated from it.
package api

//go:generate go tool oapi-codegen -config models.yaml openapi.yaml
