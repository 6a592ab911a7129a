// Command mutate changes rows of tables and lines of code that decide, one at a time, and
// says which changes no test notices.
//
//	go run ./tools/mutate               a sample, with a fixed seed
//	go run ./tools/mutate -all          every change there is
//	go run ./tools/mutate -only keeping those of one target
//	go run ./tools/mutate -kinds row    those of rows alone, of constants or of comparisons
//
// A change is made in an overlay, never in the checkout: figures are doubled, a statement is
// left out or made milder, a caution is made less grave, a comparison is turned round or takes
// in its bound. Targets, and the tests that have to notice, stand in targets.go.
package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// mutant is one change to one file.
type mutant struct {
	target *target
	file   string
	kind   string // row, constant or comparison
	what   string // is told
	text   []byte // of the whole file
}

// fewest changes have to be tried for their share to mean anything: a slow machine tries few.
const fewest = 5

func main() {
	all := flag.Bool("all", false, "every change there is, not a sample")
	n := flag.Int("n", 40, "how many are sampled")
	seed := flag.Uint64("seed", 1, "of the sample")
	within := flag.Duration("within", 0, "stop after so long; 0 for never")
	least := flag.Float64("least", 0.8, "share that has to be noticed")
	only := flag.String("only", "", "the target to change; every one when left out")
	kinds := flag.String("kinds", "row constant comparison", "what is changed")
	flag.Parse()
	if err := run(*all, *n, *seed, *within, *least, *only, strings.Fields(*kinds)); err != nil {
		fmt.Fprintln(os.Stderr, "mutate:", err)
		os.Exit(1)
	}
}

func run(all bool, n int, seed uint64, within time.Duration, least float64, only string, kinds []string) error {
	var mutants []mutant
	for i := range targets {
		if only != "" && targets[i].name != only {
			continue
		}
		found, err := targets[i].mutants()
		if err != nil {
			return err
		}
		for _, m := range found {
			if slices.Contains(kinds, m.kind) {
				mutants = append(mutants, m)
			}
		}
	}
	if len(mutants) == 0 {
		return fmt.Errorf("there is nothing to change in %q", only)
	}
	whole := len(mutants)
	if !all && n < whole {
		r := rand.New(rand.NewPCG(seed, seed))
		r.Shuffle(whole, func(i, j int) { mutants[i], mutants[j] = mutants[j], mutants[i] })
		mutants = mutants[:n]
	}
	folder, err := os.MkdirTemp("", "mutate-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(folder)

	type tally struct{ tried, noticed int }
	by := map[string]*tally{}
	var names, survivors []string
	sum := tally{}
	began := time.Now()
	for i := range mutants {
		if within > 0 && time.Since(began) > within {
			break
		}
		m := &mutants[i]
		noticed, err := m.try(folder)
		if err != nil {
			return err
		}
		name := m.target.name + " " + m.kind + "s"
		t := by[name]
		if t == nil {
			t = &tally{}
			by[name] = t
			names = append(names, name)
		}
		t.tried++
		sum.tried++
		if noticed {
			t.noticed++
			sum.noticed++
			continue
		}
		survivors = append(survivors, fmt.Sprintf("%s: %s", m.file, m.what))
	}
	slices.Sort(names)
	for _, name := range names {
		fmt.Printf("%-22s %3d of %3d noticed\n", name, by[name].noticed, by[name].tried)
	}
	for _, s := range survivors {
		fmt.Println("not noticed:", s)
	}
	fmt.Printf("%d of %d noticed, of %d changes there are\n", sum.noticed, sum.tried, whole)
	switch {
	case sum.tried < fewest:
		fmt.Printf("%d are too few to judge by\n", sum.tried)
	case float64(sum.noticed) < least*float64(sum.tried):
		return fmt.Errorf("less than %.0f %% were noticed", 100*least)
	}
	return nil
}

// try runs the tests of a target with the change, and reports whether they notice.
func (m *mutant) try(folder string) (noticed bool, err error) {
	changed := filepath.Join(folder, "changed"+filepath.Ext(m.file))
	if err := os.WriteFile(changed, m.text, 0o600); err != nil {
		return false, err
	}
	path, err := filepath.Abs(m.file)
	if err != nil {
		return false, err
	}
	overlay, err := json.Marshal(map[string]any{"Replace": map[string]string{path: changed}})
	if err != nil {
		return false, err
	}
	file := filepath.Join(folder, "overlay.json")
	if err := os.WriteFile(file, overlay, 0o600); err != nil {
		return false, err
	}
	for _, tests := range m.target.tests { // the nearest first: most are noticed there
		args := []string{"test", "-overlay", file, "-count=1", "-vet=off", "-timeout=5m"}
		if m.target.run != "" {
			args = append(args, "-run", m.target.run)
		}
		out, err := exec.Command("go", append(args, tests)...).CombinedOutput()
		switch {
		case err == nil:
		case strings.Contains(string(out), "[build failed]") && !strings.Contains(m.file, ".json"):
			return false, fmt.Errorf("%s: %s does not build: %s", m.file, m.what, out)
		default:
			return true, nil
		}
	}
	return false, nil
}
