package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"keencrock/api"
	"keencrock/demo"
	"keencrock/internal/exchange/archive"
)

// How often is killed, and from which seed, where it is told: KEEN_CROCK_KILLS=1000.
const (
	killsTold = "KEEN_CROCK_KILLS"
	seedTold  = "KEEN_CROCK_SEED"
	fewKills  = 12
)

// TestWhatWasAcknowledgedOutlivesEveryKill kills the server, its database or both at
// random moments while stock comes in, batches are weighed, stepped through and packed,
// jars go and come back, lists are taken in and backups are written. What was answered
// is there afterwards, once; what was not is asked again with its key, and then is there
// once too; stock adds up; every backup that stands in its folder is whole.
func TestWhatWasAcknowledgedOutlivesEveryKill(t *testing.T) {
	t.Parallel()
	kills, seed := fewKills, rand.Uint64()
	if told := os.Getenv(killsTold); told != "" {
		var err error
		kills, err = strconv.Atoi(told)
		require.NoError(t, err)
	}
	if told := os.Getenv(seedTold); told != "" {
		var err error
		seed, err = strconv.ParseUint(told, 10, 64)
		require.NoError(t, err)
	}
	t.Logf("%s=%d", seedTold, seed)
	r := rand.New(rand.NewPCG(seed, 0))
	k := newKilled(t, seed)
	k.furnish()
	for n := range kills {
		k.work(r, time.Duration(5+r.IntN(400))*time.Millisecond)
		k.settle()
		if n%5 == 4 || n == kills-1 {
			k.adds(n + 1)
		}
	}
	t.Logf("%d kills, %d things done, %d of them asked again, %d backups", kills, k.done, k.again, k.backups())
	assert.Greater(t, k.done, kills)
	if kills >= fewKills {
		assert.Positive(t, k.again, "some were under way when they were killed")
	}
}

// killed is a server with a database of its own that is killed, and what was asked of it.
type killed struct {
	*app
	t     *testing.T
	home  string
	http  *http.Client
	token string
	seed  uint64

	base    api.Lot           // stock that is weighed from
	formula api.StoredFormula // with a step that takes its time

	mu     sync.Mutex
	asked  []*asked // and not answered for good yet
	lots   []string // codes that came in, as far as was answered
	lists  int      // CSV lists that were taken in
	done   int
	again  int
	number int
}

// asked is one thing that is to be done once.
type asked struct {
	path, media string
	body        []byte
	key         string
	last        string // what came of the last try
	answered    func(status int, body []byte)
}

func newKilled(t *testing.T, seed uint64) *killed {
	home, err := os.MkdirTemp("", "keencrock-kill-")
	require.NoError(t, err)
	t.Cleanup(func() { os.RemoveAll(home) })
	return newKilledIn(t, home, seed)
}

func newKilledIn(t *testing.T, home string, seed uint64) *killed {
	require.NoError(t, os.Chmod(home, 0o755)) // the database has an account of its own
	jar, err := cookiejar.New(nil)
	require.NoError(t, err)
	k := &killed{t: t, home: home, seed: seed, http: &http.Client{Jar: jar, Timeout: 20 * time.Second},
		app: &app{t: t, env: append(os.Environ(), "KEEN_CROCK_HOME="+home, "KEEN_CROCK_NIGHTLY_BACKUPS=0", "KEEN_CROCK_LOG_LEVEL=error")}}
	k.run("0")
	t.Cleanup(func() { k.stop(syscall.SIGTERM) })
	return k
}

func (k *killed) furnish() {
	var session api.Session
	k.must("POST", "/api/session", api.Credentials{Login: demo.Login, Password: demo.Password}, &session)
	k.token = session.CsrfToken
	k.must("POST", "/api/deliveries", api.DeliveryLine{Line: "900 kg borax 900.00 from Quay, lot KILL-BASE"}, &k.base)
	k.must("POST", "/api/formulas", api.FormulaFile{Format: api.Keencrockformula, Version: 3, Name: "Killed", Kind: "laundry-powder",
		Lines: []api.FormulaLine{{Material: "borax", Amount: "100 g"}}, Uses: api.OneUse{Amount: "10 g"}}, &k.formula)
}

// must asks for something that has to be answered well.
func (k *killed) must(method, path string, body, into any) {
	k.t.Helper()
	text, err := json.Marshal(body)
	require.NoError(k.t, err)
	status, answer, err := k.send(method, path, "application/json", text, uuid.NewString())
	require.NoError(k.t, err, path)
	require.Less(k.t, status, 300, "%s: %s", path, answer)
	if into != nil {
		require.NoError(k.t, json.Unmarshal(answer, into))
	}
}

func (k *killed) send(method, path, media string, body []byte, key string) (status int, answer []byte, err error) {
	r, err := http.NewRequest(method, k.url+path, bytes.NewReader(body))
	if err != nil {
		return 0, nil, err
	}
	r.Header.Set("Content-Type", media)
	r.Header.Set("X-CSRF-Token", k.token)
	r.Header.Set("Idempotency-Key", key)
	res, err := k.http.Do(r)
	if err != nil {
		return 0, nil, err
	}
	defer res.Body.Close()
	answer, err = io.ReadAll(res.Body)
	return res.StatusCode, answer, err
}

// ask asks for one thing, and keeps it for later when there is no answer that counts.
// It reports whether it was answered.
func (k *killed) ask(path, media string, body any, answered func(status int, body []byte)) bool {
	text, isText := body.(string)
	content := []byte(text)
	if !isText {
		content, _ = json.Marshal(body)
	}
	a := &asked{path: path, media: media, body: content, key: uuid.NewString(), answered: answered}
	if k.try(a) {
		return true
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	k.asked = append(k.asked, a)
	return false
}

// try sends what was asked and reports whether the answer is for good.
func (k *killed) try(a *asked) bool {
	status, answer, err := k.send("POST", a.path, a.media, a.body, a.key)
	if a.last = fmt.Sprintf("%d %s %v", status, answer, err); err != nil || status >= 500 {
		return false
	}
	k.mu.Lock()
	k.done++
	k.mu.Unlock()
	a.answered(status, answer)
	return true
}

func (k *killed) next() int {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.number++
	return k.number
}

const asJSON = "application/json"

// wellDone holds that what is asked is answered as done: now, or before it was killed.
func (k *killed) wellDone(what string) func(int, []byte) {
	return func(status int, body []byte) {
		assert.Less(k.t, status, 300, "%s: %s", what, body)
	}
}

// deliver takes in lots one by one.
func (k *killed) deliver() bool {
	code := fmt.Sprintf("KILL-%d", k.next())
	return k.ask("/api/deliveries", asJSON, api.DeliveryLine{Line: "1 kg borax 1.00 from Quay, lot " + code}, func(status int, body []byte) {
		k.wellDone("a delivery")(status, body)
		k.mu.Lock()
		defer k.mu.Unlock()
		k.lots = append(k.lots, code)
	})
}

// list takes in a list of three lots: all of it, or nothing.
func (k *killed) list() bool {
	n := k.next()
	text := "material,amount,lot\n"
	for i := range 3 {
		text += fmt.Sprintf("borax,1 kg,LIST-%d-%d\n", n, i)
	}
	return k.ask("/api/shelf.csv", "text/csv", text, func(status int, body []byte) {
		k.wellDone("a list")(status, body)
		k.mu.Lock()
		defer k.mu.Unlock()
		k.lists++
	})
}

// make weighs a batch out, notes something of it, packs it, and lets its jar go.
func (k *killed) make() bool {
	var b api.Batch
	ok := k.ask("/api/batches", asJSON, api.NewBatch{Formula: k.formula.Id, Target: api.Target{Factor: 1}}, func(status int, body []byte) {
		k.wellDone("a batch")(status, body)
		assert.NoError(k.t, json.Unmarshal(body, &b))
		assert.NotEqual(k.t, uuid.Nil, b.Id, "the batch that was begun, whatever was killed meanwhile")
	})
	at := "/api/batches/" + b.Id.String()
	ok = ok && k.ask(at+"/weighings", asJSON, api.Weighing{Line: 0, Lot: "KILL-BASE", Grams: 60}, k.wellDone("a weighing"))
	ok = ok && k.ask(at+"/weighings", asJSON, api.Weighing{Line: 0, Lot: "KILL-BASE", Grams: 40}, k.wellDone("a second weighing"))
	ok = ok && k.ask(at+"/notes", asJSON, api.BatchNote{Text: "a note"}, k.wellDone("a note"))
	for i, s := range b.Steps {
		if ok && s.Kind != "weigh" && s.Kind != "fill" {
			ok = k.ask(at+"/acts", asJSON, api.BatchAct{Kind: "step-done", Step: &i}, func(int, []byte) {})
		}
	}
	var packed api.Batch
	ok = ok && k.ask(at+"/finish", asJSON, api.Finish{Jars: 2}, func(status int, body []byte) {
		k.wellDone("packing")(status, body)
		_ = json.Unmarshal(body, &packed)
	})
	if !ok {
		return false
	}
	var good struct {
		JarList []api.Jar `json:"jar_list"`
	}
	_, body, err := k.send("GET", "/api/pantry/"+packed.Id.String(), asJSON, nil, "")
	if err != nil || json.Unmarshal(body, &good) != nil || len(good.JarList) == 0 {
		return false
	}
	move := api.JarsMove{Jars: []uuid.UUID{good.JarList[0].Id}, Gone: true}
	if !k.ask("/api/jars/moves", asJSON, move, k.wellDone("a jar that goes")) {
		return false
	}
	move.Gone = false
	return k.ask("/api/jars/moves", asJSON, move, k.wellDone("a jar that comes back"))
}

// work lets all of it go on at once, for a while, and then kills.
func (k *killed) work(r *rand.Rand, length time.Duration) {
	var all sync.WaitGroup
	until := time.Now().Add(length)
	for _, f := range []func() bool{k.deliver, k.list, k.make, k.make} {
		all.Go(func() {
			for time.Now().Before(until) && f() {
			}
		})
	}
	var backup *exec.Cmd
	if r.IntN(3) == 0 {
		backup = exec.Command(binary, "backup")
		backup.Env = k.env
		require.NoError(k.t, backup.Start())
	}
	<-time.After(time.Until(until)) // the moment is what is tried
	which := r.IntN(3)
	if which != 0 {
		k.killDatabase()
	}
	if which != 1 {
		require.NoError(k.t, k.cmd.Process.Kill())
		_ = k.cmd.Wait()
	}
	if backup != nil {
		if r.IntN(2) == 0 {
			_ = backup.Process.Kill()
		}
		_ = backup.Wait()
	}
	all.Wait()
	if which != 1 {
		k.restart()
	}
}

// killDatabase kills the server's database outright.
func (k *killed) killDatabase() {
	if pid, err := strconv.Atoi(k.databasePID()); err == nil && pid > 1 {
		_ = syscall.Kill(pid, syscall.SIGKILL)
	}
}

// databasePID is the process of the database; empty while it is being started.
func (k *killed) databasePID() string {
	text, err := os.ReadFile(filepath.Join(k.home, "postgres", "postmaster.pid"))
	if err != nil {
		return ""
	}
	pid, _, _ := strings.Cut(string(text), "\n")
	return pid
}

// settle asks again, with its key, for everything that was not answered.
func (k *killed) settle() {
	deadline := time.After(2 * time.Minute)
	again := time.NewTicker(20 * time.Millisecond)
	defer again.Stop()
	for len(k.asked) > 0 {
		a := k.asked[0]
		if k.try(a) {
			k.asked = k.asked[1:]
			k.again++
			continue
		}
		select {
		case <-deadline:
			k.t.Fatalf("%s is not answered after a kill: %s", a.path, a.last)
		case <-again.C:
		}
	}
}

// adds holds that all is there that was answered, once, and adds up.
func (k *killed) adds(kills int) {
	k.t.Helper()
	verify := exec.Command(binary, "verify")
	verify.Env = k.env
	out, err := verify.CombinedOutput()
	require.NoError(k.t, err, "after %d kills: %s", kills, out)
	var shelf []byte
	for shelf == nil { // the database may be coming back
		if status, body, err := k.send("GET", "/api/shelf.csv", asJSON, nil, ""); err == nil && status == http.StatusOK {
			shelf = body
		}
	}
	seen := map[string]int{}
	lists := map[string]int{}
	for _, line := range strings.Split(string(shelf), "\n") {
		for _, field := range strings.Split(line, ",") {
			if strings.HasPrefix(field, "KILL-") {
				seen[field]++
			}
			if strings.HasPrefix(field, "LIST-") {
				lists[field[:strings.LastIndexByte(field, '-')]]++
			}
		}
	}
	for _, code := range k.lots {
		require.Equal(k.t, 1, seen[code], "lot %s after %d kills", code, kills)
	}
	require.Len(k.t, seen, len(k.lots)+1, "no lot that was not asked for")
	require.Len(k.t, lists, k.lists, "lists taken in")
	for list, lots := range lists {
		require.Equal(k.t, 3, lots, "%s is there whole", list)
	}
	k.backups()
}

// backups counts the backups, each of which is whole.
func (k *killed) backups() int {
	k.t.Helper()
	paths, err := filepath.Glob(filepath.Join(k.home, "backups", "*.zip"))
	require.NoError(k.t, err)
	for _, path := range paths {
		a, err := archive.Open(path)
		require.NoError(k.t, err, path)
		require.NoError(k.t, a.Close())
	}
	return len(paths)
}
