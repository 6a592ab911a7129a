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
		if c := p.in[p.pos]; c < utf8.RuneSelf {
			if c != ' ' && (c < '\t' || c > '\r') {
				return
			}
			p.pos++
			continue
		}
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
		if c := p.in[p.pos]; c < utf8.RuneSelf {
			if c|0x20 < 'a' || c|0x20 > 'z' {
				if c != '.' || p.pos == start {
					break
				}
			}
			p.pos++
			continue
		}
		r, size := utf8.DecodeRuneInString(p.in[p.pos:])
		if !unicode.IsLetter(r) {
			break
		}
		p.pos += size
	}
	return p.in[start:p.pos]
}

// longestEntry is how many words an entry of the lexicon has at the most.
const longestEntry = 3

// entry reads a word of the lexicon, or words that belong together, the
// longest first. The role of an unknown word is noRole; its first word is then
// read.
func (p *parser) entry() entry {
	p.skipSpace()
	start := p.pos
	head := p.word()
	after := p.pos
	if p.pos < len(p.in) && isDigit(rune(p.in[p.pos])) && len(head) == 1 { // “L2201” is no litre
		p.pos = start
		return entry{}
	}
	head = strings.TrimSuffix(head, ".")
	if head == "" {
		return entry{}
	}
	if firstWords[head] {
		var ends [longestEntry]int
		n := 0
		for ; n < longestEntry-1; n++ {
			p.skipSpace()
			at := p.pos
			p.accept('(')
			p.accept('-')
			if p.rawWord() == "" {
				p.pos = at
				break
			}
			p.accept(')')
			ends[n] = p.pos
		}
		for n--; n >= 0; n-- {
			if e, ok := lexicon[folded(p.in[start:ends[n]])]; ok {
				p.pos = ends[n]
				return e
			}
		}
	}
	p.pos = after
	return lexicon[head]
}

// folded is a phrase as the lexicon has it: small letters, single spaces, no
// dots.
func folded(s string) string {
	s = strings.ReplaceAll(strings.ToLower(s), ".", "")
	if strings.Contains(s, "  ") || strings.ContainsAny(s, "\t\n") {
		s = strings.Join(strings.Fields(s), " ")
	}
	return s
}
