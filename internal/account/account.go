// Package account answers: who may do what, and is a password good enough? Passwords are kept as argon2id hashes (RFC 9106); nothing here
// does I/O.
package account

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/crypto/argon2"
)

// Role is what an account may do; each may also what those before it may.
type Role string

// The roles.
const (
	Looks Role = "looks" // opens everything, changes nothing
	Makes Role = "makes" // batches, makings, the log
	Keeps Role = "keeps" // the workshop: cabinet, rooms, accounts, backups
)

// Roles are the roles from the least.
var Roles = []Role{Looks, Makes, Keeps}

// May says whether a role includes another.
func (r Role) May(need Role) bool {
	rank := map[Role]int{Looks: 1, Makes: 2, Keeps: 3}
	return rank[r] > 0 && rank[r] >= rank[need]
}

// Bounds of what is typed, letters.
const (
	LeastPassword = 12
	MostPassword  = 128
	MostName      = 60
	LeastPIN      = 4
	MostPIN       = 8
)

// The cost of a hash: 32 MiB, three times over, one lane.
const (
	memoryKiB = 32 << 10
	passes    = 3
	lanes     = 1
	keyLen    = 32
	saltLen   = 16
)

// atOnce bounds how many hashes are made at a time: each takes memory.
var atOnce = make(chan struct{}, 2)

func derive(secret string, salt []byte) []byte {
	atOnce <- struct{}{}
	defer func() { <-atOnce }()
	return argon2.IDKey([]byte(secret), salt, passes, memoryKiB, lanes, keyLen)
}

// Hash returns the argon2id hash of a password or PIN with a salt of its own, as a line that says its cost.
func Hash(secret string) string {
	salt := make([]byte, saltLen)
	_, _ = rand.Read(salt) // never fails
	b := base64.RawStdEncoding
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, memoryKiB, passes, lanes, b.EncodeToString(salt),
		b.EncodeToString(derive(secret, salt)))
}

// Verify says whether a hash is that of a password or PIN. It takes as long for one that cannot be read, "" among them.
func Verify(hash, secret string) bool {
	parts := strings.Split(hash, "$")
	b := base64.RawStdEncoding
	if len(parts) == 6 && parts[3] == fmt.Sprintf("m=%d,t=%d,p=%d", memoryKiB, passes, lanes) {
		salt, err1 := b.DecodeString(parts[4])
		key, err2 := b.DecodeString(parts[5])
		if err1 == nil && err2 == nil && len(key) == keyLen {
			return subtle.ConstantTimeCompare(derive(secret, salt), key) == 1
		}
	}
	derive(secret, make([]byte, saltLen))
	return false
}

// What is wrong with a name, a password or a PIN.
var (
	ErrName   = fmt.Errorf("a name of 1 to %d letters is allowed", MostName)
	ErrShort  = fmt.Errorf("%d letters at least, %d at most; a few words in a row are good", LeastPassword, MostPassword)
	ErrCommon = errors.New("that is among the first that are tried; a few words that have nothing to do with each other are good")
	ErrPIN    = fmt.Errorf("%d to %d figures, not all alike and not in a row", LeastPIN, MostPIN)
	ErrRole   = errors.New("keeps, makes or looks is allowed")
)

// CheckName returns what is wrong with the name of an account.
func CheckName(name string) error {
	if n := utf8.RuneCountInString(name); n < 1 || n > MostName || strings.TrimSpace(name) != name || strings.ContainsFunc(name, unicode.IsControl) {
		return ErrName
	}
	return nil
}

// common are words that begin what is tried first.
var common = strings.Fields(`password passwort passw0rd p4ssword contraseña motdepasse qwerty qwertz azerty asdfgh zxcvbn 1q2w3e4r letmein welcome
	willkommen benvenuto admin administrator root iloveyou sunshine princess football baseball dragon monkey master superman batman trustno1
	changeme secret default login access hello whatever computer internet michael jordan shadow abc123 hollen pasta tagliatelle ravioli spaghetti
	workshop bottega kitchen`)

// CheckPassword returns what is wrong with a password for an account of that name: too short, or among those tried first.
func CheckPassword(name, password string) error {
	if n := utf8.RuneCountInString(password); n < LeastPassword || n > MostPassword {
		return ErrShort
	}
	low := strings.ToLower(password)
	different := map[rune]bool{}
	inRow, last := 0, rune(0)
	for _, r := range low {
		different[r] = true
		if r-last == 1 || last-r == 1 || r == last {
			inRow++
		}
		last = r
	}
	if len(different) < 5 || inRow > utf8.RuneCountInString(low)*2/3 {
		return ErrCommon
	}
	rest := low
	for _, w := range append(common, strings.Fields(strings.ToLower(name))...) {
		if len(w) > 3 {
			rest = strings.ReplaceAll(rest, w, "")
		}
	}
	letters := 0
	for _, r := range rest {
		if unicode.IsLetter(r) {
			letters++
		}
	}
	if rest != low && letters < 5 { // a common word with figures and signs round it
		return ErrCommon
	}
	return nil
}

// CheckPIN returns what is wrong with a PIN.
func CheckPIN(pin string) error {
	if len(pin) < LeastPIN || len(pin) > MostPIN {
		return ErrPIN
	}
	alike, up, down := true, true, true
	for i := range pin {
		if pin[i] < '0' || pin[i] > '9' {
			return ErrPIN
		}
		if i > 0 {
			alike, up, down = alike && pin[i] == pin[0], up && pin[i] == pin[i-1]+1, down && pin[i] == pin[i-1]-1
		}
	}
	if alike || up || down {
		return ErrPIN
	}
	return nil
}
