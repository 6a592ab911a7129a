package listener

import (
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	machines "keencrock/core/dosing"
)

// A lexicon is one of a language by its own file, and says no role that is not known.
func TestTheLexicon(t *testing.T) {
	data, err := os.ReadFile("lexicon/en.json")
	require.NoError(t, err)
	l, err := readLexicon(data)
	require.NoError(t, err)
	toks := tokens("no, make that two")
	m, n := l.at(toks[2:], 0)
	assert.True(t, m.is(correct))
	assert.Equal(t, 2, n)
	for _, bad := range []string{`{"rolf": ["x"]}`, `{"times 0": ["x"]}`, `{"kind moon": ["x"]}`, `[]`} {
		_, err := readLexicon([]byte(bad))
		assert.Error(t, err, bad)
	}
	// a machine that is said is one that doses are known of
	known := map[string]bool{}
	for _, m := range machines.Machines() {
		known[m.ID] = true
	}
	var walk func(node *phraseNode)
	walk = func(node *phraseNode) {
		if node.ends != nil && node.ends.machine != "" {
			assert.True(t, known[node.ends.machine], node.ends.machine)
		}
		for _, next := range node.next {
			walk(next)
		}
	}
	walk(&l.root)
}
