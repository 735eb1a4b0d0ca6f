package account

import (
	"errors"
	"strings"
	"testing"
)

func TestHash(t *testing.T) {
	h := Hash("a heron on the quay wall")
	if !Verify(h, "a heron on the quay wall") || Verify(h, "a heron on the quay walL") || Verify("", "x") || Verify("$argon2id$v=19$m=1,t=1,p=1$AA$AA", "") {
		t.Error("a hash is not that of its password alone")
	}
	if one, two := Hash("same"), Hash("same"); one == two || strings.Contains(h, "heron") {
		t.Error("two hashes are the same, or one shows its password")
	}
}

func TestPasswords(t *testing.T) {
	for password, want := range map[string]error{
		"a heron on the quay wall": nil, "brine-lantern-otter-7": nil, "xK9$vQ2mLp4w": nil,
		"short": ErrShort, "elevenchars": ErrShort, strings.Repeat("ab", 65): ErrShort, "aaaaaaaaaaaa": ErrCommon, "123456789012": ErrCommon,
		"abababababab": ErrCommon, "Password1234!": ErrCommon, "qwerty123456": ErrCommon, "Linde12345678!": ErrCommon, "abcdefghijklm": ErrCommon,
		"welcome2026!!": ErrCommon, "pastapasta123": ErrCommon,
	} {
		if err := CheckPassword("Linde", password); !errors.Is(err, want) || (want == nil) != (err == nil) {
			t.Errorf("%q: %v, want %v", password, err, want)
		}
	}
	for pin, ok := range map[string]bool{"7294": true, "20261": true, "1234": false, "9876": false, "0000": false, "12a4": false, "123": false,
		"123456789": false} {
		if (CheckPIN(pin) == nil) != ok {
			t.Errorf("PIN %s: %v", pin, CheckPIN(pin))
		}
	}
	for name, ok := range map[string]bool{"Linde": true, "": false, " Osk": false, strings.Repeat("x", 61): false, "a\nb": false, "Åse Müller": true} {
		if (CheckName(name) == nil) != ok {
			t.Errorf("%q: %v", name, CheckName(name))
		}
	}
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
