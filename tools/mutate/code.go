package main

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"slices"
)

// turned are comparisons turned round, bound those that take their bound in or leave it out.
var (
	turned = map[token.Token]token.Token{token.LSS: token.GTR, token.GTR: token.LSS, token.LEQ: token.GEQ, token.GEQ: token.LEQ}
	bound  = map[token.Token]token.Token{token.LSS: token.LEQ, token.GTR: token.GEQ, token.LEQ: token.LSS, token.GEQ: token.GTR}
)

// code are the changes to constants, tables and comparisons of a Go file.
func code(file string, text []byte) (found []mutant, err error) {
	set := token.NewFileSet()
	tree, err := parser.ParseFile(set, file, text, 0)
	if err != nil {
		return nil, err
	}
	put := func(kind string, pos token.Pos, was, now, what string) {
		at := set.Position(pos)
		changed := slices.Concat(text[:at.Offset], []byte(now), text[at.Offset+len(was):])
		found = append(found, mutant{kind: kind, what: fmt.Sprintf("line %d: %s", at.Line, what), text: changed})
	}
	for _, decl := range tree.Decls {
		if d, is := decl.(*ast.GenDecl); is && (d.Tok == token.CONST || d.Tok == token.VAR) {
			ast.Inspect(d, func(n ast.Node) bool {
				if _, is := n.(*ast.ArrayType); is { // another length would not build
					return false
				}
				if lit, is := n.(*ast.BasicLit); is && (lit.Kind == token.FLOAT || lit.Kind == token.INT) {
					if now := doubled(lit.Value); now != lit.Value {
						put("constant", lit.Pos(), lit.Value, now, lit.Value+" becomes "+now)
					}
				}
				return true
			})
		}
	}
	ast.Inspect(tree, func(n ast.Node) bool {
		b, is := n.(*ast.BinaryExpr)
		if !is || turned[b.Op] == 0 {
			return true
		}
		put("comparison", b.OpPos, b.Op.String(), turned[b.Op].String(), fmt.Sprintf("%s becomes %s", b.Op, turned[b.Op]))
		put("comparison", b.OpPos, b.Op.String(), bound[b.Op].String(), fmt.Sprintf("%s becomes %s", b.Op, bound[b.Op]))
		return true
	})
	return found, nil
}
