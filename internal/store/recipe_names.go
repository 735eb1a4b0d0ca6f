package store

import (
	"context"
	"math/bits"
	"slices"
	"strings"
	"sync"
	"time"
	"unicode"

	"golang.org/x/text/unicode/norm"

	"hollen/internal/core/recipe"
)

// Ten thousand names are little: they are kept in memory with the words they hold, and read anew once a recipe has
// changed, by whichever process. Finding one then costs no more than where there are a hundred.

// keptNames are the recipes as they were last read, by name, with what tells them from any other reading.
type keptNames struct {
	mu    sync.Mutex
	stamp string
	all   *recipeNames
}

// recipeNames are all recipes in the order of their names.
type recipeNames struct {
	rows   []namedRow
	place  map[uint64]int // by their IDs
	words  []string       // all there are, in order
	of     [][]int32      // the places of the recipes that hold them
	shapes []int          // the first of each shape, in use
	first  []int          // the first of all, in use
}

// namedRow is what is found of a recipe.
type namedRow struct {
	ID           uint64
	Name, Shape  string
	Besides      jsonOf[recipe.Besides]
	Place, Dried string
	Retired      bool
}

// settledFor is how long ago a recipe must have changed for what was read to be kept: moments are kept to a
// millisecond,
// and two changes may share one.
const settledFor = 2 * time.Second

// names are the recipes as they are now.
func (s *Store) names(ctx context.Context) (*recipeNames, error) {
	var now struct {
		Stamp string
		Fresh bool
	}
	err := s.db.WithContext(ctx).Raw("SELECT CONCAT_WS(':', (SELECT MAX(id) FROM recipes), MAX(updated_at)) AS stamp, "+
		"COALESCE(MAX(updated_at) > ?, FALSE) AS fresh FROM recipes", s.now().Add(-settledFor)).Scan(&now).Error
	if err != nil {
		return nil, err
	}
	if s.within {
		return s.readNames(ctx)
	}
	k := s.recipes
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.all != nil && k.stamp == now.Stamp && !now.Fresh {
		return k.all, nil
	}
	all, err := s.readNames(ctx)
	if err != nil {
		return nil, err
	}
	if k.all, k.stamp = all, now.Stamp; now.Fresh {
		k.all = nil
	}
	return all, nil
}

func (s *Store) readNames(ctx context.Context) (*recipeNames, error) {
	n := &recipeNames{place: map[uint64]int{}}
	err := s.db.WithContext(ctx).Model(&Recipe{}).
		Select("id, name, shape, besides, place, dried, retired_at IS NOT NULL AS retired").Order("name, id").
		Scan(&n.rows).Error
	if err != nil {
		return nil, err
	}
	at, shapes := map[string][]int32{}, map[string]bool{}
	for i, r := range n.rows {
		n.place[r.ID] = i
		text := strings.Join(append([]string{r.Name, r.Shape}, r.Besides.V.Names...), " ")
		held := plainWords(text)
		slices.Sort(held)
		for _, w := range slices.Compact(held) {
			at[w] = append(at[w], int32(i))
		}
		if !r.Retired && len(n.first) < MostNamed {
			n.first = append(n.first, i)
		}
		if !r.Retired && !shapes[r.Shape] {
			shapes[r.Shape] = true
			n.shapes = append(n.shapes, i)
		}
	}
	for w := range at {
		n.words = append(n.words, w)
	}
	slices.Sort(n.words)
	for _, w := range n.words {
		n.of = append(n.of, at[w])
	}
	return n, nil
}

// plainWords are the words of a text, in small letters without marks.
func plainWords(text string) []string {
	var plain strings.Builder
	for _, r := range norm.NFD.String(strings.ToLower(text)) {
		if !unicode.Is(unicode.Mn, r) {
			plain.WriteRune(r)
		}
	}
	return strings.FieldsFunc(plain.String(), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.Is(unicode.Mc, r)
	})
}

// holding are the places of the recipes of which every word begins one, in their order: all, where there is no word.
func (n *recipeNames) holding(words []string) []int {
	size := (len(n.rows) + 63) / 64
	var hit []uint64
	for _, word := range words {
		for _, w := range plainWords(word) {
			one := make([]uint64, size)
			from, _ := slices.BinarySearch(n.words, w)
			for i := from; i < len(n.words) && strings.HasPrefix(n.words[i], w); i++ {
				for _, at := range n.of[i] {
					one[at/64] |= 1 << (at % 64)
				}
			}
			if hit == nil {
				hit = one
				continue
			}
			for i := range hit {
				hit[i] &= one[i]
			}
		}
	}
	var out []int
	if hit == nil {
		for i := range n.rows {
			out = append(out, i)
		}
		return out
	}
	for i, set := range hit {
		for ; set != 0; set &= set - 1 {
			out = append(out, 64*i+bits.TrailingZeros64(set))
		}
	}
	return out
}

// some are the first most of the places of recipes that are retired, or are not, after the one of that ID.
func (n *recipeNames) some(places []int, retired bool, after uint64, most int) (ids []uint64) {
	from := -1
	if at, there := n.place[after]; there {
		from = at
	}
	for _, at := range places {
		if at > from && n.rows[at].Retired == retired {
			if ids = append(ids, n.rows[at].ID); len(ids) == most {
				break
			}
		}
	}
	return ids
}
