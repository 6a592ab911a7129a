package tenant

import "crypto/sha256"

// TokenHash is what is kept of a secret that opens something to whoever has it: of a session,
// of a calendar.
func TokenHash(token string) []byte {
	sum := sha256.Sum256([]byte(token))
	return sum[:]
}
