package exchange

import (
	"bytes"
	"fmt"
	"unicode/utf8"

	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// Text reads a file of text as programs write them: UTF-8, UTF-16 with its mark, and else Windows-1252, so that no
// letter is lost. The error says of what else that it is no text.
func Text(raw []byte) (string, error) {
	if bytes.HasPrefix(raw, []byte{0xff, 0xfe}) || bytes.HasPrefix(raw, []byte{0xfe, 0xff}) {
		out, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewDecoder().Bytes(raw)
		if err != nil || bytes.ContainsRune(out, utf8.RuneError) {
			return "", fmt.Errorf("this file is no text that can be read: save it as UTF-8")
		}
		return string(out), nil
	}
	if bytes.IndexByte(raw, 0) >= 0 {
		return "", fmt.Errorf("this file is no text that can be read: save it as CSV, UTF-8")
	}
	if utf8.Valid(raw) {
		return string(bytes.TrimPrefix(raw, []byte("\ufeff"))), nil
	}
	out, err := charmap.Windows1252.NewDecoder().Bytes(raw)
	if err != nil || bytes.ContainsRune(out, utf8.RuneError) {
		return "", fmt.Errorf("this file holds letters that cannot be read: save it as UTF-8")
	}
	return string(out), nil
}
