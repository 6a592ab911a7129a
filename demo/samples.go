package demo

import (
	"context"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"keencrock/api"
)

// watched is a jar that is kept to be looked at, and what was seen of it.
type watched struct {
	Formula string `json:"formula"`
	DaysAgo int    `json:"days_ago"` // of its batch
	Stands  string `json:"stands"`
	Looks   []struct {
		DaysAgo int      `json:"days_ago"`
		Signs   []string `json:"signs"`
		Gone    bool     `json:"gone"`
		PH      *float64 `json:"ph"`
		Note    string   `json:"note"`
	} `json:"looks"`
}

// watch keeps a jar and looks at it as the scenario has it.
func (p *player) watch(ctx context.Context, in *watched) error {
	at := slices.IndexFunc(p.sc.Batches, func(b batchEntry) bool { return b.Formula == in.Formula && b.DaysAgo == in.DaysAgo })
	if at < 0 {
		return fmt.Errorf("sample: no batch of %s so long ago", in.Formula)
	}
	good, err := p.pantry.Good(ctx, p.made[at])
	if err != nil {
		return err
	}
	jar := slices.IndexFunc(good.JarList, func(j api.Jar) bool { return !j.Gone })
	if jar < 0 {
		return fmt.Errorf("sample: no jar of %s is here", good.Code)
	}
	p.at(in.DaysAgo-1, 9, 0)
	kept, err := p.trials.KeepSamples(ctx, &api.NewSamples{Jars: []uuid.UUID{good.JarList[jar].Id}, Stands: in.Stands})
	if err != nil {
		return fmt.Errorf("sample of %s: %w", good.Code, err)
	}
	for _, l := range in.Looks {
		p.at(l.DaysAgo, 9, 0)
		if _, err := p.trials.Look(ctx, kept[0].Id, &api.NewLook{Signs: append([]string{}, l.Signs...), Good: !l.Gone, Ph: l.PH, Note: l.Note}); err != nil {
			return fmt.Errorf("a look at %s: %w", good.Code, err)
		}
	}
	return nil
}
