package store

import (
	"context"
	"time"

	"github.com/google/uuid"
)

// Session is one signed-in browser. Only the hash of its token is kept.
type Session struct {
	TokenHash     []byte `gorm:"primaryKey"`
	WorkshopID    uuid.UUID
	PersonID      uuid.UUID
	CSRFToken     string `gorm:"column:csrf_token"`
	CreatedAt     time.Time
	ExpiresAt     time.Time
	ID            uuid.UUID `gorm:"default:gen_random_uuid()"`
	LastSeenAt    time.Time
	Address       string
	Agent         string // what the browser calls itself
	KnownPassword bool   // it was begun with a password that is public
}

// SignedIn is who a session stands for.
type SignedIn struct {
	WorkshopID    uuid.UUID
	PersonID      uuid.UUID
	Login         string
	Name          string
	Role          string
	CSRFToken     string `gorm:"column:csrf_token"`
	ExpiresAt     time.Time
	LastSeenAt    time.Time
	KnownPassword bool
	Demo          bool
}

// seenEvery is how exactly it is known when a session was last used.
const seenEvery = 5 * time.Minute

// SessionByToken finds a live session by the hash of its token: one that has not ended
// and was used within a time. That it is used now is kept.
func (s *Store) SessionByToken(ctx context.Context, hash []byte, now time.Time, idle time.Duration) (*SignedIn, error) {
	if in, ok := s.kept.session(string(hash)); ok && now.Before(in.ExpiresAt) && now.Sub(in.LastSeenAt) < seenEvery {
		return &in, nil
	}
	asOf := s.kept.drops.Load()
	var in SignedIn
	result := s.at(acrossWorkshops(ctx)).Raw(`
		select s.workshop_id, s.person_id, p.login, p.name, p.role, s.csrf_token, s.expires_at, s.last_seen_at, s.known_password, w.demo
		from sessions s join people p on p.workshop_id = s.workshop_id and p.id = s.person_id join workshops w on w.id = s.workshop_id
		where s.token_hash = ? and s.expires_at > ? and s.last_seen_at > ? and p.removed_at is null`, hash, now, now.Add(-idle)).Find(&in)
	if result.Error == nil && result.RowsAffected == 0 {
		return nil, ErrNotFound
	}
	if result.Error != nil {
		return nil, result.Error
	}
	if now.Sub(in.LastSeenAt) >= seenEvery {
		if err := s.at(acrossWorkshops(ctx)).Model(&Session{}).Where("token_hash = ?", hash).Update("last_seen_at", now).Error; err != nil {
			return nil, err
		}
		in.LastSeenAt = now
	}
	s.kept.keepSession(string(hash), in, asOf)
	return &in, nil
}

// CreateSession keeps a session, and forgets those that have ended.
func (t *Tx) CreateSession(session *Session) error {
	if err := t.db.Where("expires_at < ?", session.CreatedAt).Delete(&Session{}).Error; err != nil {
		return err
	}
	return t.db.Create(session).Error
}

// EndSession ends one session.
func (t *Tx) EndSession(hash []byte) error {
	return t.ended(t.db.Where("token_hash = ?", hash).Delete(&Session{}).Error)
}

// Sessions lists the sessions of a person, the one used last in front.
func (t *Tx) Sessions(person uuid.UUID, now time.Time, idle time.Duration) ([]Session, error) {
	var sessions []Session
	return sessions, t.db.Where("person_id = ? and expires_at > ? and last_seen_at > ?", person, now, now.Add(-idle)).Order("last_seen_at desc, created_at desc").Find(&sessions).Error
}

// EndSessionOf ends one session of a person by its id.
func (t *Tx) EndSessionOf(person, id uuid.UUID) error {
	result := t.db.Where("person_id = ? and id = ?", person, id).Delete(&Session{})
	if result.Error == nil && result.RowsAffected == 0 {
		return ErrNotFound
	}
	return t.ended(result.Error)
}

// SessionsTopic is under which it is announced that sessions have ended.
const SessionsTopic = "sessions"

// ended announces that sessions have ended, so that what is open by them closes.
func (t *Tx) ended(err error) error {
	if err != nil {
		return err
	}
	return t.Announce(SessionsTopic, nil)
}

// EndSessions ends every session of a person.
func (t *Tx) EndSessions(person uuid.UUID) error {
	return t.ended(t.db.Where("person_id = ?", person).Delete(&Session{}).Error)
}

// SignInTry is one sign-in that failed, or is being judged.
type SignInTry struct {
	ID      int64 `gorm:"primaryKey"`
	Login   string
	Address string
	At      time.Time
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
	err = s.Tx(quietly(Always(acrossWorkshops(ctx))), func(t *Tx) error {
		// tries that come at once are counted one after the other
		if err := t.db.Exec("select pg_advisory_xact_lock(hashtextextended(?, 1))", try.Login+"\n"+try.Address).Error; err != nil {
			return err
		}
		var count int
		var last *time.Time
		// what is dated later was noted before the clock was put back, and holds nobody up; a
		// little later may come from another process
		row := t.db.Raw("select count(*), max(at) from sign_in_tries where login = ? and address = ? and at > ? and at <= ?",
			try.Login, try.Address, try.At.Add(-limits.Window), try.At.Add(limits.Pace)).Row()
		if err := row.Scan(&count, &last); err != nil {
			return err
		}
		if count >= limits.Free && last != nil && try.At.Sub(*last) < limits.Pace {
			wait = min(limits.Pace, limits.Pace-try.At.Sub(*last))
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
	return s.at(acrossWorkshops(ctx)).Delete(try).Error
}
