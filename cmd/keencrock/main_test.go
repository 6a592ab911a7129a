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
	for stdin, want := range map[string]string{`{`: "bad-json", `{"format": "keencrock/formula", "version": 7}`: "wrong-format"} {
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

// What is not read yet is asked, and the rest is assessed all the same.
func TestAFormulaWithQuestionsIsAssessed(t *testing.T) {
	out, errs, code := keencrock(t, `{"format": "keencrock/formula", "version": 1, "name": "X", "lines": [{"material": "boraks", "amount": "1 cup"},
		{"material": "salt", "amount": "a cup and a half"}, {"material": "vinegar", "amount": "2 glorps"}]}`, "assess", "-")
	require.Equal(t, 0, code, "%s", errs)
	var a api.Assessment
	require.NoError(t, json.Unmarshal(out, &a))
	require.Len(t, a.Questions, 2)
	assert.Contains(t, a.Questions[0].Nearest, "Borax")
	assert.Equal(t, "lines[2].amount", a.Questions[1].Field)
	assert.Positive(t, a.TotalMassG.Value)
}

func TestServeSaysWhenItsPortIsTaken(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer l.Close()
	_, port, err := net.SplitHostPort(l.Addr().String())
	require.NoError(t, err)
	_, errs, code := keencrock(t, "", "serve", "--port", port)
	assert.Equal(t, 1, code)
	assert.Contains(t, string(errs), "is in use")
	assert.Contains(t, string(errs), "--port")
}

// NIST: borax at 0.01 mol/kg has a pH of 9.180 at 25 °C.
func TestPHOfSpecies(t *testing.T) {
	ph := func(args ...string) (float64, int) {
		out, _, code := keencrock(t, "", append([]string{"ph"}, args...)...)
		var e struct {
			PH float64 `json:"ph"`
		}
		if code == 0 {
			require.NoError(t, json.Unmarshal(out, &e))
		}
		return e.PH, code
	}
	borax, _ := ph("--species", "borax=0.01")
	assert.InDelta(t, 9.18, borax, 0.02)
	closed, _ := ph("--species", "baking soda=0.05, C6H8O7=0.01")
	vented, _ := ph("--species", "baking soda=0.05, C6H8O7=0.01", "--vented")
	assert.Greater(t, vented-closed, 1.0)
	warm, _ := ph("--species", "borax=0.01", "--celsius", "60")
	assert.InDelta(t, 8.96, warm, 0.04)
	for _, bad := range [][]string{{"--species", "stardust=1"}, {"--species", "borax"}, {"--species", "borax=-1"}, {"--species", "liquid soap=1"}, {"--species", "borax=1", "--celsius", "99"}} {
		_, code := ph(bad...)
		assert.Equal(t, 2, code, "%v", bad)
	}
}

func TestAssessTellsTheChemistry(t *testing.T) {
	out, _, code := keencrock(t, bomb, "assess", "-", "--use", "30 g/l", "--hardness", "268 mg/l")
	require.Equal(t, 0, code)
	var a api.Assessment
	require.NoError(t, json.Unmarshal(out, &a))
	assert.Equal(t, 30.0, a.Chemistry.Use.GramsPerLitre)
	assert.Greater(t, a.Chemistry.Ph.Vented, a.Chemistry.Ph.Closed)
	assert.Equal(t, api.ChemistryGasLimitedBy("acid"), a.Chemistry.GasLimitedBy)
	for _, bad := range [][]string{{"--use", "much"}, {"--hardness", "soft"}, {"--celsius", "99"}} {
		_, errs, code := keencrock(t, bomb, append([]string{"assess", "-"}, bad...)...)
		assert.Equal(t, 2, code, "%v: %s", bad, errs)
	}
}
