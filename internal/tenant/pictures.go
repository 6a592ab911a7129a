package tenant

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/google/uuid"

	"keencrock/internal/blob"
	"keencrock/internal/store"
)

// Pictures keeps what pictures are made of. That there is one stands in the database; its
// bytes may stand wherever this puts them. One that is let go of before it is kept for good
// (the transaction failed) may stay behind, but is never shown.
type Pictures interface {
	Put(tx *store.Tx, picture uuid.UUID, jpeg []byte) error
	// Get returns store.ErrNotFound for one that is not there.
	Get(tx *store.Tx, picture uuid.UUID) ([]byte, error)
	Drop(tx *store.Tx, picture uuid.UUID) error
}

// inDatabase keeps pictures beside all else: in the same backup, and gone with their row.
type inDatabase struct{}

func (inDatabase) Put(tx *store.Tx, picture uuid.UUID, jpeg []byte) error {
	return tx.AddPictureFile(picture, jpeg)
}

func (inDatabase) Get(tx *store.Tx, picture uuid.UUID) ([]byte, error) {
	return tx.PictureFile(picture)
}

func (inDatabase) Drop(*store.Tx, uuid.UUID) error { return nil }

// PicturesOutside keeps pictures outside the database, and still reads those that stand in it:
// what was put there before, and what came with an archive. What is dropped stays until
// [PicturesOutside.Sweep], since a transaction may still fail.
type PicturesOutside struct{ Blobs blob.Store }

func nameOfPicture(workshop, picture uuid.UUID) string {
	return workshop.String() + "/" + picture.String() + ".jpg"
}

// Put keeps a picture outside.
func (o PicturesOutside) Put(tx *store.Tx, picture uuid.UUID, jpeg []byte) error {
	w, err := tx.Workshop()
	if err != nil {
		return err
	}
	if err := o.Blobs.Put(tx.Context(), nameOfPicture(w.ID, picture), jpeg); err != nil {
		return fmt.Errorf("keep a picture: %w", err)
	}
	return nil
}

// Get returns a picture of the workshop, wherever it stands.
func (o PicturesOutside) Get(tx *store.Tx, picture uuid.UUID) ([]byte, error) {
	jpeg, err := tx.PictureFile(picture)
	if !errors.Is(err, store.ErrNotFound) {
		return jpeg, err
	}
	if there, err := tx.HasPicture(picture); err != nil || !there {
		return nil, errors.Join(err, store.ErrNotFound)
	}
	w, err := tx.Workshop()
	if err != nil {
		return nil, err
	}
	return o.Of(tx.Context(), w.ID, picture)
}

// Drop leaves it to the next sweep.
func (PicturesOutside) Drop(*store.Tx, uuid.UUID) error { return nil }

// Of is what a picture of a workshop is made of that stands outside; store.ErrNotFound where it
// does not.
func (o PicturesOutside) Of(ctx context.Context, workshop, picture uuid.UUID) ([]byte, error) {
	jpeg, err := o.Blobs.Get(ctx, nameOfPicture(workshop, picture))
	if errors.Is(err, blob.ErrNone) {
		return nil, store.ErrNotFound
	}
	return jpeg, err
}

// MoveOut puts the pictures that stand in the database outside, and says how many.
func (o PicturesOutside) MoveOut(ctx context.Context, s *store.Store) (n int, err error) {
	all, err := s.PicturesInside(ctx)
	for _, p := range all {
		if err == nil {
			err = s.Tx(store.WithWorkshop(ctx, p.Workshop), func(tx *store.Tx) error {
				jpeg, err := tx.PictureFile(p.Picture)
				if err != nil {
					return err
				}
				if err := o.Blobs.Put(ctx, nameOfPicture(p.Workshop, p.Picture), jpeg); err != nil {
					return err
				}
				n++
				return tx.LeavePicture(p.Picture)
			})
		}
	}
	return n, err
}

// MoveBack puts the pictures that stand outside into the database, and says how many. They are
// left outside too.
func (o PicturesOutside) MoveBack(ctx context.Context, s *store.Store) (n int, err error) {
	all, err := s.AllPictures(ctx)
	if err != nil {
		return 0, err
	}
	for _, p := range all {
		err := s.Tx(store.WithWorkshop(ctx, p.Workshop), func(tx *store.Tx) error {
			if _, err := tx.PictureFile(p.Picture); !errors.Is(err, store.ErrNotFound) {
				return err
			}
			jpeg, err := o.Of(ctx, p.Workshop, p.Picture)
			if errors.Is(err, store.ErrNotFound) {
				return nil
			}
			if err != nil {
				return err
			}
			n++
			return tx.AddPictureFile(p.Picture, jpeg)
		})
		if err != nil {
			return n, err
		}
	}
	return n, nil
}

// sweptAfter is how long something stands outside before it counts as left behind: far longer
// than any transaction takes.
const sweptAfter = 24 * time.Hour

// Sweep takes away what stands outside and is a picture of nothing any more, and says how much
// that was. What has another name is not ours.
func (o PicturesOutside) Sweep(ctx context.Context, s *store.Store, now time.Time) (n int, err error) {
	all, err := s.AllPictures(ctx)
	if err != nil {
		return 0, err
	}
	known := make(map[string]bool, len(all))
	for _, p := range all {
		known[nameOfPicture(p.Workshop, p.Picture)] = true
	}
	var left []string
	err = o.Blobs.Each(ctx, func(name string, at time.Time) error {
		if !known[name] && isPictureName(name) && now.Sub(at) > sweptAfter {
			left = append(left, name)
		}
		return nil
	})
	for _, name := range left {
		if err == nil {
			n++
			err = o.Blobs.Drop(ctx, name)
		}
	}
	return n, err
}

func isPictureName(name string) bool {
	workshop, rest, ok := strings.Cut(name, "/")
	picture, jpeg := strings.CutSuffix(rest, ".jpg")
	_, err := uuid.Parse(workshop)
	_, wrong := uuid.Parse(picture)
	return ok && jpeg && err == nil && wrong == nil
}
