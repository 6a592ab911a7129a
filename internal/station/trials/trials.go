// Package trials is the trials station: goods held against each other, judged without knowing
// which is which, and answered no louder than the marks allow.
package trials

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/trial"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Service is what can be done with trials.
type Service struct{ *tenant.House }

// New returns the trials of a house.
func New(h *tenant.House) *Service { return &Service{h} }

// List lists trials, those of one formula where it is given.
func (s *Service) List(ctx context.Context, formula uuid.UUID) ([]api.Trial, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := []api.Trial{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		rows, err := tx.Trials()
		if err != nil {
			return err
		}
		ids := make([]uuid.UUID, len(rows))
		for i := range rows {
			ids[i] = rows[i].ID
		}
		marks, err := tx.TrialMarks(ids...)
		if err != nil {
			return err
		}
		of := map[uuid.UUID][]store.TrialMark{}
		for _, m := range marks {
			of[m.TrialID] = append(of[m.TrialID], m)
		}
		for i := range rows {
			one, err := read(tx, &rows[i], of[rows[i].ID])
			if err != nil {
				return err
			}
			if formula == uuid.Nil || slices.ContainsFunc(one.goods, func(g api.TrialGood) bool { return g.Formula == formula }) {
				out = append(out, *one.short())
			}
		}
		return nil
	})
	return out, err
}

// Trial is one with its marks. Which good is behind which code is told once it is ended, or to
// who asks for the key.
func (s *Service) Trial(ctx context.Context, id uuid.UUID, key bool) (*api.Trial, error) {
	least := tenant.Viewer
	if key {
		least = tenant.Maker
	}
	if _, err := tenant.Require(ctx, least); err != nil {
		return nil, err
	}
	var out *api.Trial
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		out, err = whole(tx, id, key)
		return err
	})
	return out, err
}

func whole(tx *store.Tx, id uuid.UUID, key bool) (*api.Trial, error) {
	row, err := tx.TrialByID(id)
	if err != nil {
		return nil, tenant.Explain(err, "trial")
	}
	marks, err := tx.TrialMarks(id)
	if err != nil {
		return nil, err
	}
	t, err := read(tx, row, marks)
	if err != nil {
		return nil, err
	}
	if t.swatches, err = tx.Swatches(id); err != nil {
		return nil, err
	}
	out := t.short()
	out.Sheet = t.sheet(key || row.EndedAt != nil)
	return out, nil
}

// Begin begins a trial: which good goes by which code in which pair is drawn by lot.
func (s *Service) Begin(ctx context.Context, in *api.NewTrial) (*api.Trial, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	drawn := sha256.Sum256([]byte(rand.Text()))
	seed := int64(binary.BigEndian.Uint64(drawn[:8]))
	row := &store.Trial{ID: store.NewID(), Question: strings.TrimSpace(in.Question), Measure: strings.TrimSpace(in.Measure), LowWord: strings.TrimSpace(in.LowWord), HighWord: strings.TrimSpace(in.HighWord),
		Lower: in.Better == "lower" || in.Ranked, Ranked: in.Ranked, Control: in.Control, Pairs: in.Pairs, Same: strings.TrimSpace(in.Same), Seed: seed, PersonID: a.Person, BegunAt: s.Now()}
	if row.Question == "" {
		return nil, problem.Unfit("bad-value", "Say what is asked, such as “Is Towpath Plain as good as Towpath on tea?”").At("question")
	}
	if in.Control >= len(in.Goods) {
		return nil, problem.Unfit("bad-value", "There are only %d goods.", len(in.Goods)).At("control")
	}
	var out *api.Trial
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		if err := checkGoods(tx, in.Goods); err != nil {
			return err
		}
		if row.Goods, err = json.Marshal(in.Goods); err != nil {
			return err
		}
		if err := tx.AddTrial(row); err != nil {
			return err
		}
		if out, err = whole(tx, row.ID, false); err != nil {
			return err
		}
		return tx.Announce("trials", row.ID)
	})
	return out, err
}

// checkGoods holds that goods are told apart, and keeps which version of a formula each is.
func checkGoods(tx *store.Tx, goods []api.TrialGood) error {
	seen := map[string]bool{}
	for i := range goods {
		g := &goods[i]
		g.Name, g.Changed = strings.TrimSpace(g.Name), false
		if key := strings.ToLower(g.Name); key == "" || seen[key] {
			return problem.Unfit("twice", "Each good has a name of its own.").At(fmt.Sprintf("goods[%d].name", i))
		} else {
			seen[key] = true
		}
		if g.Formula == uuid.Nil {
			g.Version = 0
			continue
		}
		f, err := tx.Formula(g.Formula)
		if err != nil {
			return tenant.Explain(err, "formula")
		}
		if g.Version == 0 {
			g.Version = f.Version
		}
		if _, err := tx.FormulaVersion(g.Formula, g.Version); err != nil {
			return tenant.Explain(err, "version")
		}
	}
	return nil
}

// Mark gives a mark to what goes by a code.
func (s *Service) Mark(ctx context.Context, id uuid.UUID, in *api.NewMark) (*api.Trial, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	return s.judge(ctx, id, func(tx *store.Tx, t *kept) error {
		if t.row.Ranked {
			return problem.Clash("ranked", "In this trial each pair is put in order: give the order of all its codes.")
		}
		good, err := t.behind(in.Pair, in.Code)
		if err != nil {
			return err
		}
		return tx.Mark(&store.TrialMark{TrialID: id, Pair: in.Pair, Good: good, Judge: cmp.Or(strings.TrimSpace(in.Judge), a.Name), Mark: in.Mark, PersonID: a.Person, NotedAt: s.Now()})
	})
}

// Rank puts a pair in order, best first.
func (s *Service) Rank(ctx context.Context, id uuid.UUID, in *api.NewRanks) (*api.Trial, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	return s.judge(ctx, id, func(tx *store.Tx, t *kept) error {
		if !t.row.Ranked {
			return problem.Clash("marked", "In this trial each code gets a mark from 0 to 10, and no place.")
		}
		codes := make([]string, len(t.goods))
		for c := range codes {
			codes[c] = trial.Code(c)
		}
		places, err := trial.Ranks(in.Order, codes)
		if err != nil {
			return problem.Unfit("bad-value", "%s", err).At("order")
		}
		for code, place := range places {
			good, err := t.behind(in.Pair, code)
			if err != nil {
				return err
			}
			if err := tx.Mark(&store.TrialMark{TrialID: id, Pair: in.Pair, Good: good, Judge: cmp.Or(strings.TrimSpace(in.Judge), a.Name), Mark: place, PersonID: a.Person, NotedAt: s.Now()}); err != nil {
				return err
			}
		}
		return nil
	})
}

// judge keeps what a judge says of a trial that is not over, and answers how it stands then.
func (s *Service) judge(ctx context.Context, id uuid.UUID, keep func(*store.Tx, *kept) error) (out *api.Trial, err error) {
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		row, err := tx.LockTrial(id)
		if err != nil {
			return tenant.Explain(err, "trial")
		}
		if row.EndedAt != nil {
			return problem.Clash("ended", "This trial is over: its marks stay as they are.")
		}
		t, err := read(tx, row, nil)
		if err != nil {
			return err
		}
		if err := keep(tx, t); err != nil {
			return err
		}
		if out, err = whole(tx, id, false); err != nil {
			return err
		}
		return tx.Announce("trials", id)
	})
	return out, err
}

// End ends a trial.
func (s *Service) End(ctx context.Context, id uuid.UUID) (*api.Trial, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	var out *api.Trial
	err := s.Store.Tx(ctx, func(tx *store.Tx) error {
		if _, err := tx.LockTrial(id); err != nil {
			return tenant.Explain(err, "trial")
		}
		if err := tx.EndTrial(id, s.Now()); err != nil {
			return err
		}
		var err error
		if out, err = whole(tx, id, true); err != nil {
			return err
		}
		return tx.Announce("trials", id)
	})
	return out, err
}

// Needed says how many pairs tell a difference.
func (s *Service) Needed(ctx context.Context, difference, spread float64, goods int) (*api.PairsNeeded, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	n, ok := trial.PairsNeeded(difference, spread, max(1, goods-1))
	if !ok {
		return &api.PairsNeeded{Says: "Even 60 pairs would hardly tell that: ask for a larger difference, or mark more alike."}, nil
	}
	return &api.PairsNeeded{Enough: true, Pairs: n, Says: fmt.Sprintf("%d pairs tell it four times in five.", n)}, nil
}

// kept is a trial as it is kept, read.
type kept struct {
	row   *store.Trial
	goods []api.TrialGood
	drawn [][]int
	marks []store.TrialMark

	swatches []store.Swatch
}

func read(tx *store.Tx, row *store.Trial, marks []store.TrialMark) (*kept, error) {
	k := &kept{row: row, marks: marks}
	if err := json.Unmarshal(row.Goods, &k.goods); err != nil {
		return nil, fmt.Errorf("the goods of trial %s: %w", row.ID, err)
	}
	for i := range k.goods {
		g := &k.goods[i]
		if g.Formula == uuid.Nil {
			continue
		}
		f, err := tx.Formula(g.Formula)
		if err != nil {
			return nil, err
		}
		g.Changed = f.Version != g.Version
	}
	k.drawn = trial.Draw(uint64(row.Seed), row.Pairs, len(k.goods))
	return k, nil
}

// behind is the good behind a code of a pair.
func (k *kept) behind(pair int, code string) (int, error) {
	if pair > k.row.Pairs {
		return 0, problem.Unfit("bad-value", "There are %d pairs.", k.row.Pairs).At("pair")
	}
	c := strings.Index("ABCDEFGH", strings.ToUpper(code))
	if c < 0 || c >= len(k.goods) {
		return 0, problem.Unfit("bad-value", "There is no %s in a pair.", code).At("code")
	}
	return k.drawn[pair-1][c], nil
}

// short is a trial without its sheet; with its answer once it is ended.
func (k *kept) short() *api.Trial {
	out := &api.Trial{Id: k.row.ID, Question: k.row.Question, Measure: k.row.Measure, LowWord: k.row.LowWord, HighWord: k.row.HighWord, Better: api.HigherIsBetter, Ranked: k.row.Ranked, Goods: k.goods,
		Control: k.row.Control, Same: k.row.Same, Pairs: k.row.Pairs, Marked: len(k.marks), Wanted: k.row.Pairs * len(k.goods), Began: k.row.BegunAt, Ended: k.row.EndedAt != nil}
	if k.row.Lower {
		out.Better = api.LowerIsBetter
	}
	if out.Ended {
		out.EndedAt = *k.row.EndedAt
		out.Answer = k.answer()
	}
	return out
}

// answer answers it: marks of several judges of one thing are taken in their mean.
func (k *kept) answer() api.TrialAnswer {
	out := api.TrialAnswer{Comparisons: []api.TrialComparison{}}
	type of struct{ pair, good int }
	sum, n := map[of]float64{}, map[of]float64{}
	for _, m := range k.marks {
		sum[of{m.Pair, m.Good}] += m.Mark
		n[of{m.Pair, m.Good}]++
	}
	t := trial.Trial{Control: k.goods[k.row.Control].Name, Lower: k.row.Lower, Ranked: k.row.Ranked}
	for pair := 1; pair <= k.row.Pairs; pair++ {
		for good := range k.goods {
			if at := (of{pair, good}); n[at] > 0 {
				t.Marks = append(t.Marks, trial.Mark{Pair: strconv.Itoa(pair), Good: k.goods[good].Name, Mark: sum[at] / n[at]})
			}
		}
	}
	a, err := t.Answer()
	if err != nil { // nothing was marked that could be held against anything
		return out
	}
	for i := range a.Comparisons {
		c := &a.Comparisons[i]
		one := api.TrialComparison{Good: c.Good, Against: c.Against, Pairs: c.Pairs, P: c.P, PHolm: c.PHolm, PSign: c.PSign, Verdict: api.TrialComparisonVerdict(c.Verdict), MorePairs: c.MorePairs, Says: c.Says, Differences: append([]float64{}, c.Differences...)}
		if c.Pairs > 0 {
			one.Value, one.Low, one.High, one.Confidence = c.Difference.Value, c.Difference.Low, c.Difference.High, c.Difference.Confidence
		}
		out.Comparisons = append(out.Comparisons, one)
	}
	if len(a.Goods) > 2 {
		out.FriedmanP, out.FriedmanExact = a.Friedman, a.FriedmanExact
	}
	return out
}

// sheet is what is judged, pair by pair; with the goods behind the codes where they may be known.
func (k *kept) sheet(open bool) []api.TrialPair {
	out := make([]api.TrialPair, k.row.Pairs)
	for p := range out {
		out[p] = api.TrialPair{Pair: p + 1, Codes: make([]api.TrialCode, len(k.goods))}
		for c, good := range k.drawn[p] {
			one := &out[p].Codes[c]
			one.Code, one.Marks, one.Swatch = trial.Code(c), []api.TrialMark{}, k.swatch(p+1, good)
			if open {
				one.Good = k.goods[good].Name
			}
			for _, m := range k.marks {
				if m.Pair == p+1 && m.Good == good {
					one.Marks = append(one.Marks, api.TrialMark{Judge: m.Judge, Mark: m.Mark})
				}
			}
		}
	}
	return out
}
