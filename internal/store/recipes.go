package store

import (
	"context"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
)

// Recipe is what a kitchen makes, as it was last kept.
type Recipe struct {
	ID        uint64 `gorm:"primaryKey"`
	Version   int
	Name      string
	Request   Document
	Row       Row
	Besides   jsonOf[recipe.Besides]
	CreatedAt time.Time
	UpdatedAt time.Time
	RetiredAt *time.Time
	Once      *string `json:"-"`
	PartnerID *uint64 // the recipe whose dough goes together with this one's
}

// recipeVersion is one version of a recipe.
type recipeVersion struct {
	RecipeID uint64 `gorm:"primaryKey"`
	Version  int    `gorm:"primaryKey"`
	Request  Document
	Besides  jsonOf[recipe.Besides]
	SavedAt  time.Time
	SavedBy  string
}

// TableName names the table.
func (recipeVersion) TableName() string { return "recipe_versions" }

func newRecipe(p *plan.Plan, b recipe.Besides) Recipe {
	return Recipe{Version: 1, Name: p.Request.Name, Request: Document{Request: p.Request}, Row: Row{p.Summary()},
		Besides: jsonOf[recipe.Besides]{b}}
}

// KeepRecipe keeps the request of p as a new recipe, of a form that may come twice: what bears the same mark is the
// same recipe. Without a mark it is another each time.
func (s *Store) KeepRecipe(ctx context.Context, once string, p *plan.Plan, b recipe.Besides) (Recipe, error) {
	r := newRecipe(p, b)
	if once != "" {
		r.Once = &once
	}
	err := s.transact(ctx, func(tx *gorm.DB) error {
		r.ID = 0
		if err := tx.Create(&r).Error; is(err, duplicateKey) && once != "" {
			r = Recipe{}
			return tx.Where("once = ?", once).First(&r).Error
		} else if err != nil {
			return err
		}
		return tx.Create(&recipeVersion{r.ID, 1, r.Request, r.Besides, r.UpdatedAt, by(ctx)}).Error
	})
	return r, err
}

// SaveRecipe keeps the request of p as the next version of a recipe that was opened at version; ErrChanged where it has
// been kept anew meanwhile.
func (s *Store) SaveRecipe(ctx context.Context, id uint64, version int, p *plan.Plan, b recipe.Besides) (Recipe,
	error) {
	var r Recipe
	err := s.transact(ctx, func(tx *gorm.DB) error {
		var rows []Recipe
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("id = ?", id).Find(&rows).Error; err != nil {
			return err
		}
		if len(rows) == 0 {
			return ErrNotFound
		}
		if r = rows[0]; r.Version != version {
			return ErrChanged
		}
		next := newRecipe(p, b)
		r.Version, r.Name, r.Request, r.Row, r.Besides = version+1, next.Name, next.Request, next.Row, next.Besides
		r.UpdatedAt = tx.NowFunc()
		done := tx.Model(&Recipe{}).Where("id = ? AND version = ?", id,
			version).Updates(map[string]any{"version": r.Version,
			"name": r.Name, "request": r.Request, "row": r.Row, "besides": r.Besides, "updated_at": r.UpdatedAt})
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return errOvertaken
		}
		return tx.Create(&recipeVersion{id, r.Version, r.Request, r.Besides, r.UpdatedAt, by(ctx)}).Error
	})
	return r, err
}

// RecipeByID returns a recipe, retired or not; ErrNotFound where there is none.
func (s *Store) RecipeByID(ctx context.Context, id uint64) (Recipe, error) {
	var rows []Recipe
	if err := s.db.WithContext(ctx).Where("id = ?", id).Limit(1).Find(&rows).Error; err != nil {
		return Recipe{}, err
	}
	if len(rows) == 0 {
		return Recipe{}, ErrNotFound
	}
	return rows[0], rows[0].Request.Bad()
}

// RecipeAt returns a recipe as it was at a version; ErrNotFound where it has none of that number.
func (s *Store) RecipeAt(ctx context.Context, id uint64, version int) (Recipe, error) {
	r, err := s.RecipeByID(ctx, id)
	if err != nil || r.Version == version {
		return r, err
	}
	var rows []recipeVersion
	if err := s.db.WithContext(ctx).Where("recipe_id = ? AND version = ?", id, version).Find(&rows).Error; err != nil {
		return r, err
	}
	if len(rows) == 0 {
		return r, ErrNotFound
	}
	r.Version, r.Request, r.Besides, r.UpdatedAt = version, rows[0].Request, rows[0].Besides, rows[0].SavedAt
	r.Name = r.Request.Name
	return r, r.Request.Bad()
}

// RecipeVersions returns the versions of a recipe, the last first, with their requests; at most 60.
func (s *Store) RecipeVersions(ctx context.Context, id uint64) (out []Recipe, by []string, err error) {
	var rows []recipeVersion
	err = s.db.WithContext(ctx).Where("recipe_id = ?", id).Order("version DESC").Limit(60).Find(&rows).Error
	for _, v := range rows {
		out = append(out, Recipe{ID: id, Version: v.Version, Name: v.Request.Name, Request: v.Request,
			Besides:   v.Besides,
			UpdatedAt: v.SavedAt})
		by = append(by, v.SavedBy)
	}
	return out, by, err
}

// RecipePage is how many recipes a page of the list holds.
const RecipePage = 60

// Recipes returns recipes by name, those of which every word begins a word of their name, of another name or of what
// they become; from is the name and number the page begins after. Retired ones are asked for apart.
func (s *Store) Recipes(ctx context.Context, words string, retired bool, from Mark) (out []Recipe, next *Mark,
	err error) {
	names, err := s.names(ctx)
	if err != nil {
		return nil, nil, err
	}
	ids := names.some(names.holding(searched(words)), retired, from.ID, RecipePage+1)
	if len(ids) == 0 {
		return nil, nil, nil
	}
	err = s.db.WithContext(ctx).Omit("request").Where("id IN ?", ids).Order("name, id").Find(&out).Error
	if len(out) > RecipePage {
		out = out[:RecipePage]
		last := out[RecipePage-1]
		next = &Mark{Key: last.Name, ID: last.ID}
	}
	return out, next, err
}

// RecipesNamed says how many recipes in use bear a name, in whatever letters.
func (s *Store) RecipesNamed(ctx context.Context, name string) (n int64, err error) {
	err = s.db.WithContext(ctx).Model(&Recipe{}).Where("retired_at IS NULL AND name = ?", name).Count(&n).Error
	return n, err
}

// RetireRecipe puts a recipe away, or takes it into use again, and with it the one whose dough goes together with it.
// Its batches live on.
func (s *Store) RetireRecipe(ctx context.Context, id uint64, retire bool) error {
	var at any
	if retire {
		at = s.now()
	}
	done := s.db.WithContext(ctx).Model(&Recipe{}).Where("id = ? OR partner_id = ?", id, id).UpdateColumns(
		map[string]any{"retired_at": at, "updated_at": s.now()})
	if done.Error == nil && done.RowsAffected == 0 {
		_, err := s.RecipeByID(ctx, id)
		return err
	}
	return done.Error
}

// CreateOf keeps the request of p as a new batch of a recipe at a version, of a form that may come twice.
func (s *Store) CreateOf(ctx context.Context, once string, p *plan.Plan, of uint64, version int) (b Batch, err error) {
	err = s.Atomically(ctx, func(in *Store) error {
		if b, err = in.CreateOnce(ctx, once, p); err != nil || b.RecipeID != nil {
			return err
		}
		return in.TieBatch(ctx, &b, of, version)
	})
	return b, err
}

// TieBatch says which recipe a batch is of, and at which version.
func (s *Store) TieBatch(ctx context.Context, b *Batch, of uint64, version int) error {
	err := s.db.WithContext(ctx).Model(&Batch{}).Where("id = ?", b.ID).
		UpdateColumns(map[string]any{"recipe_id": of, "recipe_version": version}).Error
	if err == nil {
		b.RecipeID, b.RecipeVersion = &of, &version
	}
	return err
}

// RecipeMade is how a recipe was last made.
type RecipeMade struct {
	At   time.Time
	Felt *int
	N    int // how often
}

// RecipesMade says of recipes how they were last made, by their numbers; those that never were are not in it.
func (s *Store) RecipesMade(ctx context.Context, ids []uint64) (map[uint64]RecipeMade, error) {
	var rows []struct {
		RecipeID uint64
		Began    time.Time
		Felt     *int
	}
	out := map[uint64]RecipeMade{}
	if len(ids) == 0 {
		return out, nil
	}
	err := s.db.WithContext(ctx).Table("making_summaries").
		Select("batches.recipe_id, making_summaries.began, making_summaries.felt").
		Joins("JOIN batches ON batches.id = making_summaries.batch_id").Where("batches.recipe_id IN ?", ids).
		Order("making_summaries.began").Limit(5000).Find(&rows).Error
	for _, r := range rows {
		m := out[r.RecipeID]
		out[r.RecipeID] = RecipeMade{r.Began, r.Felt, m.N + 1}
	}
	return out, err
}

// BatchesOf returns the newest batches of a recipe, deleted ones left out.
func (s *Store) BatchesOf(ctx context.Context, of uint64, n int) (out []Batch, err error) {
	err = s.db.WithContext(ctx).Where("recipe_id = ?", of).Order("id DESC").Limit(n).Find(&out).Error
	return out, err
}

// NamedRecipe is a recipe as orders name it.
type NamedRecipe struct {
	ID          uint64
	Name, Shape string
	Besides     jsonOf[recipe.Besides]
	Kept        string // as Named.Kept
}

// MostNamed is how many recipes words may mean, and how many besides them are offered.
const MostNamed = 60

// NamedRecipes returns the recipes in use that words may mean, of each of the phrases, one of each shape there is, for
// what is spelt nearly so, and the first by name: by name, each once.
func (s *Store) NamedRecipes(ctx context.Context, phrases ...string) (out []NamedRecipe, err error) {
	names, err := s.names(ctx)
	if err != nil {
		return nil, err
	}
	var at []int
	asked := false
	take := func(places []int) {
		n := 0
		for _, i := range places {
			if !names.rows[i].Retired {
				at = append(at, i)
				if n++; n == MostNamed {
					return
				}
			}
		}
	}
	for _, p := range phrases {
		var stems []string
		for _, w := range searched(p) {
			stems = append(stems, strings.TrimSuffix(w, "s"))
		}
		if len(stems) > 0 {
			asked = true
			take(names.holding(stems))
		}
	}
	if asked {
		take(names.shapes)
	}
	take(names.first)
	slices.Sort(at)
	for _, i := range slices.Compact(at) {
		r := names.rows[i]
		out = append(out, NamedRecipe{ID: r.ID, Name: r.Name, Shape: r.Shape, Besides: r.Besides,
			Kept: keptWhere(r.Place, isTrue(r.Dried))})
	}
	return out, nil
}

// RecipesByBatch returns the recipes in use that batches of those names are of, by the name.
func (s *Store) RecipesByBatch(ctx context.Context, names []string) (map[string]uint64, error) {
	out := map[string]uint64{}
	if len(names) == 0 {
		return out, nil
	}
	var rows []struct {
		Name     string
		RecipeID uint64
	}
	err := s.db.WithContext(ctx).Model(&Batch{}).Select("batches.name, batches.recipe_id").
		Joins("JOIN recipes ON recipes.id = batches.recipe_id AND recipes.retired_at IS NULL").
		Where("batches.name IN ?", names).Order("batches.id").Limit(1000).Scan(&rows).Error
	for _, r := range rows {
		out[strings.ToLower(r.Name)] = r.RecipeID
	}
	return out, err
}

// Kept says where what a recipe makes is kept, as Named.Kept.
func (r *Recipe) Kept() string {
	return keptWhere(string(r.Request.Keep.Where), r.Request.Dry.Keep)
}

// RecipesByIDs returns the recipes of those IDs that can be read.
func (s *Store) RecipesByIDs(ctx context.Context, ids []uint64) (map[uint64]Recipe, error) {
	out := map[uint64]Recipe{}
	if len(ids) == 0 {
		return out, nil
	}
	var rows []Recipe
	err := s.db.WithContext(ctx).Where("id IN ?", ids).Find(&rows).Error
	for _, r := range rows {
		if r.Request.Bad() == nil {
			out[r.ID] = r
		}
	}
	return out, err
}

// MostMade returns the recipes in use that were made most since a moment, the most first, at most n.
func (s *Store) MostMade(ctx context.Context, since time.Time, n int) (out []RecipeCount, err error) {
	err = s.db.WithContext(ctx).Table("making_summaries").
		Select("recipes.id, recipes.name, COUNT(*) AS n, MAX(making_summaries.began) AS began").
		Joins("JOIN batches ON batches.id = making_summaries.batch_id").
		Joins("JOIN recipes ON recipes.id = batches.recipe_id").
		Where("recipes.retired_at IS NULL AND making_summaries.began >= ?", since).
		Group("recipes.id, recipes.name").Order("n DESC, began DESC, recipes.id").Limit(n).Scan(&out).Error
	return out, err
}

// RecipeCount is how often a recipe was made, and when last.
type RecipeCount struct {
	ID    uint64
	Name  string
	N     int
	Began time.Time
}

// BatchesOfNone returns the newest batches that are of no recipe and can be read, at most n of them; deleted ones are
// left out.
func (s *Store) BatchesOfNone(ctx context.Context, n int) (out []Batch, err error) {
	err = s.db.WithContext(ctx).Where("recipe_id IS NULL").Order("id DESC").Limit(n).Find(&out).Error
	if err != nil {
		return nil, err
	}
	return s.readable(ctx, out)
}

// RecipeCalled returns the recipe in use of a name, in whatever letters, the newest where there are several; found is
// whether there is one.
func (s *Store) RecipeCalled(ctx context.Context, name string) (r Recipe, found bool, err error) {
	var rows []Recipe
	err = s.db.WithContext(ctx).Where("retired_at IS NULL AND name = ?",
		name).Order("id DESC").Limit(1).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return r, false, err
	}
	return rows[0], rows[0].Request.Bad() == nil, nil
}

// AllRecipes returns all recipes in use that can be read, by name.
func (s *Store) AllRecipes(ctx context.Context) (out []Recipe, err error) {
	var rows []Recipe
	err = s.db.WithContext(ctx).Where("retired_at IS NULL").Order("name, id").Find(&rows).Error
	for _, r := range rows {
		if r.Request.Bad() == nil {
			out = append(out, r)
		}
	}
	return out, err
}
