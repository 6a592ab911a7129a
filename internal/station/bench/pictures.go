package bench

import (
	"bytes"
	"context"
	"io"
	"strings"

	"github.com/google/uuid"

	"keencrock/api"
	"keencrock/core/making"
	"keencrock/internal/exchange/picture"
	"keencrock/internal/store"
	"keencrock/internal/tenant"
)

// Picture puts a photo into the log of a batch, also of one that ended: how a good looks
// after months is worth keeping.
func (s *Service) Picture(ctx context.Context, id uuid.UUID, in api.BatchPicture) (*api.Batch, error) {
	if _, err := tenant.Require(ctx, tenant.Maker); err != nil {
		return nil, err
	}
	photo, err := picture.Take(in.Jpeg)
	if err != nil {
		return nil, err
	}
	return s.change(ctx, id, func(tx *store.Tx, b *tenant.Batch, a tenant.Actor) error {
		if err := s.checkTime(b, in.At); err != nil {
			return err
		}
		e := making.Happening(making.Pictured)
		e.Text, e.At = strings.TrimSpace(in.Text), in.At
		if step, at := b.Step(); at && b.State.IsOpen() {
			e.Step = step
		}
		if err := s.record(tx, b, a, e, uuid.Nil); err != nil {
			return err
		}
		all := b.Events()
		row := store.Picture{ID: store.NewID(), EventID: &all[len(all)-1].ID, Width: photo.Width, Height: photo.Height}
		if err := tx.AddPicture(row); err != nil {
			return err
		}
		return s.Pictures.Put(tx, row.ID, photo.JPEG)
	})
}

// PictureFile is a picture of a log as it is kept, and how many bytes it has.
func (s *Service) PictureFile(ctx context.Context, id uuid.UUID) (io.Reader, int64, error) {
	if _, err := tenant.Require(ctx, tenant.Viewer); err != nil {
		return nil, 0, err
	}
	var jpeg []byte
	err := s.Store.Snapshot(ctx, func(tx *store.Tx) (err error) {
		jpeg, err = s.Pictures.Get(tx, id)
		return tenant.Explain(err, "picture")
	})
	return bytes.NewReader(jpeg), int64(len(jpeg)), err
}

// dropPicture takes away the picture that an event put there.
func (s *Service) dropPicture(tx *store.Tx, was *making.Event) error {
	of, err := tx.Pictures([]making.Event{*was})
	if err != nil {
		return err
	}
	if err := s.Pictures.Drop(tx, of[was.ID].ID); err != nil {
		return err
	}
	return tx.DropPicture(was.ID)
}

// showPictures says which pictures stand in the log.
func showPictures(tx *store.Tx, out *api.Batch, b *tenant.Batch) error {
	all := b.Events()
	of, err := tx.Pictures(all)
	for i, e := range all {
		if p, has := of[e.ID]; has {
			out.Events[i].Picture = api.PictureInLog{Id: p.ID, Width: p.Width, Height: p.Height}
		}
	}
	return err
}
