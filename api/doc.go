// Package api is the contract in Go: base.yaml and one file a station in stations/
// are written by hand and bundled as openapi.yaml; the
// models here, the server in internal/web/contract, the client types of the
// page and the schemas in docs/formats are generated from it.
package api

//go:generate go run ./bundle
//go:generate go tool oapi-codegen -config models.yaml openapi.yaml
