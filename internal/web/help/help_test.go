package help

import (
	"strings"
	"testing"
)

// Every word a page explains stands in the glossary once, and what explains a page is short.
func TestWordsStandInTheGlossary(t *testing.T) {
	seen := map[string]bool{}
	for _, term := range Glossary() {
		if seen[term.Key] || term.Word == "" || !strings.HasSuffix(term.Means, ".") {
			t.Errorf("the glossary’s %+v", term)
		}
		seen[term.Key] = true
	}
	pages := map[string]bool{}
	for _, a := range explanations {
		if pages[a.Of] {
			t.Errorf("%s is explained twice", a.Of)
		}
		pages[a.Of] = true
		for _, key := range a.Words {
			if !seen[key] {
				t.Errorf("%s explains %q, which is no word of the glossary", a.Of, key)
			}
		}
		if n := strings.Count(a.Says+a.From, "."); n > 5 {
			t.Errorf("%s takes %d sentences", a.Of, n)
		}
	}
}
