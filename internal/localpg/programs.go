package localpg

import (
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
)

// installed is where Debian's packages put the programs of each major version.
var installed = "/usr/lib/postgresql"

// programsFor returns the folder of initdb, pg_ctl and postgres for the cluster in a
// folder: those of the major version that made it, and the newest where there is none
// yet. A cluster of one major version cannot be opened by another.
func programsFor(data string) (string, error) {
	text, err := os.ReadFile(filepath.Join(data, "PG_VERSION"))
	if errors.Is(err, os.ErrNotExist) {
		return newestPrograms()
	}
	if err != nil {
		return "", err
	}
	made := strings.TrimSpace(string(text))
	folders, err := programs()
	if err != nil {
		return "", err
	}
	for _, folder := range folders {
		if strconv.Itoa(majorOf(folder)) == made {
			return folder, nil
		}
	}
	return "", fmt.Errorf("the database in %s was made by PostgreSQL %s, which is not installed (%s is): install postgresql-%s, then either go on with it or run “keencrock renew-database”, which moves everything into a database of the newest version installed",
		data, made, versions(folders), made)
}

// newestPrograms is the folder of the newest version installed.
func newestPrograms() (string, error) {
	folders, err := programs()
	if err != nil {
		return "", err
	}
	return folders[0], nil
}

// programs are the folders of the versions installed, the newest first: those of
// Debian's packages, or the one on the PATH.
func programs() ([]string, error) {
	folders, _ := filepath.Glob(filepath.Join(installed, "*", "bin"))
	slices.SortFunc(folders, func(a, b string) int { return majorOf(b) - majorOf(a) })
	if path, err := exec.LookPath("initdb"); err == nil {
		if resolved, err := filepath.EvalSymlinks(path); err == nil && !slices.Contains(folders, filepath.Dir(resolved)) {
			folders = append(folders, filepath.Dir(resolved))
		}
	}
	folders = slices.DeleteFunc(folders, func(folder string) bool {
		_, err := os.Stat(filepath.Join(folder, "initdb"))
		return err != nil
	})
	if len(folders) == 0 {
		return nil, errors.New("PostgreSQL is not installed: install Debian's package “postgresql”, or set KEEN_CROCK_DATABASE_URL to a database")
	}
	return folders, nil
}

// majorOf is the major version of the programs in a folder: of its name where it is
// Debian's, else what the program says.
func majorOf(folder string) int {
	if n, err := strconv.Atoi(filepath.Base(filepath.Dir(folder))); err == nil {
		return n
	}
	said, err := exec.Command(filepath.Join(folder, "postgres"), "--version").Output() // postgres (PostgreSQL) 15.18 (Debian …)
	if err != nil {
		return 0
	}
	for _, word := range strings.Fields(string(said)) {
		if major, _, found := strings.Cut(word, "."); found {
			if n, err := strconv.Atoi(major); err == nil {
				return n
			}
		}
	}
	return 0
}

func versions(folders []string) string {
	names := make([]string, len(folders))
	for i, folder := range folders {
		names[i] = strconv.Itoa(majorOf(folder))
	}
	return strings.Join(names, ", ")
}
