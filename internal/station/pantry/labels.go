package pantry

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/dosing"
	"keencrock/core/hazard"
	"keencrock/core/label"
	"keencrock/core/quantity"
	"keencrock/core/stock"
	"keencrock/core/wording"
	"keencrock/internal/exchange"
	"keencrock/internal/exchange/paper"
	"keencrock/internal/problem"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// LabelKinds lists what labels there are.
func (s *Service) LabelKinds(ctx context.Context) (*api.LabelKinds, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := &api.LabelKinds{}
	for _, f := range label.Forms() {
		out.Forms = append(out.Forms, api.LabelForm{Id: f.ID, Name: f.Name, WidthMm: f.WidthMM, HeightMm: f.HeightMM, Round: f.Round})
	}
	for _, sheet := range label.Sheets() {
		out.Sheets = append(out.Sheets, api.LabelSheet{Id: sheet.ID, Name: sheet.Name, Single: sheet.Single})
	}
	for _, l := range wording.All() {
		out.Languages = append(out.Languages, api.LabelLanguage{Code: l.Code, Name: l.Name})
	}
	return out, nil
}

// laid is a label ready to be drawn.
type laid struct {
	content   *label.Content
	form      label.Form
	languages []*wording.Language
	drawing   *label.Drawing
	misfits   []label.Misfit
}

// ViewLabel lays a label out and keeps nothing.
func (s *Service) ViewLabel(ctx context.Context, batch uuid.UUID, wish api.LabelWish) (*api.LabelView, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	var out *api.LabelView
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		l, err := s.lay(tx, m, &wish)
		if err != nil {
			return err
		}
		out = viewOf(l, &wish, m)
		return nil
	})
	return out, err
}

func viewOf(l *laid, wish *api.LabelWish, m *made) *api.LabelView {
	out := &api.LabelView{Svg: string(paper.SVG(l.content.Name+", "+l.form.Name, l.drawing)), WidthMm: l.form.WidthMM, HeightMm: l.form.HeightMM, Round: l.form.Round,
		Misfits: []api.LabelMisfit{}, Claims: claimsIn(l.content.Name, l.content.Use), TextMm: l.drawing.TextMM, Draft: hazard.Notice, Poured: m.Snapshot.Poured}
	if out.Net = l.content.NetG; out.Poured {
		out.Net = l.content.NetML
	}
	for _, misfit := range l.misfits {
		out.Misfits = append(out.Misfits, api.LabelMisfit{Block: misfit.Block, Says: misfit.Says, Advice: misfit.Advice, Grave: misfit.Grave})
	}
	out.Unknown = unknownWords(l.content)
	if h := m.assessed().Hazard; h != nil {
		out.Hazard = exchange.Hazard(h)
	}
	return out
}

func unknownWords(c *label.Content) string {
	if c.UnknownShare < 0.0005 {
		return ""
	}
	return fmt.Sprintf("Of %s %% of it no hazard is known: ask whoever sells it for the safety data sheet.", quantity.FormatFigures(100*c.UnknownShare, 3))
}

// claimsIn points out what promises too much on a label.
func claimsIn(name, use string) []api.LabelClaim {
	out := []api.LabelClaim{}
	for field, text := range map[api.LabelClaimField]string{api.LabelClaimFieldName: name, api.LabelClaimFieldUse: use} {
		for _, c := range label.Claims(text) {
			out = append(out, api.LabelClaim{Field: field, Word: c.Word, At: c.At, Why: c.Why, Instead: c.Instead})
		}
	}
	slices.SortStableFunc(out, func(a, b api.LabelClaim) int { return strings.Compare(string(a.Field), string(b.Field)) })
	return out
}

// mostDoses is how many machines a label has room for.
const mostDoses = 3

// lay makes a label of a good as it is wished for.
func (s *Service) lay(tx *store.Tx, m *made, wish *api.LabelWish) (*laid, error) {
	l := &laid{}
	var err error
	if l.form, err = label.FindForm(wish.Form); err != nil {
		return nil, problem.Unfit("bad-value", "%v", err).At("form")
	}
	if wish.WidthMm > 0 || wish.HeightMm > 0 {
		if l.form.WidthMM, l.form.HeightMM, err = label.ParseSize(fmt.Sprintf("%gx%g", wish.WidthMm, wish.HeightMm)); err != nil {
			return nil, problem.Unfit("bad-value", "%v", err).At("width_mm")
		}
		if l.form.Round && l.form.WidthMM != l.form.HeightMM {
			return nil, problem.Unfit("bad-value", "A lid is round: as high as it is wide.").At("height_mm")
		}
	}
	for _, code := range wish.Languages {
		language, err := wording.Find(code)
		if err != nil {
			return nil, problem.Unfit("no-such-language", "%v.", err).At("languages")
		}
		l.languages = append(l.languages, language)
	}
	if l.content, err = s.content(m, wish); err != nil {
		return nil, err
	}
	if l.content.Use == "" && wish.Card != "" {
		card, err := findCard(tx, wish.Card)
		if err != nil {
			return nil, err
		}
		l.content.Use = card.Words()
	}
	if l.content.URL, err = s.codeOf(tx, m, wish); err != nil {
		return nil, err
	}
	l.drawing, l.misfits = label.Lay(l.content, l.form, l.languages, paper.Shipped())
	if slices.Contains(l.form.Blocks, "maker") {
		region, _ := label.FindRegion(m.set.Workshop.Region)
		l.misfits = append(l.misfits, l.content.Missing(region)...)
	}
	if _, loopback, _ := codesAt(m.set, wish); loopback && len(m.pieces) > 0 && slices.Contains(l.form.Blocks, "qr") {
		l.misfits = append(l.misfits, label.Misfit{Block: "qr", Says: "The code is left out: it would hold an address that only this machine can open, and a printed code stays.",
			Advice: "Write in settings where phones reach this server."})
	}
	return l, nil
}

// content is what the label of a good says.
func (s *Service) content(m *made, wish *api.LabelWish) (*label.Content, error) {
	c := label.Of(m.assessed())
	c.Name, c.Use = m.row.Name, strings.TrimSpace(wish.Use)
	if wish.Name != "" {
		c.Name = strings.TrimSpace(wish.Name)
	}
	net := m.net()
	if wish.Net > 0 {
		net = wish.Net
	}
	if m.DensityGPerML() > 0 {
		c.NetML = net
	} else {
		c.NetG = net
		if wish.Net == 0 { // what was counted; nothing is reckoned onto a label
			c.NetPieces = m.Snapshot.PiecesEach
		}
	}
	c.Lot, c.Made, c.BestBefore = m.row.Code, m.lot.Received, m.lot.BestBefore
	c.Maker, c.Phone = strings.TrimSpace(m.set.Workshop.Name), strings.TrimSpace(m.set.Workshop.Phone)
	if c.UFI = strings.ToUpper(strings.TrimSpace(wish.FormulaCode)); c.UFI != "" && !label.IsUFI(c.UFI) {
		return nil, problem.Unfit("bad-value", "“%s” is no code of a formula: expected four times four letters and figures, such as A1B2-C3D4-E5F6-G7H8.", wish.FormulaCode).At("formula_code")
	}
	if a := strings.TrimSpace(m.set.Workshop.Address); a != "" {
		c.Maker += ", " + a
	}
	if wish.Doses {
		rows, err := m.doses(nil, dosing.Normal, 0)
		if err != nil {
			return nil, err
		}
		for _, row := range rows[:min(mostDoses, len(rows))] {
			if row.ChosenAs != "" {
				c.Doses = append(c.Doses, label.Dose{Machine: row.Machine, Name: row.Name, Much: row.ChosenAs})
			}
		}
	}
	return c, nil
}

// codesAt is where the codes of a workshop's jars are read: as it says in settings, else
// where the page is open; none where nobody but this machine could go there, since a printed
// code stays.
func codesAt(set *tenant.Settings, wish *api.LabelWish) (origin string, loopback bool, err error) {
	if origin = set.Workshop.JarOrigin; origin == "" {
		if origin, err = tenant.OriginOf(wish.Origin); err != nil {
			return "", false, problem.Unfit("bad-value", "%v.", err).At("origin")
		}
	}
	if tenant.IsLoopback(origin) {
		return "", true, nil
	}
	return origin, false, nil
}

// jarPath is where the page of a jar stands.
const jarPath = "/j/"

// codeOf is the address of the jar a label is shown for.
func (s *Service) codeOf(tx *store.Tx, m *made, wish *api.LabelWish) (string, error) {
	origin, _, err := codesAt(m.set, wish)
	if err != nil || origin == "" || len(m.pieces) == 0 {
		return "", err
	}
	tokens, err := tx.PieceTokens(m.lot.ID)
	if err != nil {
		return "", err
	}
	jar := m.pieces[0].ID
	if wish.Jar != uuid.Nil {
		jar = stock.ID(wish.Jar)
	}
	token, there := tokens[jar]
	if !there {
		return "", problem.Unfit("other-jar", "That jar is not one of %s.", m.row.Code).At("jar")
	}
	return origin + jarPath + token, nil
}

// printed is one label of a print, as it is kept.
type printed struct {
	Jar int    `json:"jar,omitempty"` // its number; 0 for one of no jar
	URL string `json:"url,omitempty"`
}

// kept is the content of a print, as it is kept.
type kept struct {
	Content *label.Content `json:"content"`
	Round   bool           `json:"round,omitempty"`
	Blocks  []string       `json:"blocks"`
}

// PrintLabels keeps labels as they are printed.
func (s *Service) PrintLabels(ctx context.Context, batch uuid.UUID, in api.LabelOrder) (*api.LabelPrint, error) {
	a, err := tenant.Require(ctx, tenant.Maker)
	if err != nil {
		return nil, err
	}
	var out api.LabelPrint
	err = s.Store.Tx(ctx, func(tx *store.Tx) error {
		m, err := s.made(tx, batch)
		if err != nil {
			return err
		}
		l, err := s.lay(tx, m, &in.Label)
		if err != nil {
			return err
		}
		for _, misfit := range l.misfits {
			if misfit.Grave {
				return problem.Unfit("does-not-fit", "%s %s", misfit.Says, misfit.Advice).At("label")
			}
		}
		labels, err := s.labelsOf(tx, m, &in)
		if err != nil {
			return err
		}
		sheet, err := label.FindSheet(in.Sheet)
		if err != nil {
			return problem.Unfit("bad-value", "%v", err).At("sheet")
		}
		if _, _, _, err := sheet.Places(l.form, len(labels), in.Start); err != nil {
			return problem.Unfit("bad-value", "%v.", err).At("start")
		}
		row := &store.LabelPrint{ID: store.NewID(), MakingID: m.row.ID, Form: l.form.ID, WidthMM: l.form.WidthMM, HeightMM: l.form.HeightMM,
			Languages: strings.Join(in.Label.Languages, ","), Sheet: sheet.ID, Start: in.Start, PersonID: a.Person, At: s.Now()}
		if row.Content, err = json.Marshal(kept{l.content, l.form.Round, l.form.Blocks}); err != nil {
			return err
		}
		if row.Labels, err = json.Marshal(labels); err != nil {
			return err
		}
		if err := tx.AddLabelPrint(row); err != nil {
			return err
		}
		row.Person = a.Name
		if out, err = printOf(row); err != nil {
			return err
		}
		return tx.Announce("pantry", m.row.ID)
	})
	return &out, err
}

// labelsOf are the labels of an order: of each jar one, or as many as are asked for; of
// a good in no jars without a code.
func (s *Service) labelsOf(tx *store.Tx, m *made, in *api.LabelOrder) (labels []printed, err error) {
	origin, _, err := codesAt(m.set, &in.Label)
	if err != nil {
		return nil, err
	}
	tokens, err := tx.PieceTokens(m.lot.ID)
	if err != nil {
		return nil, err
	}
	wanted := map[uuid.UUID]bool{}
	for _, id := range in.Jars {
		if _, there := tokens[stock.ID(id)]; !there {
			return nil, problem.Unfit("other-jar", "One of the jars is not of %s.", m.row.Code).At("jars")
		}
		wanted[id] = true
	}
	for i := range m.pieces {
		p := &m.pieces[i]
		if len(in.Jars) > 0 && !wanted[uuid.UUID(p.ID)] || len(in.Jars) == 0 && !p.IsHere() {
			continue
		}
		one := printed{Jar: p.Number}
		if origin != "" {
			one.URL = origin + jarPath + tokens[p.ID]
		}
		for range max(1, in.Copies) {
			labels = append(labels, one)
		}
	}
	if len(m.pieces) == 0 {
		labels = slices.Repeat([]printed{{}}, max(1, in.Copies))
	}
	if len(labels) == 0 {
		return nil, problem.Unfit("no-jars", "No jar of %s is here any more: name those the labels are for.", m.row.Code).At("jars")
	}
	return labels, nil
}

func printOf(row *store.LabelPrint) (api.LabelPrint, error) {
	out := api.LabelPrint{Id: row.ID, Form: row.Form, WidthMm: row.WidthMM, HeightMm: row.HeightMM, Languages: strings.Split(row.Languages, ","),
		Sheet: row.Sheet, Start: row.Start, At: row.At, By: row.Person, Jars: []int{}}
	var k kept
	var labels []printed
	if err := json.Unmarshal(row.Content, &k); err != nil {
		return out, fmt.Errorf("a printed label: %w", err)
	}
	if err := json.Unmarshal(row.Labels, &labels); err != nil {
		return out, fmt.Errorf("printed labels: %w", err)
	}
	out.Name, out.Labels = k.Content.Name, len(labels)
	for _, l := range labels {
		if l.Jar > 0 && !slices.Contains(out.Jars, l.Jar) {
			out.Jars = append(out.Jars, l.Jar)
		}
	}
	if f, err := label.FindForm(row.Form); err == nil {
		out.FormName = f.Name
		f.WidthMM, f.HeightMM = row.WidthMM, row.HeightMM
		if sheet, err := label.FindSheet(row.Sheet); err == nil && !sheet.Single {
			for next := 0; next < 2000; next++ { // the first place that is free on the last page
				if _, _, _, err := sheet.Places(f, 1, next); err != nil {
					out.NextStart = (row.Start + len(labels)) % max(1, next)
					break
				}
			}
		}
	}
	return out, nil
}

// useOf is how a good is used as a print says; empty where it does not.
func useOf(row *store.LabelPrint) string {
	var k kept
	if err := json.Unmarshal(row.Content, &k); err != nil || k.Content == nil {
		return ""
	}
	return k.Content.Use
}

// Prints lists what was printed for a batch.
func (s *Service) Prints(ctx context.Context, batch uuid.UUID) ([]api.LabelPrint, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, err
	}
	out := []api.LabelPrint{}
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) error {
		if _, err := tx.Making(batch); err != nil {
			return tenant.Explain(err, "batch")
		}
		rows, err := tx.LabelPrints(batch)
		if err != nil {
			return err
		}
		for i := range rows {
			p, err := printOf(&rows[i])
			if err != nil {
				return err
			}
			out = append(out, p)
		}
		return nil
	})
	return out, err
}

// PrintFile draws what was printed once more, as it was, as PDF; on another sheet or
// from another place, counted from 1, where they are given.
func (s *Service) PrintFile(ctx context.Context, id uuid.UUID, sheetID string, place int) (pdf io.Reader, length int64, err error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, 0, err
	}
	row, err := s.Store.Read(ctx).LabelPrint(id)
	if err != nil {
		return nil, 0, tenant.Explain(err, "print")
	}
	var k kept
	var labels []printed
	if err := json.Unmarshal(row.Content, &k); err != nil {
		return nil, 0, fmt.Errorf("a printed label: %w", err)
	}
	if err := json.Unmarshal(row.Labels, &labels); err != nil {
		return nil, 0, fmt.Errorf("printed labels: %w", err)
	}
	if sheetID == "" {
		sheetID = row.Sheet
	}
	sheet, err := label.FindSheet(sheetID)
	if err != nil {
		return nil, 0, problem.Unfit("bad-value", "%v", err).At("sheet")
	}
	from := row.Start
	if place > 0 {
		from = place - 1
	}
	form := label.Form{ID: row.Form, WidthMM: row.WidthMM, HeightMM: row.HeightMM, Round: k.Round, Blocks: k.Blocks}
	places, w, h, err := sheet.Places(form, len(labels), from)
	if err != nil {
		return nil, 0, problem.Unfit("bad-value", "%v.", err).At("start")
	}
	var languages []*wording.Language
	for _, code := range strings.Split(row.Languages, ",") {
		l, err := wording.Find(code)
		if err != nil {
			return nil, 0, problem.Unfit("no-such-language", "%v.", err).At("languages")
		}
		languages = append(languages, l)
	}
	drawing, _ := label.Lay(k.Content, form, languages, paper.Shipped())
	all := make([]paper.Placed, len(labels))
	for i, one := range labels {
		all[i] = paper.Placed{Drawing: drawing.WithURL(one.URL, paper.Shipped()), Place: places[i], Cut: sheet.IsPlain()}
	}
	doc, err := paper.PDF(k.Content.Name+" "+k.Content.Lot, w, h, all)
	if err != nil {
		return nil, 0, err
	}
	return bytes.NewReader(doc), int64(len(doc)), nil
}

// Pictogram is a hazard pictogram as a picture.
func (s *Service) Pictogram(code string) (io.Reader, int64, error) {
	if !slices.Contains(label.Pictograms(), code) {
		return nil, 0, problem.Missing("not-found", "There is no pictogram %q.", code)
	}
	svg := paper.PictogramSVG(code)
	return bytes.NewReader(svg), int64(len(svg)), nil
}
