package demo

import (
	"context"
	"fmt"

	"github.com/google/uuid"
	"github.com/oapi-codegen/runtime/types"

	"keencrock/api"
	"keencrock/internal/station/pantry"
)

// goodsOut is how goods leave the workshop: what their labels say, checks of their
// filling, loads that were counted, cards and what comes round.
type goodsOut struct {
	Use    map[string]string `json:"use"` // by formula
	Labels []struct {
		Formula   string   `json:"formula"`
		Form      string   `json:"form"`
		Languages []string `json:"languages"`
		Sheet     string   `json:"sheet"`
	} `json:"labels"`
	Fills []struct {
		Formula string `json:"formula"`
		api.FillWeighings
	} `json:"fills"`
	Loads []struct {
		Formula string `json:"formula"`
		api.LoadsCount
	} `json:"loads"`
	Cards []struct {
		Good string `json:"good"`
		api.OwnCard
	} `json:"cards"`
	Chores []struct {
		InDays int `json:"in_days"`
		api.NewChore
	} `json:"chores"`
}

// demoOrigin is where the codes of the demo's printed labels lead: the address the demo
// is served at unless another is asked for.
const demoOrigin = "http://127.0.0.1:8420"

// sendOut labels, checks and explains the goods that are there.
func (p *player) sendOut(ctx context.Context) error {
	p.at(0, 8, 0)
	goods, _, err := p.pantry.Pantry(ctx, pantry.Query{Limit: 200})
	if err != nil {
		return err
	}
	newest := map[string]uuid.UUID{}
	for i := len(goods) - 1; i >= 0; i-- { // the newest stand in front
		newest[goods[i].Name] = goods[i].Batch
	}
	of := func(name string) (uuid.UUID, error) {
		if id, there := newest[name]; there {
			return id, nil
		}
		return uuid.Nil, fmt.Errorf("nothing is left of %s to send out", name)
	}
	out := &p.sc.GoodsOut
	for _, l := range out.Labels {
		id, err := of(l.Formula)
		if err != nil {
			return err
		}
		order := api.LabelOrder{Sheet: l.Sheet, Label: api.LabelWish{Form: l.Form, Languages: l.Languages, Use: out.Use[l.Formula], Doses: true, Origin: demoOrigin}}
		if _, err := p.pantry.PrintLabels(ctx, id, order); err != nil {
			return fmt.Errorf("labels of %s: %w", l.Formula, err)
		}
	}
	for _, f := range out.Fills {
		id, err := of(f.Formula)
		if err != nil {
			return err
		}
		if _, err := p.pantry.CheckFill(ctx, id, f.FillWeighings); err != nil {
			return fmt.Errorf("the fill of %s: %w", f.Formula, err)
		}
	}
	for _, l := range out.Loads {
		id, err := of(l.Formula)
		if err != nil {
			return err
		}
		if _, err := p.pantry.CountLoads(ctx, id, l.LoadsCount); err != nil {
			return fmt.Errorf("the loads of %s: %w", l.Formula, err)
		}
	}
	for _, c := range out.Cards {
		card := c.OwnCard
		card.Formula = p.formulas[c.Good]
		if _, err := p.pantry.AddCard(ctx, card); err != nil {
			return fmt.Errorf("card %s: %w", c.Task, err)
		}
	}
	for _, c := range out.Chores {
		chore := c.NewChore
		chore.First = types.Date{Time: p.today.AddDate(0, 0, c.InDays)}
		if _, err := p.pantry.AddChore(ctx, chore); err != nil {
			return fmt.Errorf("%s: %w", c.Title, err)
		}
	}
	return nil
}
