package measure

import (
	"strconv"
	"strings"
)

// A spreadsheet takes a cell that begins with one of these for a formula; the wide forms of other keyboards count, too.
const works = "=+-@\t\r\n＝＋－＠−"

// Cell is a text as a cell of a CSV file, so that no spreadsheet works it out: what begins as a formula does, and is no
// number, begins with an
// apostrophe. Uncell reads it back.
func Cell(text string) string {
	if !formula(text) {
		return text
	}
	if _, err := strconv.ParseFloat(text, 64); err == nil {
		return text
	}
	return "'" + text
}

// Uncell is the text Cell has made a cell of; a cell written by hand stands as it is.
func Uncell(cell string) string {
	if rest, is := strings.CutPrefix(cell, "'"); is && formula(rest) {
		return rest
	}
	return cell
}

// Cells are the cells of a line.
func Cells(line []string) []string {
	out := make([]string, len(line))
	for i, text := range line {
		out[i] = Cell(text)
	}
	return out
}

func formula(text string) bool {
	for _, r := range strings.TrimLeft(text, "'") {
		return strings.ContainsRune(works, r)
	}
	return false
}
