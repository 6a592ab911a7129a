package exchange

import (
	"github.com/oapi-codegen/runtime/types"
	"github.com/shopspring/decimal"

	"keencrock/api"
	"keencrock/core/costing"
	"keencrock/core/listener"
)

// Deliveries puts what was read of a note on what came into the words of the contract.
func Deliveries(d *listener.Delivery) *api.SaidDelivery {
	out := &api.SaidDelivery{Lots: []api.SaidLot{}, Words: SaidWords(d.Text, d.Words), Questions: []api.Question{}}
	for _, l := range d.Lots {
		out.Lots = append(out.Lots, saidLot(l))
	}
	for i := range d.Words {
		if l := d.Words[i].Line; l < 0 {
			out.Words[i].Line = nil
		}
	}
	for i := range d.Unsure {
		u := &d.Unsure[i]
		q := api.Question{Field: "lots", Code: u.Code, Detail: u.Text, Nearest: u.Answers, Answers: []api.QuestionAnswers{api.QuestionAnswersFigure}}
		if len(u.Answers) > 0 {
			q.Answers = []api.QuestionAnswers{api.QuestionAnswersChoose}
		}
		if u.Line >= 0 {
			q.Line = &u.Line
		}
		out.Questions = append(out.Questions, q)
	}
	return out
}

func saidLot(l *listener.Lot) api.SaidLot {
	out := api.SaidLot{Name: l.Name, MassG: l.MassG, Packs: l.Packs, Amount: l.Written, Currency: l.Currency, Supplier: l.Supplier, LotCode: l.LotCode}
	if l.Material != nil {
		out.Material, out.Name = l.Material.ID, l.Material.Name
	}
	if l.Package {
		out.Pieces, out.HoldsMl, out.Packaging = l.Packs, l.HoldsML, true
	}
	if l.HasPrice {
		out.Price = Money(l.Price)
		if l.MassG > 0 {
			out.PricePerKg = Money(costing.PerGram(l.Price, l.MassG).Mul(decimal.NewFromInt(1000)))
		}
	}
	if !l.BestBefore.IsZero() {
		out.BestBefore = types.Date{Time: l.BestBefore}
	}
	if !l.Received.IsZero() {
		out.Received = types.Date{Time: l.Received}
	}
	return out
}
