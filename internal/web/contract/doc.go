// Package contract is the server side of api/openapi.yaml, generated: routes,
// parameters and one strict handler method for each operation.
package contract

//go:generate go tool oapi-codegen -config server.yaml ../../../api/openapi.yaml
