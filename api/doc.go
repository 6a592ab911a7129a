// Package api is the contract in Go: openapi.yaml is written by hand; the
// models here, the server in internal/web/contract, the client types of the
// page and the schemas in docs/formats are generated from it.
package api

//go:generate go tool oapi-codegen -config models.yaml openapi.yaml
