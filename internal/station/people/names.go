package people

import (
	"fmt"
	"strings"
	"unicode"

	"golang.org/x/text/secure/precis"

	"keencrock/internal/problem"
)

// checkLogin refuses a new sign-in name that cannot be told from another one by eye: with
// letters that are not seen, of two scripts, or of another script whose letters all look
// like Latin ones. Names that are there already go on.
func checkLogin(login string) error {
	for word := range strings.FieldsSeq(login) {
		// RFC 8265 3.3: no letters unseen, no second spelling of one that is seen
		if plain, err := precis.UsernameCaseMapped.String(word); err != nil || plain != strings.ToLower(word) {
			return problem.Unfit("unclear-name", "A sign-in name is written with letters that can be seen, each in its usual form.").At("login")
		}
	}
	if mixesScripts(login) {
		return problem.Unfit("unclear-name", "That sign-in name mixes letters of two scripts, some of which look alike: write it in one.").At("login")
	}
	if looksLatin(login) {
		return problem.Unfit("unclear-name", "Each letter of that sign-in name looks like a Latin one: write it in Latin letters.").At("login")
	}
	return nil
}

// scripts are those whose letters are taken for each other's.
var scripts = []*unicode.RangeTable{unicode.Latin, unicode.Cyrillic, unicode.Greek, unicode.Armenian, unicode.Cherokee, unicode.Coptic}

func scriptOf(r rune) *unicode.RangeTable {
	for _, s := range scripts {
		if unicode.Is(s, r) {
			return s
		}
	}
	return nil
}

func mixesScripts(name string) bool {
	var one *unicode.RangeTable
	for _, r := range name {
		s := scriptOf(r)
		if s != nil && one != nil && s != one {
			return true
		}
		if s != nil {
			one = s
		}
	}
	return false
}

// likeLatin are the small letters of other scripts that stand for Latin ones unseen, after
// the confusables of Unicode Technical Standard 39; from memory.
const likeLatin = "аеорсухіјѕԁԛԝһӏѵв" + "ονρτυκιαϲϳ" + "օսոցհյզ"

// looksLatin reports whether a name of another script could be read as a Latin one.
func looksLatin(name string) bool {
	other := false
	for _, r := range strings.ToLower(name) {
		if !unicode.IsLetter(r) {
			continue
		}
		if !strings.ContainsRune(likeLatin, r) {
			return false
		}
		other = true
	}
	return other
}

// plainly writes a name so that what is not seen in it is: a letter without a shape, or one
// that turns the line's direction, by its number.
func plainly(name string) string {
	var out strings.Builder
	for _, r := range name {
		if unicode.Is(unicode.Cf, r) || unicode.Is(unicode.Cc, r) || unicode.Is(unicode.Other_Default_Ignorable_Code_Point, r) {
			fmt.Fprintf(&out, "⟨%U⟩", r)
			continue
		}
		out.WriteRune(r)
	}
	return out.String()
}
