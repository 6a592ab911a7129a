package api

import (
	_ "embed"
	"fmt"
	"net/http"
)

// Spec is the contract as written.
//
//go:embed openapi.yaml
var Spec []byte

// NewProblem returns an error of the one shape every error has. Detail is a
// sentence that says what was wrong and what would be right.
func NewProblem(status int, code, detail string, args ...any) *Problem {
	if len(args) > 0 {
		detail = fmt.Sprintf(detail, args...)
	}
	return &Problem{
		Type:   "about:blank",
		Title:  http.StatusText(status),
		Status: status,
		Code:   code,
		Detail: detail,
	}
}

// Error returns the detail.
func (p *Problem) Error() string { return p.Detail }

// At names the field the problem is about.
func (p *Problem) At(field string) *Problem {
	p.Field = field
	return p
}
