package quantity

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

func isDigit(r rune) bool { return '0' <= r && r <= '9' }

func (p *parser) skipWord(w string) {
	mark := p.pos
	if p.word() != w {
		p.pos = mark
	}
}

func (p *parser) peek() byte {
	if p.pos < len(p.in) {
		return p.in[p.pos]
	}
	return 0
}

func (p *parser) peekRune() rune {
	r, _ := utf8.DecodeRuneInString(p.in[p.pos:])
	return r
}

func (p *parser) peekDecimal() bool {
	c := p.peek()
	return (c == '.' || c == ',') && p.pos+1 < len(p.in) && isDigit(rune(p.in[p.pos+1]))
}

func (p *parser) accept(r rune) bool {
	got, size := utf8.DecodeRuneInString(p.in[p.pos:])
	if size == 0 || got != r {
		return false
	}
	p.pos += size
	return true
}

func (p *parser) skipSpace() {
	for p.pos < len(p.in) {
		r, size := utf8.DecodeRuneInString(p.in[p.pos:])
		if !unicode.IsSpace(r) {
			return
		}
		p.pos += size
	}
}

// digits reads a run of digits; very long ones saturate above the limit.
func (p *parser) digits() (v int64, ok bool) {
	for p.pos < len(p.in) && isDigit(rune(p.in[p.pos])) {
		if v <= maxNumerator {
			v = v*10 + int64(p.in[p.pos]-'0')
		}
		p.pos++
		ok = true
	}
	return v, ok
}

// word reads letters and dots after any space, in lower case.
func (p *parser) word() string {
	p.skipSpace()
	return strings.ToLower(p.rawWord())
}

func (p *parser) rawWord() string {
	start := p.pos
	for p.pos < len(p.in) {
		r, size := utf8.DecodeRuneInString(p.in[p.pos:])
		if !unicode.IsLetter(r) && (r != '.' || p.pos == start) {
			break
		}
		p.pos += size
	}
	return p.in[start:p.pos]
}
