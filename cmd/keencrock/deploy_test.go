package main

import (
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/spf13/pflag"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// settings are the names under which the environment can say what the flags of serve
// do, and the few that are no flag.
func settings() map[string]bool {
	known := map[string]bool{"KEEN_CROCK_DATABASE_URL": true, "KEEN_CROCK_OWNER_URL": true, "KEEN_CROCK_CLOCK_AHEAD": true, "KEEN_CROCK_PICTURES_KEY": true, "KEEN_CROCK_PICTURES_SECRET": true}
	serveCommand().Flags().VisitAll(func(f *pflag.Flag) {
		known["KEEN_CROCK_"+strings.ToUpper(strings.ReplaceAll(f.Name, "-", "_"))] = true
	})
	return known
}

// What the unit, the container and the page on running it name is there in the program.
func TestWhatIsToldOfRunningItIsThere(t *testing.T) {
	known := settings()
	for _, path := range []string{"../../deploy/keencrock.service", "../../deploy/Dockerfile", "../../docs/running.md", "../../README.md", "../../start"} {
		text, err := os.ReadFile(path)
		require.NoError(t, err)
		for _, name := range regexp.MustCompile(`KEEN_CROCK_[A-Z_]+`).FindAllString(string(text), -1) {
			assert.True(t, known[name], "%s names %s", path, name)
		}
		for _, line := range regexp.MustCompile(`keencrock serve( --[^\n\x60"]*)?`).FindAllString(string(text), -1) {
			args := strings.Fields(strings.TrimPrefix(line, "keencrock serve"))
			if err := serveCommand().ParseFlags(args); !errors.Is(err, pflag.ErrHelp) {
				assert.NoError(t, err, "%s: %s", path, line)
			}
		}
	}
	for name := range known {
		running, err := os.ReadFile("../../docs/running.md")
		require.NoError(t, err)
		flag := "--" + strings.ToLower(strings.ReplaceAll(strings.TrimPrefix(name, "KEEN_CROCK_"), "_", "-"))
		assert.True(t, strings.Contains(string(running), name) || strings.Contains(string(running), flag) || name == "KEEN_CROCK_CLOCK_AHEAD", "docs/running.md tells of %s", name)
	}
	if analyze, err := exec.LookPath("systemd-analyze"); err == nil {
		out, err := exec.Command(analyze, "verify", "../../deploy/keencrock.service").CombinedOutput()
		// the program is not installed where the unit looks for it
		assert.True(t, err == nil || strings.Contains(string(out), "is not executable"), "%s", out)
	}
}

// A flag is said by the environment too; the flag itself counts more.
func TestTheEnvironmentSaysWhatFlagsDo(t *testing.T) {
	t.Setenv("KEEN_CROCK_LOG_LEVEL", "info")
	t.Setenv("KEEN_CROCK_NAME", "crock.example,crock.local")
	cmd := serveCommand()
	require.NoError(t, cmd.ParseFlags([]string{"--name", "other.example"}))
	require.NoError(t, fromEnvironment(cmd))
	assert.Equal(t, "info", cmd.Flag("log-level").Value.String())
	assert.Equal(t, "[other.example]", cmd.Flag("name").Value.String())
	t.Setenv("KEEN_CROCK_PORT", "many")
	assert.ErrorContains(t, fromEnvironment(serveCommand()), "KEEN_CROCK_PORT")
}

// Beyond its own machine it listens with TLS, or behind a proxy that has it, or not.
func TestItListensSafelyOrNotAtAll(t *testing.T) {
	for what, c := range map[string]struct {
		r    reach
		says string
	}{
		"bare":              {reach{host: "0.0.0.0"}, "passwords would cross the network"},
		"an address":        {reach{host: "192.0.2.1"}, "passwords would cross the network"},
		"half a pair":       {reach{host: "127.0.0.1", cert: "c.pem"}, "together"},
		"both kinds":        {reach{host: "127.0.0.1", cert: "c.pem", key: "k.pem", ownTLS: true}, "takes --own-tls, or"},
		"a proxy's name":    {reach{host: "127.0.0.1", proxies: []string{"127.0.0.1"}}, "--name"},
		"no proxy":          {reach{host: "127.0.0.1", proxies: []string{"somewhere"}, names: []string{"a.example"}}, "not \"somewhere\""},
		"files that aren't": {reach{host: "127.0.0.1", cert: "none.pem", key: "none.pem"}, "none.pem"},
	} {
		_, err := c.r.listen(t.TempDir())
		assert.ErrorContains(t, err, c.says, what)
	}
	s, err := (&reach{host: "127.0.0.1"}).listen(t.TempDir())
	require.NoError(t, err)
	defer s.Close()
	assert.True(t, s.local)
	assert.Empty(t, s.addresses)
	assert.Regexp(t, `^http://127\.0\.0\.1:\d+$`, s.url())

	s, err = (&reach{host: "0.0.0.0", ownTLS: true, names: []string{"crock.example"}}).listen(t.TempDir())
	require.NoError(t, err)
	defer s.Close()
	assert.False(t, s.local)
	assert.Regexp(t, `^https://crock\.example:\d+$`, s.addresses[0])
	assert.Regexp(t, `^([0-9A-F]{2}:){31}[0-9A-F]{2}$`, s.fingerprint)
	assert.Contains(t, s.web.Hosts, "crock.example")

	s, err = (&reach{host: "127.0.0.1", proxies: []string{"127.0.0.1", "10.0.0.0/8"}, names: []string{"crock.example"}}).listen(t.TempDir())
	require.NoError(t, err)
	defer s.Close()
	assert.Equal(t, []string{"https://crock.example"}, s.addresses)
	assert.Len(t, s.web.Proxies, 2)
}

// The tests that docs/security.md names are there.
func TestWhatHoldsTheRequirementsIsThere(t *testing.T) {
	table, err := os.ReadFile("../../docs/security.md")
	require.NoError(t, err)
	named := regexp.MustCompile(`Test[A-Z]\w+`).FindAllString(string(table), -1)
	assert.Greater(t, len(named), 15)
	var all strings.Builder
	for _, pattern := range []string{"*_test.go", "../../internal/*/*_test.go", "../../internal/*/*/*_test.go", "../../e2e/*_test.go", "../../core/*_test.go"} {
		files, err := filepath.Glob(pattern)
		require.NoError(t, err)
		for _, path := range files {
			text, err := os.ReadFile(path)
			require.NoError(t, err)
			all.Write(text)
		}
	}
	for _, name := range named {
		assert.Contains(t, all.String(), "func "+name+"(", name)
	}
}

// What “./start” builds knows the commit it is of, whoever owns the checkout, and that
// something was changed since.
func TestAPlainCloneKnowsItsCommit(t *testing.T) {
	setup, err := filepath.Abs("../../tools/setup.sh")
	require.NoError(t, err)
	folder := t.TempDir()
	run := func(script string) string {
		cmd := exec.Command("bash", "-c", script)
		cmd.Dir = folder
		cmd.Env = append(os.Environ(), "root="+folder, "GIT_AUTHOR_NAME=a", "GIT_AUTHOR_EMAIL=a@example.org", "GIT_COMMITTER_NAME=a", "GIT_COMMITTER_EMAIL=a@example.org")
		out, err := cmd.CombinedOutput()
		require.NoError(t, err, string(out))
		return strings.TrimSpace(string(out))
	}
	here := func() string { return run(". " + setup + " && root=" + folder + " && commit_here") }
	assert.Empty(t, here(), "without a history nothing is made up")
	run("git init -q . && echo one >file && git add file && git commit -q -m first")
	at := run("git rev-parse --short=12 HEAD")
	assert.Equal(t, at, here())
	run("echo two >file")
	assert.Equal(t, at+", changed since", here())

	was := commit
	t.Cleanup(func() { commit = was })
	commit = at
	assert.Contains(t, built(), "(commit "+at+", go")
}

// The newest entry of the changes is of this version.
func TestTheVersionIsThatOfTheChanges(t *testing.T) {
	text, err := os.ReadFile("../../CHANGELOG.md")
	require.NoError(t, err)
	_, after, _ := strings.Cut(string(text), "## ")
	assert.True(t, strings.HasPrefix(after, version+"\n"))
	assert.Contains(t, built(), version)
}
