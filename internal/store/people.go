package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// Workshop is one tenant and its settings.
type Workshop struct {
	ID             uuid.UUID
	Name           string
	Measures       string
	Currency       string
	Hardness       string
	ScaleStepG     float64
	ScaleCapacityG float64
	DropsPerML     float64 `gorm:"column:drops_per_ml"`
	ScoopML        float64 `gorm:"column:scoop_ml"`
	LaundryWaterL  float64 `gorm:"column:laundry_water_l"`
	DishesWaterL   float64 `gorm:"column:dishes_water_l"`
	TimeZone       string  // of the IANA database; empty for the server's
	Hygrometer     bool    // one is on the wall, and is read
	Address        string  // as it stands on labels
	Contact        string  // whom to ask, as a jar's page says
	PublicJars     bool    `gorm:"default:true"`            // a phone that reads a jar's code is shown what its label says
	Machines       []byte  `gorm:"type:jsonb;default:'[]'"` // the workshop's own, in place of the usual ones
	Demo           bool    // made to look around in, and removable
	Version        int
	CreatedAt      time.Time
	LibraryStamp   uuid.UUID `gorm:"default:gen_random_uuid()"` // changes with its figures and own materials
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
}

// TableName is read by GORM.
func (Person) TableName() string { return "people" }

// Session is one signed-in browser. Only the hash of its token is kept.
type Session struct {
	TokenHash  []byte `gorm:"primaryKey"`
	WorkshopID uuid.UUID
	PersonID   uuid.UUID
	CSRFToken  string `gorm:"column:csrf_token"`
	CreatedAt  time.Time
	ExpiresAt  time.Time
}

// SignInTry is one sign-in that failed, or is being judged.
type SignInTry struct {
	ID      int64 `gorm:"primaryKey"`
	Login   string
	Address string
	At      time.Time
}

// SignedIn is who a session stands for.
type SignedIn struct {
	WorkshopID uuid.UUID
	PersonID   uuid.UUID
	Login      string
	Name       string
	Role       string
	CSRFToken  string `gorm:"column:csrf_token"`
	ExpiresAt  time.Time
}

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

// CreateFirstWorkshop adds a workshop with its owner to an empty database;
// ErrTaken when there is one already. Of many that try at once, one succeeds.
func (s *Store) CreateFirstWorkshop(ctx context.Context, w *Workshop, owner *Person) error {
	owner.WorkshopID = w.ID
	return s.Tx(acrossWorkshops(ctx), func(t *Tx) error {
		if err := t.db.Exec("select pg_advisory_xact_lock(hashtextextended('first workshop', 0))").Error; err != nil {
			return err
		}
		var n int64
		if err := t.db.Model(&Workshop{}).Limit(1).Count(&n).Error; err != nil {
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
	err := s.db.WithContext(acrossWorkshops(ctx)).Where("demo").Take(&w).Error
	return &w, orNotFound(err)
}

// RemoveDemo removes a demo and everything in it. The database refuses it for any
// other workshop.
func (s *Store) RemoveDemo(ctx context.Context, id uuid.UUID) error {
	return s.db.WithContext(acrossWorkshops(ctx)).Exec("select remove_demo(?)", id).Error
}

// PersonByLogin finds who may sign in by a name, in any workshop.
func (s *Store) PersonByLogin(ctx context.Context, login string) (*Person, error) {
	var p Person
	err := s.db.WithContext(acrossWorkshops(ctx)).Where("login = ? and removed_at is null", login).Take(&p).Error
	return &p, orNotFound(err)
}

// SessionByToken finds a live session by the hash of its token.
func (s *Store) SessionByToken(ctx context.Context, hash []byte, now time.Time) (*SignedIn, error) {
	var in SignedIn
	result := s.db.WithContext(acrossWorkshops(ctx)).Raw(`
		select s.workshop_id, s.person_id, p.login, p.name, p.role, s.csrf_token, s.expires_at
		from sessions s join people p on p.workshop_id = s.workshop_id and p.id = s.person_id
		where s.token_hash = ? and s.expires_at > ? and p.removed_at is null`, hash, now).Find(&in)
	if result.Error == nil && result.RowsAffected == 0 {
		return nil, ErrNotFound
	}
	return &in, result.Error
}

// CreateSession keeps a session, and forgets those that have ended.
func (s *Store) CreateSession(ctx context.Context, session *Session) error {
	db := s.db.WithContext(acrossWorkshops(ctx))
	if err := db.Where("expires_at < ?", session.CreatedAt).Delete(&Session{}).Error; err != nil {
		return err
	}
	return db.Create(session).Error
}

// EndSession ends one session.
func (s *Store) EndSession(ctx context.Context, hash []byte) error {
	return s.db.WithContext(acrossWorkshops(ctx)).Where("token_hash = ?", hash).Delete(&Session{}).Error
}

// TryLimits say how often a name may be tried from an address: so many tries
// within a window are free, from then on one in each pace.
type TryLimits struct {
	Window, Pace time.Duration
	Free         int
}

// BeginTry notes a sign-in before it is known whether it is right, and forgets
// those of more than a day ago. When the name is tried too often from the
// address, it notes nothing and returns how long to wait.
func (s *Store) BeginTry(ctx context.Context, try *SignInTry, limits TryLimits) (wait time.Duration, err error) {
	err = s.Tx(acrossWorkshops(ctx), func(t *Tx) error {
		// tries that come at once are counted one after the other
		if err := t.db.Exec("select pg_advisory_xact_lock(hashtextextended(?, 1))", try.Login+"\n"+try.Address).Error; err != nil {
			return err
		}
		var count int
		var last *time.Time
		row := t.db.Raw("select count(*), max(at) from sign_in_tries where login = ? and address = ? and at > ?",
			try.Login, try.Address, try.At.Add(-limits.Window)).Row()
		if err := row.Scan(&count, &last); err != nil {
			return err
		}
		if count >= limits.Free && last != nil && try.At.Sub(*last) < limits.Pace {
			wait = limits.Pace - try.At.Sub(*last)
			return nil
		}
		if err := t.db.Where("at < ?", try.At.Add(-24*time.Hour)).Delete(&SignInTry{}).Error; err != nil {
			return err
		}
		return t.db.Create(try).Error
	})
	return wait, err
}

// ForgetTry takes back a try that was right, or never came to be judged.
func (s *Store) ForgetTry(ctx context.Context, try *SignInTry) error {
	return s.db.WithContext(acrossWorkshops(ctx)).Delete(try).Error
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
		Select("name", "measures", "currency", "hardness", "scale_step_g", "scale_capacity_g", "drops_per_ml", "scoop_ml", "laundry_water_l", "dishes_water_l", "time_zone", "hygrometer", "address", "contact", "public_jars", "machines", "version").Updates(w)
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
// person but the one that is kept; nil keeps none.
func (t *Tx) SavePassword(p *Person, keep []byte) error {
	if err := t.db.Model(&Person{}).Where("id = ?", p.ID).Update("password_hash", p.PasswordHash).Error; err != nil {
		return err
	}
	return t.db.Where("person_id = ? and token_hash <> ?", p.ID, append([]byte{}, keep...)).Delete(&Session{}).Error
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

// EndSessions ends every session of a person.
func (t *Tx) EndSessions(person uuid.UUID) error {
	return t.db.Where("person_id = ?", person).Delete(&Session{}).Error
}
