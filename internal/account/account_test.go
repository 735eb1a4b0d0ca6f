package account

import (
	"context"
	"errors"
	"strings"
	"testing"
	"time"
	"unicode/utf8"
)

func TestHash(t *testing.T) {
	hash := func(secret string) string {
		h, err := Hash(t.Context(), secret)
		if err != nil {
			t.Fatal(err)
		}
		return h
	}
	is := func(hash, secret string) bool {
		right, err := Verify(t.Context(), hash, secret)
		if err != nil {
			t.Fatal(err)
		}
		return right
	}
	h := hash("a heron on the quay wall")
	if !is(h, "a heron on the quay wall") || is(h, "a heron on the quay walL") || is("", "x") ||
		is("$argon2id$v=19$m=1,t=1,p=1$AA$AA", "") {
		t.Error("a hash is not that of its password alone")
	}
	if one, two := hash("same"), hash("same"); one == two || strings.Contains(h, "heron") {
		t.Error("two hashes are the same, or one shows its password")
	}
}

// Hashes wait in a queue of a length that is known, no longer than is allowed, and no longer than whoever asked does.
func TestQueue(t *testing.T) {
	for range AtOnce { // as if that many were being made
		working <- struct{}{}
	}
	free := func() {
		for range AtOnce {
			<-working
		}
	}
	ctx, cancel := context.WithCancel(t.Context())
	ends := make(chan error, MostWaiting+AtOnce)
	for range MostWaiting + AtOnce {
		go func() {
			_, err := Verify(ctx, "", "x")
			ends <- err
		}()
	}
	for len(waiting) < cap(waiting) {
		time.Sleep(time.Millisecond)
	}
	if right, err := Verify(t.Context(), "", "x"); right || !errors.Is(err, ErrBusy) {
		t.Errorf("one more than may wait: %v, %v", right, err)
	}
	cancel()
	for range MostWaiting + AtOnce {
		if err := <-ends; !errors.Is(err, ErrBusy) {
			t.Errorf("who went away: %v", err)
		}
	}
	if _, err := Hash(t.Context(), "x"); !errors.Is(err, ErrBusy) { // whose turn never comes
		t.Errorf("waited for ever: %v", err)
	}
	free()
	if _, err := Hash(t.Context(), "x"); err != nil || len(waiting)+len(working) != 0 {
		t.Errorf("afterwards: %v, %d wait and %d are made", err, len(waiting), len(working))
	}
}

func TestPasswords(t *testing.T) {
	for password, want := range map[string]error{
		"a heron on the quay wall": nil, "brine-lantern-otter-7": nil, "xK9$vQ2mLp4w": nil,
		"short": ErrShort, "elevenchars": ErrShort, strings.Repeat("ab", 65): ErrShort, "aaaaaaaaaaaa": ErrCommon,
		"123456789012": ErrCommon,
		"abababababab": ErrCommon, "Password1234!": ErrCommon, "qwerty123456": ErrCommon, "Linde12345678!": ErrCommon,
		"abcdefghijklm": ErrCommon,
		"welcome2026!!": ErrCommon, "pastapasta123": ErrCommon, "qwertyuiop12": ErrCommon,
		"1qaz2wsx3edc4rfv": ErrCommon, "asdfghjkl;12": ErrCommon,
		"November2026!": ErrCommon, "settembre.2025": ErrCommon, "otterotterotter": ErrCommon,
		"Summer-Summer-26": ErrCommon, "zxcvbnm,zxcvbnm": ErrCommon,
		"poiuytrewq99": ErrCommon, "seven otters in april": nil, "the gull saw qwerty": nil, "mövenschrei am kai": nil,
		"monkeydragon123": ErrCommon, "liverpool1234": ErrCommon, "michelle1985": ErrCommon, "fuckyou12345": ErrCommon,
		"p@ssw0rd1234":     ErrCommon,
		"trustno1trustno1": ErrCommon, "charlieashley": ErrCommon, "correct horse battery staple": nil,
		"Robert.Smith1": ErrCommon,
	} {
		if err := CheckPassword("Linde", password); !errors.Is(err, want) || (want == nil) != (err == nil) {
			t.Errorf("%q: %v, want %v", password, err, want)
		}
	}
	for pin, ok := range map[string]bool{"7294": true, "20261": true, "1234": false, "9876": false, "0000": false,
		"12a4": false, "123": false,
		"123456789": false} {
		if (CheckPIN(pin) == nil) != ok {
			t.Errorf("PIN %s: %v", pin, CheckPIN(pin))
		}
	}
	for name, ok := range map[string]bool{"Linde": true, "": false, " Osk": false, strings.Repeat("x", 61): false,
		"a\nb": false, "Åse Müller": true,
		"Lindе": false, "Linde\u200b": false, "\u202eedniL": false, "Linde\xff": false, "Linde 2": true,
		"O’Hara-Lind": true, "12": false, "Анна": true,
		"山田 たろう": true, "आशा": true, "Linde@work": false} {
		if (CheckName(name) == nil) != ok {
			t.Errorf("%q: %v", name, CheckName(name))
		}
	}
}

// Whatever is typed as a password is judged, and without delay.
func FuzzPassword(f *testing.F) {
	f.Add("Linde", strings.Repeat("4@8({[<3691!|7$5+%2", 6))
	for _, p := range []string{"a heron on the quay", "пароль пароль", "\xff\xfe", "𝔭𝔞𝔰𝔰𝔴𝔬𝔯𝔡𝔭𝔞𝔰𝔰", "1234567890123",
		"İİİİİİİİİİİİ", "qwe4567890-=["} {
		f.Add("Linde", p)
	}
	f.Fuzz(func(t *testing.T, name, password string) {
		if err := CheckPassword(name, password); err == nil && utf8.RuneCountInString(password) < LeastPassword {
			t.Errorf("%q is let through", password)
		}
	})
}

func TestRoles(t *testing.T) {
	for i, a := range Roles {
		for j, b := range Roles {
			if a.May(b) != (i >= j) {
				t.Errorf("%s may %s: %v", a, b, a.May(b))
			}
		}
	}
	if Role("").May(Looks) || Role("boss").May(Looks) {
		t.Error("a role that is none may something")
	}
}
