package store

import "keencrock/core/stock"

// PutContainer keeps a container; one that is there is changed.
func (t *Tx) PutContainer(c *stock.Container) error {
	row := itemRow{ID: c.Item, Kind: string(stock.Packaging), Unit: string(stock.InPieces), Name: c.Name, HoldsML: c.HoldsML, TareG: c.TareG}
	return t.db.Clauses(onConflictUpdate([]string{"workshop_id", "id"}, "name", "holds_ml", "tare_g")).Create(&row).Error
}

// Containers lists the containers, by name.
func (t *Tx) Containers() ([]stock.Container, error) {
	var rows []itemRow
	err := t.db.Model(&itemRow{}).Where("kind = ?", string(stock.Packaging)).Order("name, id").Find(&rows).Error
	out := make([]stock.Container, len(rows))
	for i, r := range rows {
		out[i] = stock.Container{Item: r.ID, Name: r.Name, HoldsML: r.HoldsML, TareG: r.TareG}
	}
	return out, err
}
