package label

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"
)

// Claim is a word on a label that promises too much.
type Claim struct {
	Word    string // as it stands in the text
	At      int    // of its first letter, in characters
	Why     string // what it says in law, or why it is not so
	Instead string // what says what is meant
}

// Words that are pointed out: what makes a biocide is in Regulation (EU) 528/2012,
// Article 3; what is barred beside a hazard in Regulation (EC) 1272/2008, Article 25
// (4); the rest is the law of fair trade, which differs by place. Common practice.
//
//go:embed claims.json
var claimsFile []byte

type claimRule struct {
	Words        []string
	Why, Instead string
}

var claimRules = sync.OnceValue(func() []claimRule {
	var rules []claimRule
	if err := json.Unmarshal(claimsFile, &rules); err != nil {
		panic(fmt.Sprintf("label: %v", err))
	}
	return rules
})

// Claims points out what promises too much in a text, in the order it stands there.
// A word counts at the beginning of a word; what follows a "not", "does not" or "no" in
// front of it is told all the same where the rule is of a promise of safety.
func Claims(text string) (found []Claim) {
	folded := strings.ToLower(text)
	taken := make([]bool, len(folded)+1)
	for _, rule := range claimRules() {
		for _, word := range rule.Words {
			for from := 0; ; {
				at := strings.Index(folded[from:], word)
				if at < 0 {
					break
				}
				at += from
				end := endOfWord(folded, at+len(word))
				from = end
				if !startsWord(folded, at) || taken[at] || denied(folded[:at]) && !alwaysTold(word) {
					continue
				}
				for i := at; i < end; i++ {
					taken[i] = true
				}
				said := folded[at:end]
				if len(folded) == len(text) {
					said = text[at:end]
				}
				found = append(found, Claim{Word: said, At: utf8.RuneCountInString(folded[:at]), Why: rule.Why, Instead: rule.Instead})
			}
		}
	}
	for i := 1; i < len(found); i++ { // few: by where they stand
		for j := i; j > 0 && found[j].At < found[j-1].At; j-- {
			found[j], found[j-1] = found[j-1], found[j]
		}
	}
	return found
}

// alwaysTold are claims with a "no" of their own.
func alwaysTold(word string) bool {
	return strings.HasPrefix(word, "no ") || strings.HasPrefix(word, "non") || strings.HasPrefix(word, "not ") || strings.HasPrefix(word, "without")
}

// denied reports whether what stands before takes a word back: "does not disinfect".
func denied(before string) bool {
	fields := strings.FieldsFunc(before, func(r rune) bool { return !unicode.IsLetter(r) && r != '\'' && r != '’' })
	for i := max(0, len(fields)-2); i < len(fields); i++ {
		switch fields[i] {
		case "not", "never", "no", "doesn't", "doesn’t", "nicht", "kein", "keine":
			return true
		}
	}
	return false
}

func startsWord(s string, at int) bool {
	r, _ := utf8.DecodeLastRuneInString(s[:at])
	return at == 0 || !unicode.IsLetter(r)
}

func endOfWord(s string, at int) int {
	for at < len(s) {
		r, size := utf8.DecodeRuneInString(s[at:])
		if !unicode.IsLetter(r) {
			break
		}
		at += size
	}
	return at
}
