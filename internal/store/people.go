package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// Workshop is one tenant and its settings.
type Workshop struct {
	ID               uuid.UUID
	Name             string
	Measures         string
	Currency         string
	Hardness         string
	ScaleStepG       float64
	ScaleCapacityG   float64
	DropsPerML       float64 `gorm:"column:drops_per_ml"`
	ScoopML          float64 `gorm:"column:scoop_ml"`
	LaundryWaterL    float64 `gorm:"column:laundry_water_l"`
	DishesWaterL     float64 `gorm:"column:dishes_water_l"`
	TimeZone         string  // of the IANA database; empty for the server's
	Hygrometer       bool    // one is on the wall, and is read
	Scale            bool    // one is on the bench, and is read
	Address          string  // as it stands on labels
	Contact          string  // whom to ask, as a jar's page says
	Phone            string  // as it stands on labels
	Region           string  // where its goods are sold, of package label; empty for the first
	JarOrigin        string  // where phones read the codes of jars; empty for where the page is open
	LabelDose        string  // whose dose labels carry, of package dosing; empty for its order
	PublicJars       bool    `gorm:"default:true"` // a phone that reads a jar's code is shown what its label says
	ViewersSeePrices bool
	Machines         []byte `gorm:"type:jsonb;default:'[]'"` // the workshop's own, in place of the usual ones
	Demo             bool   // made to look around in, and removable
	Loading          bool   // not all of it is there yet
	Version          int
	CreatedAt        time.Time
	LibraryStamp     uuid.UUID `gorm:"default:gen_random_uuid()"` // changes with its figures and own materials
}

// Person can sign in to one workshop.
type Person struct {
	ID           uuid.UUID
	WorkshopID   uuid.UUID
	Login        string
	Name         string
	PasswordHash string
	Role         string
	CreatedAt    time.Time
	RemovedAt    *time.Time
	TOTPSecret   string `gorm:"column:totp_secret"`
	TOTPOn       bool   `gorm:"column:totp_on"`
	TOTPStep     int64  `gorm:"column:totp_step"` // the last one that served

	KnownPassword bool // the password is that of the demo, which is public
}

// TableName is read by GORM.
func (Person) TableName() string { return "people" }

// CreateWorkshop adds a workshop with its owner.
func (s *Store) CreateWorkshop(ctx context.Context, w *Workshop, owner *Person) error {
	owner.WorkshopID = w.ID
	return s.Tx(acrossWorkshops(ctx), func(t *Tx) error {
		if err := t.db.Create(w).Error; err != nil {
			return err
		}
		return orTaken(t.db.Create(owner).Error)
	})
}

// CreateFirstWorkshop adds a workshop with its owner where there is none but a demo;
// ErrTaken when there is one already, or the owner's sign-in name is in use. Of many that try at once, one succeeds.
func (s *Store) CreateFirstWorkshop(ctx context.Context, w *Workshop, owner *Person) error {
	owner.WorkshopID = w.ID
	return s.Tx(acrossWorkshops(ctx), func(t *Tx) error {
		if err := t.db.Exec("select pg_advisory_xact_lock(hashtextextended('first workshop', 0))").Error; err != nil {
			return err
		}
		var n int64
		if err := t.db.Model(&Workshop{}).Where("not demo").Limit(1).Count(&n).Error; err != nil {
			return err
		}
		if n > 0 {
			return ErrTaken
		}
		if err := t.db.Create(w).Error; err != nil {
			return err
		}
		return orTaken(t.db.Create(owner).Error)
	})
}

// Demo is the workshop that is there to look around in.
func (s *Store) Demo(ctx context.Context) (*Workshop, error) {
	var w Workshop
	err := s.at(acrossWorkshops(ctx)).Where("demo").Take(&w).Error
	return &w, orNotFound(err)
}

// DemoOwner is who signs in to the demo with the password that is public; ErrNotFound
// when there is no demo, or its password was changed.
func (s *Store) DemoOwner(ctx context.Context) (*Person, error) {
	var p Person
	err := s.at(acrossWorkshops(ctx)).Where("known_password and role = 'owner' and removed_at is null and workshop_id in (select id from workshops where demo)").Take(&p).Error
	return &p, orNotFound(err)
}

// DemoIsLoaded keeps that all of the demo of the context is there.
func (t *Tx) DemoIsLoaded() error {
	return t.db.Model(&Workshop{}).Where("demo").Update("loading", false).Error
}

// KeepDemo makes the demo of the context a workshop like any other.
func (t *Tx) KeepDemo() error {
	id, _ := workshopOf(t.db.Statement.Context)
	return t.db.Exec("select keep_demo(@workshop)", map[string]any{"workshop": id}).Error
}

// HasOwn reports whether there is a workshop that is no demo.
func (s *Store) HasOwn(ctx context.Context) (bool, error) {
	var n int64
	err := s.at(acrossWorkshops(ctx)).Model(&Workshop{}).Where("not demo").Limit(1).Count(&n).Error
	return n > 0, err
}

// RemoveDemo removes a demo and everything in it. The database refuses it for any
// other workshop.
func (s *Store) RemoveDemo(ctx context.Context, id uuid.UUID) error {
	defer s.kept.letGo(id)
	return s.at(acrossWorkshops(ctx)).Exec("select remove_demo(?)", id).Error
}

// PersonByLogin finds who may sign in by a name, in any workshop.
func (s *Store) PersonByLogin(ctx context.Context, login string) (*Person, error) {
	var p Person
	err := s.at(acrossWorkshops(ctx)).Where("login = ? and removed_at is null", login).Take(&p).Error
	return &p, orNotFound(err)
}

// Workshop returns the workshop of the context.
func (t *Tx) Workshop() (*Workshop, error) {
	var w Workshop
	return &w, orNotFound(t.db.Take(&w).Error)
}

// SaveWorkshop keeps settings that were read at w.Version; ErrStale when
// they changed since.
func (t *Tx) SaveWorkshop(w *Workshop) error {
	read := w.Version
	w.Version++
	result := t.db.Model(w).Where("version = ?", read).
		Select("name", "measures", "currency", "hardness", "scale_step_g", "scale_capacity_g", "drops_per_ml", "scoop_ml", "laundry_water_l", "dishes_water_l", "time_zone", "hygrometer", "scale", "address", "contact", "phone", "region", "jar_origin", "label_dose", "public_jars", "viewers_see_prices", "machines", "version").Updates(w)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrStale
	}
	return result.Error
}

// People lists who may sign in, by name.
func (t *Tx) People() ([]Person, error) {
	var people []Person
	return people, t.db.Where("removed_at is null").Order("name").Find(&people).Error
}

// PeopleNames are the names of all who are, or were, here.
func (t *Tx) PeopleNames() (map[uuid.UUID]string, error) {
	var people []Person
	if err := t.db.Select("id, name").Find(&people).Error; err != nil {
		return nil, err
	}
	of := make(map[uuid.UUID]string, len(people))
	for i := range people {
		of[people[i].ID] = people[i].Name
	}
	return of, nil
}

// AddPerson adds one; ErrTaken when the login is in use anywhere.
func (t *Tx) AddPerson(p *Person) error { return orTaken(t.db.Create(p).Error) }

// Person returns one who may sign in.
func (t *Tx) Person(id uuid.UUID) (*Person, error) {
	var p Person
	return &p, orNotFound(t.db.Where("id = ? and removed_at is null", id).Take(&p).Error)
}

// SaveRole keeps the role of a person.
func (t *Tx) SaveRole(p *Person) error {
	return t.db.Model(&Person{}).Where("id = ?", p.ID).Update("role", p.Role).Error
}

// SavePassword keeps the hash of a new password and ends every session of the
// person.
func (t *Tx) SavePassword(p *Person) error {
	err := t.db.Model(&Person{}).Where("id = ?", p.ID).Updates(map[string]any{"password_hash": p.PasswordHash, "known_password": false}).Error
	if err != nil {
		return err
	}
	return t.EndSessions(p.ID)
}

// RemovePerson takes a person's access away and ends their sessions.
func (t *Tx) RemovePerson(id uuid.UUID, at time.Time) error {
	result := t.db.Model(&Person{}).Where("id = ? and removed_at is null", id).Update("removed_at", at)
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	if result.Error != nil {
		return result.Error
	}
	return t.EndSessions(id)
}
