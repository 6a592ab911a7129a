package wording

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestLanguagesAreWhole(t *testing.T) {
	all := All()
	require.GreaterOrEqual(t, len(all), 2, "English and one more")
	assert.Equal(t, English, all[0].Code)
	for _, l := range all {
		assert.Empty(t, l.missing(all[0]), l.Name)
		for code, text := range l.Statements {
			assert.True(t, strings.HasSuffix(text, ".") || strings.HasSuffix(text, ")."), "%s %s ends in no full stop", l.Code, code)
		}
	}
}

// A few statements as Annex III and IV print them, in both languages; from memory.
func TestStatementsAsPublished(t *testing.T) {
	for _, c := range []struct{ code, english, german string }{
		{"H318", "Causes serious eye damage.", "Verursacht schwere Augenschäden."},
		{"H319", "Causes serious eye irritation.", "Verursacht schwere Augenreizung."},
		{"H315", "Causes skin irritation.", "Verursacht Hautreizungen."},
		{"H225", "Highly flammable liquid and vapour.", "Flüssigkeit und Dampf leicht entzündbar."},
		{"P102", "Keep out of reach of children.", "Darf nicht in die Hände von Kindern gelangen."},
	} {
		for code, want := range map[string]string{"en": c.english, "de": c.german} {
			l, err := Find(code)
			require.NoError(t, err)
			assert.Equal(t, want, l.Statement(c.code))
		}
	}
	german, err := Find("de")
	require.NoError(t, err)
	assert.Equal(t, "Enthält Limonene, Linalool. Kann allergische Reaktionen hervorrufen.", german.Statement("EUH208", "Limonene", "Linalool"))
	assert.Equal(t, "0,75", german.Number("0.75"))
	assert.Equal(t, "1 1/2 EL", german.Measure("1 1/2 tbsp"))
	assert.Equal(t, "Wolle", german.Surface("wool"))
	assert.Equal(t, "bamboo", german.Surface("bamboo"))
}

func TestALanguageThatLacksATextIsRefused(t *testing.T) {
	_, err := Find("xx")
	require.ErrorContains(t, err, "no statements are known in")

	english := []byte(`{"code":"en","name":"English","decimal":".","source":"s","statements":{"H318":"Causes serious eye damage."}}`)
	_, err = load(map[string][]byte{"en": english, "fr": []byte(`{"code":"fr","name":"Français","decimal":",","source":"s","statements":{}}`)})
	require.ErrorContains(t, err, "language fr lacks H318")
	_, err = load(map[string][]byte{"fr": []byte(`{`)})
	require.Error(t, err)
	_, err = load(map[string][]byte{})
	require.ErrorContains(t, err, "en is missing")
}
