package tenant_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"keencrock/internal/tenant"
)

// A name that a sheet has is that of the formula that was there first; a number is a whole one
// however a spreadsheet wrote it.
func TestWhatRowsOfASheetSay(t *testing.T) {
	first, second := uuid.MustParse("01890000-0000-7000-8000-000000000001"), uuid.MustParse("01890000-0000-7000-8000-000000000002")
	names := map[uuid.UUID]string{second: "Towpath", first: "towpath"}
	id, ok := tenant.FormulaNamed(names, " TOWPATH ")
	assert.True(t, ok)
	assert.Equal(t, first, id)
	_, ok = tenant.FormulaNamed(names, "Heron")
	assert.False(t, ok)

	for text, want := range map[string]int{"": 1, "3": 3, " 3.0 ": 3, "12": 12} {
		n, err := tenant.WholeNumber(text, "jars", 1, 12)
		assert.NoError(t, err, text)
		assert.Equal(t, want, n, text)
	}
	for _, text := range []string{"0", "13", "2.5", "-1", "three", "1e9", "NaN", "Inf"} {
		_, err := tenant.WholeNumber(text, "jars", 1, 12)
		assert.Error(t, err, text)
	}
}
