package pantry

import (
	"github.com/google/uuid"

	"keencrock/core/assess"
	"keencrock/core/label"
	"keencrock/core/making"
	"keencrock/core/stock"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// made is a good of one batch with what is known of it.
type made struct {
	*tenant.AsMade
	set    *tenant.Settings
	row    *store.Making
	lot    *stock.Lot
	pieces []stock.Piece
	// loads are what was counted of its formula's goods, in grams of loads; zero for none.
	loads, loadsG float64
	was           *assess.Assessment // once it was asked for
}

// assessed is the good as it stands.
func (m *made) assessed() *assess.Assessment {
	if m.was == nil {
		m.was = m.Assess(m.set, nil)
	}
	return m.was
}

// made reads what a batch made. Of one that was abandoned, or that has made nothing
// yet, there is nothing to be labelled or used.
func (s *Service) made(tx *store.Tx, batch uuid.UUID) (*made, error) {
	set, err := s.Settings(tx)
	if err != nil {
		return nil, err
	}
	row, err := tx.Making(batch)
	if err != nil {
		return nil, tenant.Explain(err, "batch")
	}
	if row.State() == making.Abandoned {
		return nil, problem.Clash("abandoned", "Batch %s was abandoned: there is nothing of it to label or to use.", row.Code)
	}
	lots, err := tx.LotsOfMakings(stock.ID(batch))
	if err != nil {
		return nil, err
	}
	m := &made{set: set, row: row, lot: lots[stock.ID(batch)]}
	if m.lot == nil {
		return nil, problem.Clash("not-finished", "Batch %s has made nothing yet: pack it first.", row.Code)
	}
	pieces, err := tx.Pieces(m.lot.ID)
	if err != nil {
		return nil, err
	}
	m.pieces = pieces[m.lot.ID]
	if m.loads, m.loadsG, err = tx.LoadsCounted(row.FormulaID); err != nil {
		return nil, err
	}
	m.AsMade, err = tenant.ReadAsMade(set, row)
	return m, err
}

// eachG is what one jar holds, in grams: of one in no jars all of it.
func (m *made) eachG() float64 {
	if m.row.EachG > 0 {
		return m.row.EachG
	}
	if len(m.pieces) > 0 {
		return m.pieces[0].Original
	}
	return m.lot.Original
}

// net is what a label says of one jar, in g, or in ml of what is poured: what it holds,
// rounded down as figures on labels are.
func (m *made) net() float64 {
	holds := m.eachG()
	if density := m.DensityGPerML(); density > 0 {
		holds /= density
	}
	return label.Nominal(holds)
}
