// Package account answers: who may do what, and is a password good enough? Passwords are kept as argon2id hashes (RFC
// 9106); nothing here
// does I/O.
package account

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/ccojocar/zxcvbn-go"
	"github.com/ccojocar/zxcvbn-go/matching"
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
var memoryKiB = uint32(32 << 10)

const (
	passes  = 3
	lanes   = 1
	keyLen  = 32
	saltLen = 16
)

// So many hashes are made at a time, for each takes memory; so many more wait, and each so long at most.
const (
	AtOnce      = 2
	MostWaiting = 32
	LongestWait = 2 * time.Second
)

// ErrBusy says that a hash was not made: too many wait, or it has waited for long enough.
var ErrBusy = errors.New("too many passwords are being looked at just now")

// CheapForTests makes hashes cost next to nothing for the rest of the process: for tests that count tries by the
// hundred, and ask nothing of a hash. No program calls it.
func CheapForTests() { memoryKiB = 64 }

var working, waiting = make(chan struct{}, AtOnce), make(chan struct{}, AtOnce+MostWaiting)

// derive waits for its turn, as long as a context goes on and no longer than is allowed.
func derive(ctx context.Context, secret string, salt []byte) ([]byte, error) {
	select {
	case waiting <- struct{}{}:
		defer func() { <-waiting }()
	default:
		return nil, ErrBusy
	}
	ctx, cancel := context.WithTimeout(ctx, LongestWait)
	defer cancel()
	select {
	case working <- struct{}{}:
		defer func() { <-working }()
		return argon2.IDKey([]byte(secret), salt, passes, memoryKiB, lanes, keyLen), nil
	case <-ctx.Done():
		return nil, ErrBusy
	}
}

// Hash returns the argon2id hash of a password or PIN with a salt of its own, as a line that says its cost; ErrBusy
// where its turn does not come.
func Hash(ctx context.Context, secret string) (string, error) {
	salt := make([]byte, saltLen)
	_, _ = rand.Read(salt) // never fails
	key, err := derive(ctx, secret, salt)
	if err != nil {
		return "", err
	}
	b := base64.RawStdEncoding
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, memoryKiB, passes, lanes,
		b.EncodeToString(salt), b.EncodeToString(key)), nil
}

// Verify says whether a hash is that of a password or PIN; ErrBusy where its turn does not come. It takes as long for
// one that cannot be read, ""
// among them.
func Verify(ctx context.Context, hash, secret string) (bool, error) {
	parts := strings.Split(hash, "$")
	b := base64.RawStdEncoding
	if len(parts) == 6 && parts[3] == fmt.Sprintf("m=%d,t=%d,p=%d", memoryKiB, passes, lanes) {
		salt, err1 := b.DecodeString(parts[4])
		key, err2 := b.DecodeString(parts[5])
		if err1 == nil && err2 == nil && len(key) == keyLen {
			is, err := derive(ctx, secret, salt)
			return err == nil && subtle.ConstantTimeCompare(is, key) == 1, err
		}
	}
	_, err := derive(ctx, secret, make([]byte, saltLen))
	return false, err
}

// These are the errors of a name, a password or a PIN.
var (
	ErrName = fmt.Errorf("a name of 1 to %d letters of one script is allowed, with spaces, figures, hyphens, dots "+
		"and apostrophes", MostName)
	ErrShort = fmt.Errorf("%d letters at least, %d at most; a few words in a row are good", LeastPassword,
		MostPassword)
	ErrCommon = errors.New("that is among the first that are tried; a few words that have nothing to do with each " +
		"other are good")
	ErrPIN  = fmt.Errorf("%d to %d figures, not all alike and not in a row", LeastPIN, MostPIN)
	ErrRole = errors.New("keeps, makes or looks is allowed")
)

// Plain is a name as it is looked for: without spaces round it, and without what nobody sees.
func Plain(name string) string {
	return strings.TrimSpace(strings.Map(func(r rune) rune {
		if unicode.IsControl(r) || unicode.Is(unicode.Cf, r) {
			return -1
		}
		return r
	}, name))
}

// CheckName returns what is wrong with the name of an account.
func CheckName(name string) error {
	if n := utf8.RuneCountInString(name); n < 1 || n > MostName || strings.TrimSpace(name) != name ||
		!utf8.ValidString(name) {
		return ErrName
	}
	of := ""
	for _, r := range name {
		if !unicode.IsLetter(r) {
			if !unicode.IsMark(r) && !unicode.IsDigit(r) && !strings.ContainsRune(" -.'’", r) {
				return ErrName
			}
			continue
		}
		if script := scriptOf(r); of == "" {
			of = script
		} else if script != "" && script != of {
			return ErrName
		}
	}
	if of == "" { // no letter at all
		return ErrName
	}
	return nil
}

// scriptOf names the script of a letter, those that are written together under one name; "" for letters of all.
func scriptOf(r rune) string {
	for name, table := range unicode.Scripts {
		switch {
		case !unicode.Is(table, r):
		case name == "Common" || name == "Inherited":
			return ""
		case name == "Hiragana" || name == "Katakana" || name == "Han" || name == "Hangul":
			return "Han"
		default:
			return name
		}
	}
	return ""
}

// common are words that begin what is tried first.
var common = strings.Fields(`password passwort passw0rd p4ssword contraseña motdepasse qwerty qwertz azerty asdfgh zxcvbn 1q2w3e4r letmein welcome
	willkommen benvenuto admin administrator root iloveyou sunshine princess football baseball dragon monkey master superman batman trustno1
	changeme secret default login access hello whatever computer internet michael jordan shadow abc123 hollen pasta tagliatelle ravioli spaghetti
	workshop bottega kitchen january february march april june july august september october november december spring summer autumn winter monday
	tuesday wednesday thursday friday saturday sunday januar februar märz juni juli oktober dezember sommer herbst frühling gennaio febbraio marzo
	aprile maggio giugno luglio agosto settembre ottobre dicembre primavera estate autunno inverno janvier février avril juillet septembre octobre
	décembre enero febrero mayo junio julio septiembre octubre noviembre diciembre verano`)

// keys are the rows and the columns of keyboards, both ways.
var keys = strings.Fields(`1234567890 qwertyuiop asdfghjkl zxcvbnm qwertzuiop yxcvbnm azertyuiop qsdfghjklm wxcvbn 1qaz2wsx3edc4rfv5tgb6yhn7ujm
	1q2w3e4r5t6z7u8i9o0p 1q2w3e4r5t6y7u8i9o0p 0987654321 poiuytrewq lkjhgfdsa mnbvcxz poiuztrewq mnbvcxy abcdefghijklmnopqrstuvwxyz`)

// withoutRows is a password without the runs of keys in it, of four at least.
func withoutRows(low string) string {
	const least = 4
	for i := 0; i+least <= len(low); {
		run := 0
		for _, row := range keys {
			for n := min(len(row), len(low)-i); n >= least && n > run; n-- {
				if strings.Contains(row, low[i:i+n]) {
					run = n
				}
			}
		}
		if run == 0 {
			i++
			continue
		}
		low = low[:i] + low[i+run:]
	}
	return low
}

// repeats says whether a password is a few letters over and over.
func repeats(low string) bool {
	for unit := 1; unit <= min(8, len(low)/2); unit++ {
		if strings.HasPrefix(strings.Repeat(low[:unit], len(low)/unit+1), low) {
			return true
		}
	}
	return false
}

// leastBits is how hard to guess a password is at least, in bits: with 2^30 the guesses that are let through in a year
// are one in 2,000 of those
// it takes.
const leastBits = 30

// guessable says whether a password is made of what stands at the top of the lists that are tried: passwords, names
// and words of English, rows of
// keys, dates, with letters swapped for signs, as zxcvbn weighs them. Its lists ship with it.
func guessable(name, password string) bool {
	mine := append(
		strings.Fields(strings.ToLower(name)),
		"hollen",
		"pasta",
		"tagliatelle",
		"ravioli",
		"spaghetti",
		"bottega",
	)
	for _, p := range []string{password, asLetters.Replace(password)} {
		// Its own way of reading signs as letters tries every one: with many signs that takes seconds.
		if zxcvbn.PasswordStrength(p, mine, matching.FilterL33tMatcher).Entropy < leastBits {
			return true
		}
	}
	return false
}

// asLetters reads signs as the letters they most often stand for.
var asLetters = strings.NewReplacer(
	"@",
	"a",
	"4",
	"a",
	"3",
	"e",
	"1",
	"i",
	"!",
	"i",
	"0",
	"o",
	"$",
	"s",
	"5",
	"s",
	"7",
	"t",
	"8",
	"b",
)

// CheckPassword returns what is wrong with a password for an account of that name: too short, or among those tried
// first.
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
	if guessable(name, password) || len(different) < 5 || repeats(low) || inRow > utf8.RuneCountInString(low)*2/3 {
		return ErrCommon
	}
	rest := withoutRows(low)
	for _, w := range append(slices.Clone(common), strings.Fields(strings.ToLower(name))...) {
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
	alike := true
	up := true
	down := true
	for i := range pin {
		if pin[i] < '0' || pin[i] > '9' {
			return ErrPIN
		}
		if i > 0 {
			alike = alike && pin[i] == pin[0]
			up = up && pin[i] == pin[i-1]+1
			down = down && pin[i] == pin[i-1]-1
		}
	}
	if alike || up || down {
		return ErrPIN
	}
	return nil
}
