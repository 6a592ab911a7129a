package pantry

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/formula"
	"keencrock/core/hazard"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/core/why"
	"keencrock/core/wording"
	"keencrock/internal/exchange"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// zeroDay is no day.
var zeroDay time.Time

// ReadJar is what the code of a jar shows to whoever reads it: what its label says and
// more, nothing of cost or stock. What is not shown is not told from what is not there.
func (s *Service) ReadJar(ctx context.Context, token, hardness string) (*api.JarPage, error) {
	var out *api.JarPage
	err := s.jarOf(ctx, token, func(tx *store.Tx, m *made, number int) (err error) {
		if out, err = s.page(tx, m, hardness); err == nil {
			out.Code = exchange.JarCode(m.row.Code, number)
		}
		return err
	})
	return out, err
}

// jarOf reads the jar of a code, as its workshop shows it.
func (s *Service) jarOf(ctx context.Context, token string, read func(*store.Tx, *made, int) error) error {
	unknown := problem.Missing("not-found", "There is no such jar, or its workshop shows it to nobody. Ask whoever gave it to you.")
	const shortest = 20 // nobody guesses through a shorter one
	if len(token) < shortest {
		return unknown
	}
	jar, err := s.Store.JarByToken(ctx, token)
	if errors.Is(err, store.ErrNotFound) {
		return unknown
	} else if err != nil {
		return err
	}
	return s.Store.Snapshot(store.WithWorkshop(ctx, jar.WorkshopID), func(tx *store.Tx) error {
		m, err := s.made(tx, jar.MakingID)
		if err != nil {
			return err
		}
		return read(tx, m, jar.Number)
	})
}

// JarWhy is what is asked of a jar by whoever has it.
type JarWhy struct {
	Seen, Hardness, Dose string
	Answers              []string // each a test and yes or no: vinegar:yes
}

// AskJarWhy says why something went wrong with what is in a jar: weighed by all that is known
// of it, told without what it is made of. What would change the formula is its maker's.
func (s *Service) AskJarWhy(ctx context.Context, token string, in JarWhy) (*api.WhyFound, error) {
	var out *api.WhyFound
	err := s.jarOf(ctx, token, func(tx *store.Tx, m *made, _ int) error {
		f, _ := exchange.ToFormula(m.set.InMeasures(&m.By.File))
		u, err := s.WhyUsed(tx, m.set, tenant.AskedWhy{Formula: f, Hardness: in.Hardness, Dose: in.Dose})
		if err != nil {
			return err
		}
		u.RoomHumidity = 0 // of the workshop's room, not of where the jar is
		answers := make([]api.WhyAnswer, len(in.Answers))
		for i, a := range in.Answers {
			answers[i].Test, answers[i].Shown, _ = strings.Cut(a, ":")
		}
		q, err := exchange.WhyQuestion(in.Seen, answers, why.SeenOn(f.Kind)...)
		if err != nil {
			return err
		}
		q.Facts = u.Facts()
		if q.Found, err = tx.CountFoundCauses(q.Seen); err != nil {
			return err
		}
		found, err := why.Shipped().Find(*q)
		if err != nil {
			return err
		}
		found.Outside(q.Facts)
		out = exchange.WhyFound(found)
		for i := range out.Causes {
			if c := &out.Causes[i]; c.Kind == api.WhyFormula {
				c.Remedy = "Tell " + m.set.Workshop.Name + ": it is a matter of how it is made, and they can change it."
			}
		}
		return nil
	})
	return out, err
}

// Sheet is the page a customer gets with what one batch made.
func (s *Service) Sheet(ctx context.Context, batch uuid.UUID) (*api.JarPage, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out *api.JarPage
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		out, err = s.page(tx, m, "")
		return err
	})
	return out, err
}

// mostCards is how many cards stand on a page that is handed out.
const mostCards = 8

func (s *Service) page(tx *store.Tx, m *made, hardness string) (*api.JarPage, error) {
	english, err := wording.Find(wording.English)
	if err != nil {
		return nil, err
	}
	c, err := s.content(m, &api.LabelWish{})
	if err != nil {
		return nil, err
	}
	w := m.set.Workshop
	out := &api.JarPage{Workshop: w.Name, Address: w.Address, Contact: w.Contact, Name: m.row.Name, KindName: formula.Kind(m.row.Kind).Info().Name, Code: m.row.Code,
		Net: c.NetWords(english), Made: exchange.Date(m.lot.Received), BestBefore: exchange.Date(m.lot.BestBefore),
		Past: stock.NearnessOn(m.lot.BestBefore, s.Day(w)) == stock.Past, SignalWord: api.JarPageSignalWord(c.Signal), Pictograms: append([]string{}, c.Pictograms...),
		Statements: []api.Statement{}, Precautions: []api.Statement{}, Ingredients: c.IngredientWords(english), NotOn: c.NotOn, Unknown: unknownWords(c), Notice: hazard.Notice,
		Doses: []api.JarDose{}, Cards: []api.UseCard{}}
	for _, st := range c.Statements {
		out.Statements = append(out.Statements, api.Statement{Code: st.Code, Text: english.Statement(st.Code, st.Names...)})
	}
	for _, code := range c.Precautions {
		out.Precautions = append(out.Precautions, api.Statement{Code: code, Text: english.Statement(code)})
	}
	for _, e := range c.Extra {
		out.Extra = append(out.Extra, english.Words[e])
	}
	if err := m.pageDoses(out, hardness); err != nil {
		return nil, err
	}
	goods, err := s.goodsHere(tx, m.row.ID)
	if err != nil {
		return nil, err
	}
	cards, err := cardsFor(tx, goods, "", true)
	if err != nil {
		return nil, err
	}
	for _, card := range cards[:min(mostCards, len(cards))] {
		card.Goods, card.Version, card.Claims, card.Formula = []api.CardGood{}, 0, nil, uuid.Nil // nothing of stock
		out.Cards = append(out.Cards, card)
	}
	out.Use = lastUse(tx, m)
	return out, nil
}

// lastUse is how a good is used as its label said last; empty where none was printed.
func lastUse(tx *store.Tx, m *made) string {
	prints, err := tx.LabelPrints(m.row.ID)
	if err != nil {
		return ""
	}
	for i := range prints {
		if use := useOf(&prints[i]); use != "" {
			return use
		}
	}
	return ""
}

// pageDoses puts the doses for a water onto a page; that of the workshop where none is
// given.
func (m *made) pageDoses(out *api.JarPage, hardness string) error {
	h := m.set.Water().Hardness
	if hardness != "" {
		var err error
		if h, err = quantity.ParseHardness(hardness); err != nil {
			return problem.Unfit("bad-value", "%v.", err).At("hardness")
		}
	}
	out.HardnessMgPerL, out.HardnessClass = h.MGPerL(), h.Class()
	rows, err := m.doses(&h, dosing.Normal, 0)
	if err != nil {
		return err
	}
	for _, row := range rows {
		much := row.Measure
		if hardness == "" { // not asked for another water: as the label says
			much = row.ChosenAs
		}
		if much == "" {
			continue
		}
		d := api.JarDose{Where: fmt.Sprintf("%s, about %.0f l", row.Name, row.WaterL), Much: much}
		if !row.Reaches && row.SodaFirstG > 0 {
			d.Says = fmt.Sprintf("The water is hard: put %.0f g of soda ash into it first.", row.SodaFirstG)
		}
		out.Doses = append(out.Doses, d)
	}
	return nil
}
