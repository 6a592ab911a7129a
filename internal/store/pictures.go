package store

import (
	"context"

	"github.com/google/uuid"

	"keencrock/core/making"
)

// Picture is a photo in the log of a batch, or of a trial, without what it is made of.
type Picture struct {
	WorkshopID    uuid.UUID `gorm:"primaryKey"`
	ID            uuid.UUID `gorm:"primaryKey"`
	EventID       *int64    // of the log; nil for one of a trial
	Width, Height int       // pixels
}

// pictureFile is what a picture is made of.
type pictureFile struct {
	WorkshopID uuid.UUID `gorm:"primaryKey"`
	PictureID  uuid.UUID `gorm:"primaryKey"`
	JPEG       []byte    `gorm:"column:jpeg"`
}

// TableName is read by GORM.
func (pictureFile) TableName() string { return "picture_files" }

// AddPicture keeps that an event put a picture into the log.
func (t *Tx) AddPicture(p Picture) error { return t.db.Create(&p).Error }

// Pictures are the pictures of events, by the event.
func (t *Tx) Pictures(events []making.Event) (map[int64]Picture, error) {
	var ids []int64
	for _, e := range events {
		if e.Kind == making.Pictured {
			ids = append(ids, e.ID)
		}
	}
	if len(ids) == 0 {
		return nil, nil
	}
	var rows []Picture
	err := t.db.Where("event_id in ?", ids).Find(&rows).Error
	of := make(map[int64]Picture, len(rows))
	for _, p := range rows {
		of[*p.EventID] = p
	}
	return of, err
}

// DropPicture takes the picture of an event away, with what it is made of.
func (t *Tx) DropPicture(event int64) error {
	return t.db.Where("event_id = ?", event).Delete(&Picture{}).Error
}

// AddPictureFile keeps what a picture is made of.
func (t *Tx) AddPictureFile(picture uuid.UUID, jpeg []byte) error {
	return t.db.Create(&pictureFile{PictureID: picture, JPEG: jpeg}).Error
}

// PictureFile is what a picture is made of; ErrNotFound when there is none.
func (t *Tx) PictureFile(picture uuid.UUID) ([]byte, error) {
	var f pictureFile
	err := t.db.Where("picture_id = ?", picture).Take(&f).Error
	return f.JPEG, orNotFound(err)
}

// HasPicture reports whether a picture stands in a log or a trial of this workshop.
func (t *Tx) HasPicture(picture uuid.UUID) (bool, error) {
	var n int64
	err := t.db.Model(&Picture{}).Where("id = ?", picture).Count(&n).Error
	return n > 0, err
}

// PictureAt is a picture of some workshop.
type PictureAt struct{ Workshop, Picture uuid.UUID }

// PicturesInside lists the pictures of all workshops that stand in the database.
func (s *Store) PicturesInside(ctx context.Context) (all []PictureAt, err error) {
	var rows []pictureFile
	err = s.at(acrossWorkshops(ctx)).Select("workshop_id", "picture_id").Order("workshop_id, picture_id").Find(&rows).Error
	for _, r := range rows {
		all = append(all, PictureAt{r.WorkshopID, r.PictureID})
	}
	return all, err
}

// AllPictures lists the pictures of all workshops, wherever they stand.
func (s *Store) AllPictures(ctx context.Context) (all []PictureAt, err error) {
	var rows []Picture
	err = s.at(acrossWorkshops(ctx)).Select("workshop_id", "id").Order("workshop_id, id").Find(&rows).Error
	for _, r := range rows {
		all = append(all, PictureAt{r.WorkshopID, r.ID})
	}
	return all, err
}

// LeavePicture takes what a picture is made of out of the database, once it stands elsewhere.
func (t *Tx) LeavePicture(picture uuid.UUID) error {
	return t.db.Where("picture_id = ?", picture).Delete(&pictureFile{}).Error
}
