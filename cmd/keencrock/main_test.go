package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
)

// The test binary is the program when it is asked to be, so that exit codes
// and streams are the real ones.
func TestMain(m *testing.M) {
	if os.Getenv("KEENCROCK_BE_PROGRAM") != "" {
		main()
		os.Exit(0)
	}
	os.Exit(m.Run())
}

func keencrock(t *testing.T, stdin string, args ...string) (stdout, stderr []byte, code int) {
	t.Helper()
	cmd := exec.Command(os.Args[0], args...)
	cmd.Env = append(os.Environ(), "KEENCROCK_BE_PROGRAM=1")
	cmd.Stdin = bytes.NewReader([]byte(stdin))
	var out, errs bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errs
	err := cmd.Run()
	var exit *exec.ExitError
	if err != nil && !errors.As(err, &exit) {
		t.Fatal(err)
	}
	return out.Bytes(), errs.Bytes(), cmd.ProcessState.ExitCode()
}

const bomb = `{"format": "keencrock/formula", "version": 1, "name": "Lockgate", "kind": "toilet-bomb",
	"lines": [{"material": "baking soda", "amount": "4 cups"}, {"material": "citric acid", "amount": "1 cup"}], "yield": {"amount": "24 pieces"}, "uses": {"amount": "2 pieces"}}`

func TestAssessReadsStandardInputOrAFile(t *testing.T) {
	out, _, code := keencrock(t, bomb, "assess", "-")
	require.Equal(t, 0, code)
	var a api.Assessment
	require.NoError(t, json.Unmarshal(out, &a))
	assert.Equal(t, 12.0, a.Uses.Value)
	path := filepath.Join(t.TempDir(), "bomb.json")
	require.NoError(t, os.WriteFile(path, []byte(bomb), 0o600))
	again, _, code := keencrock(t, "", "assess", path)
	require.Equal(t, 0, code)
	assert.Equal(t, string(out), string(again))
}

func TestAssessTakesPrices(t *testing.T) {
	path := filepath.Join(t.TempDir(), "prices.csv")
	require.NoError(t, os.WriteFile(path, []byte("material,amount,price,currency\nbicarb,1 kg,2.00,EUR\ncitric acid,1 kg,5.00,EUR\n"), 0o600))
	out, _, code := keencrock(t, `{"format": "keencrock/formula", "version": 1, "name": "B",
		"lines": [{"material": "bicarb", "amount": "400 g"}, {"material": "citric acid", "amount": "100 g"}], "uses": {"amount": "50 g"}}`, "assess", "--prices", path, "-")
	require.Equal(t, 0, code)
	var a api.Assessment
	require.NoError(t, json.Unmarshal(out, &a))
	assert.Equal(t, "1.30", a.Cost.Batch)
	assert.Equal(t, "0.1300", a.Cost.PerUse)
	assert.Equal(t, "EUR", a.Cost.Currency)
}

func TestABadFileEndsWithStatusTwoAndAProblem(t *testing.T) {
	for stdin, want := range map[string]string{
		`{`: "bad-json",
		`{"format": "keencrock/formula", "version": 1, "name": "X", "lines": [{"material": "boraks", "amount": "1 cup"}]}`: "bad-formula",
	} {
		out, errs, code := keencrock(t, stdin, "assess", "-")
		assert.Equal(t, 2, code)
		assert.Empty(t, out)
		var p api.Problem
		require.NoError(t, json.Unmarshal(errs, &p))
		assert.Equal(t, want, p.Code)
	}
	_, errs, code := keencrock(t, "", "assess", "/nowhere/at.all")
	assert.Equal(t, 2, code)
	assert.Contains(t, string(errs), "no-such-file")
	_, errs, code = keencrock(t, "", "assess")
	assert.Equal(t, 1, code)
	assert.Contains(t, string(errs), "accepts 1 arg")
}

func TestServeSaysWhenItsPortIsTaken(t *testing.T) {
	l, err := listen(0)
	require.NoError(t, err)
	defer l.Close()
	_, port, err := net.SplitHostPort(l.Addr().String())
	require.NoError(t, err)
	_, errs, code := keencrock(t, "", "serve", "--port", port)
	assert.Equal(t, 1, code)
	assert.Contains(t, string(errs), "is in use")
	assert.Contains(t, string(errs), "--port")
}
