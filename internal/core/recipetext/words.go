package recipetext

import (
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"hollen/internal/core/addition"
)

// named are words that mean one thing; within a table the more telling stand first.
type named struct {
	key   string
	words []string
}

// flours are the flours by what they are called in English, Italian, German, French and Hindi, the
// more telling names first.
var flours = inOrder([]named{
	{"wholemeal-durum", []string{"whole durum", "wholemeal durum", "wholegrain durum", "whole wheat durum",
		"semola integrale", "hartweizenvollkornmehl",
		"semoule complète"}},
	{"buckwheat", []string{"buckwheat", "grano saraceno", "saraceno", "buchweizen", "buchweizenmehl", "sarrasin",
		"blé noir", "kuttu ka atta", "kuttu",
		"कुट्टू"}},
	{"sorghum", []string{"sorghum", "sorgo", "sorgho", "sorghumhirse", "jowar ka atta", "jowar", "jwari", "ज्वार"}},
	{"millet", []string{"millet", "miglio", "hirse", "hirsemehl", "bajra ka atta", "bajra", "bajri", "ragi", "बाजरा"}},
	{"maize-fine", []string{"maize", "corn", "cornmeal", "cornflour", "mais", "maïs", "maismehl", "fioretto",
		"makki ka atta", "makki", "makai",
		"मक्का"}},
	{"rice", []string{"rice", "riso", "reis", "reismehl", "riz", "chawal ka atta", "chawal", "चावल"}},
	{"chickpea", []string{"chickpea", "chick pea", "chickpeas", "gram flour", "ceci", "kichererbsen",
		"kichererbsenmehl", "pois chiches", "pois chiche",
		"besan", "बेसन"}},
	{"chestnut", []string{"chestnut", "chestnuts", "castagne", "castagna", "kastanien", "kastanienmehl", "maronen",
		"châtaigne", "châtaignes"}},
	{"rye-light", []string{"rye", "segale", "roggen", "roggenmehl", "seigle"}},
	{"einkorn", []string{"einkorn", "einkornmehl", "monococco", "petit épeautre"}},
	{"emmer", []string{"emmer", "emmermehl", "zweikorn", "farro dicocco", "dicocco", "farro", "amidonnier", "khapli"}},
	{"spelt-white", []string{"spelt", "spelta", "dinkel", "dinkelmehl", "épeautre"}},
	{"spelt-whole", []string{"dinkelvollkorn", "dinkelvollkornmehl"}},
	{"khorasan", []string{"khorasan", "khorasanweizen"}},
	{"wholemeal-flatbread", []string{"atta", "chapati", "chapatti", "chapati flour", "roti flour", "flatbread",
		"gehun ka atta", "आटा"}},
	{"semola-fine", []string{"semola rimacinata", "rimacinata", "remilled", "fine semolina", "semola", "semoule fine",
		"durum", "grano duro", "hartweizenmehl",
		"hartweizen", "blé dur"}},
	{"semolina-coarse", []string{"durum semolina", "durum wheat semolina", "semolina", "hartweizengrieß",
		"hartweizengriess", "grieß", "griess",
		"semoule", "sooji", "suji", "rava", "rawa", "सूजी", "रवा"}},
	{"wholemeal", []string{"wholemeal", "wholewheat", "whole wheat", "whole-wheat", "wholegrain", "whole grain",
		"farina integrale", "integrale", "vollkorn",
		"vollkornmehl", "weizenvollkornmehl", "farine complète", "complète", "intégrale"}},
	{"strong", []string{"strong", "bread flour", "bread", "farina forte", "brotmehl", "farine de force", "gruau"}},
	{"soft-00", []string{"00", "double zero", "double-zero", "doppio zero", "double nought", "type 405", "t45",
		"type 45", "soft"}},
	{"soft-0", []string{"tipo 0", "0", "t55", "type 55"}},
	{"plain", []string{"all purpose", "all-purpose", "allpurpose", "ap", "plain", "weizenmehl", "type 550", "maida",
		"मैदा"}},
})

// justFlour are the words for flour that leave open which.
var justFlour = []string{"flour", "flours", "farina", "mehl", "farine", "blé"}

// kinds are the other ingredients, the more telling first.
var kinds = []struct {
	kind  Kind
	words []string
}{
	{Yolk, []string{"yolk", "yolks", "tuorlo", "tuorli", "eigelb", "eigelbe", "dotter", "jaune", "jaunes", "zardi",
		"ज़र्दी"}},
	{White, []string{"egg white", "egg whites", "whites", "white of egg", "albume", "albumi", "eiweiß", "eiweiss",
		"blanc d'œuf", "blancs d'œufs",
		"blanc d'oeuf",
		"blancs d'oeufs", "safedi"}},
	{Egg, []string{"egg", "eggs", "uovo", "uova", "ei", "eier", "œuf", "œufs", "oeuf", "oeufs", "anda", "ande", "अंडा",
		"अंडे"}},
	{Oil, []string{"oil", "olio", "öl", "olivenöl", "huile", "tel", "तेल"}},
	{Salt, []string{"salt", "sale", "salz", "sel", "namak", "नमक"}},
	{Milk, []string{"milk", "latte", "milch", "lait", "doodh", "दूध"}},
	{Water, []string{"water", "acqua", "wasser", "eau", "d'eau", "pani", "पानी"}},
}

// extras by the words that name them; where a powder is meant it says so.
var extras = []struct {
	key, powder string
	words       []string
}{
	{"spinach", "spinach-powder", []string{"spinach", "spinaci", "spinat", "épinards", "palak", "nettle", "nettles",
		"ortiche", "brennnesseln", "orties"}},
	{"beet", "beet-powder", []string{"beetroot", "beet", "beets", "barbabietola", "rote bete", "betterave",
		"chukandar"}},
	{"pumpkin", "pumpkin-powder", []string{"pumpkin", "squash", "zucca", "kürbis", "potiron", "courge", "kaddu"}},
	{"carrot", "carrot-powder", []string{"carrot", "carrots", "carota", "carote", "karotte", "karotten", "möhren",
		"carotte", "carottes", "gajar"}},
	{"tomato-paste", "tomato-powder", []string{"tomato", "concentrato", "pomodoro", "tomatenmark", "concentré",
		"tamatar"}},
	{"onion", "onion-powder", []string{"onion", "cipolla", "zwiebel", "oignon", "pyaz"}},
	{"ink", "ink", []string{"ink", "nero di seppia", "seppia", "tinte", "encre"}},
	{"cocoa", "cocoa", []string{"cocoa", "cacao", "kakao"}},
	{"mushroom-powder", "mushroom-powder", []string{"mushroom", "mushrooms", "porcini", "funghi", "steinpilze",
		"cèpes"}},
	{"saffron", "saffron", []string{"saffron", "zafferano", "safran", "kesar"}},
	{"herbs", "herbs", []string{"herbs", "basil", "parsley", "erbe", "basilico", "prezzemolo", "kräuter", "basilikum",
		"petersilie", "herbes", "persil"}},
}

// extraGPerML is the bulk density of additions by kind, g/mL. Source: house.
var extraGPerML = map[addition.Kind][2]float64{addition.Puree: {.95, 1.05}, addition.Powder: {.40, .60},
	addition.Herb: {.12, .25}, addition.Liquid: {1, 1.1}}

// powders are the words that make an addition a powder.
var powders = []string{"powder", "powdered", "polvere", "pulver", "poudre"}

// sizes are the words that name an egg's class.
var sizes = []struct{ word, eu, us string }{
	{"extra large", "eu-xl", "us-xl"}, {"extra-large", "eu-xl", "us-xl"}, {"xl", "eu-xl", "us-xl"}, {"jumbo", "eu-xl",
		"us-jumbo"},
	{"large", "eu-l", "us-l"}, {"medium", "eu-m", "us-m"}, {"small", "eu-s", "us-s"}, {"grandi", "eu-l", "us-l"},
	{"medie", "eu-m", "us-m"},
	{"große", "eu-l", "us-l"}, {"gros", "eu-l", "us-l"}, {"moyens", "eu-m", "us-m"},
}

// numbers are amounts in words.
var numbers = map[string]float64{"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6,
	"seven": 7, "eight": 8, "nine": 9,
	"ten":    10,
	"eleven": 11, "twelve": 12, "dozen": 12, "half": .5, "couple": 2,
	"un": 1, "uno": 1, "una": 1, "due": 2, "tre": 3, "quattro": 4, "cinque": 5, "sei": 6, "mezzo": .5, "mezza": .5,
	"ein": 1, "eine": 1, "einen": 1, "zwei": 2, "drei": 3, "vier": 4, "fünf": 5, "sechs": 6, "halbe": .5,
	"une": 1, "deux": 2, "trois": 3, "quatre": 4, "cinq": 5, "demi": .5,
	"ek": 1, "do": 2, "teen": 3, "char": 4, "paanch": 5}

// Kinds of measure that have no volume of their own, as units' mL.
const (
	cupful = -1 - iota
	pinchful
	fistful
	dashful
)

// unit is a measure: g grams, or ml millilitres, give or take spread.
type unit struct {
	name       string
	g, ml      float64
	spread     float64
	lowG, high float64 // of anything, g; 0: by g or ml
}

// units by word.
var units = func() map[string]unit {
	out := map[string]unit{}
	add := func(u unit, words string) {
		for _, w := range strings.Fields(words) {
			out[w] = u
		}
	}
	add(unit{name: "g", g: 1}, "g gr gram grams gramme grammes grammi grammo gramm")
	add(unit{name: "kg", g: 1000}, "kg kilo kilos kilogram kilograms chilo chili")
	add(unit{name: "etto", g: 100}, "etto etti hg")
	add(unit{name: "oz", g: ounceG}, "oz ounce ounces")
	add(unit{name: "lb", g: poundG}, "lb lbs pound pounds")
	add(unit{name: "mL", ml: 1}, "ml millilitre millilitres milliliter milliliters")
	add(unit{name: "cL", ml: 10}, "cl")
	add(unit{name: "dL", ml: 100}, "dl")
	add(unit{name: "L", ml: 1000}, "l litre liter litro")
	add(unit{name: "cup", ml: cupful}, "cup cups c tazza tazze tasse tassen tasses katori cupful")
	add(unit{name: "tablespoon", ml: spoonML, spread: spoonSpread}, "tablespoon tablespoons tbsp tbs tbl cucchiaio "+
		"cucchiai el esslöffel càs")
	add(unit{name: "teaspoon", ml: teaML, spread: spoonSpread}, "teaspoon teaspoons tsp cucchiaino cucchiaini tl "+
		"teelöffel càc")
	add(unit{name: "spoon", ml: 12.5, spread: .25}, "spoon spoons spoonful spoonfuls löffel cuillère cuillères "+
		"chammach")
	add(unit{name: "pinch", ml: pinchful}, "pinch pinches pizzico prise prisen pincée pincées chutki")
	add(unit{name: "dash", ml: dashful}, "dash dashes")
	add(unit{name: "handful", ml: fistful}, "handful handfuls manciata manciate handvoll poignée poignées mutthi")
	add(unit{name: "drizzle", lowG: 2, high: 6}, "drizzle drizzles filo filet")
	add(unit{name: "drop", lowG: .04, high: .06}, "drop drops goccia gocce tropfen goutte gouttes")
	add(unit{name: "bit", lowG: 2, high: 10}, "bit")
	add(unit{name: "splash", lowG: 3, high: 7}, "splash splashes spruzzo schuss trait")
	add(unit{name: "knob", lowG: 10, high: 20}, "knob knobs noce noix")
	add(unit{name: "egg shell", lowG: 14, high: 22}, "eggshell eggshells shell shells")
	return out
}()

// phrases are measures of several words, and what they are read as.
var phrases = strings.NewReplacer(
	"cuillères à soupe",
	"tablespoon",
	"cuillère à soupe",
	"tablespoon",
	"cuillères à café",
	"teaspoon",
	"cuillère à café",
	"teaspoon",
	"c. à soupe",
	"tablespoon",
	"c. à café",
	"teaspoon",
	"half eggshells",
	"eggshells",
	"half a shell",
	"eggshell",
	"half an eggshell",
	"1 eggshell",
	"half eggshell",
	"eggshell",
	"three-quarters of a ",
	"3/4 ",
	"three quarters of a ",
	"3/4 ",
	"three-quarters ",
	"3/4 ",
	"three quarters ",
	"3/4 ",
	"two thirds of a ",
	"2/3 ",
	"two-thirds of a ",
	"2/3 ",
	"half of a ",
	"1/2 ",
	"half a ",
	"1/2 ",
	"half an ",
	"1/2 ",
	"a couple of ",
	"2 ",
	"couple of ",
	"2 ",
	"a few ",
	"3 to 5 ",
	"un paio di ",
	"2 ",
	"a quarter of a ",
	"1/4 ",
	"a third of a ",
	"1/3 ",
	"eggshell halves",
	"eggshells",
	"shell halves",
	"eggshells",
	"egg shells",
	"eggshells",
	"egg shell",
	"eggshell",
)

// idle are words that may stand beside an ingredient and change nothing.
var idle = map[string]bool{}

func init() {
	all := func(words ...string) {
		for _, w := range words {
			for _, part := range strings.FieldsFunc(w, func(r rune) bool { return r == ' ' || r == '-' }) {
				idle[part] = true
			}
		}
	}
	all(strings.Fields("flour flours of the tipo type fine finely ground extra virgin olive sunflower vegetable " +
		"neutral sea " +
		"table kosher fresh whole beaten lightly cooked squeezed drained chilled pureed puree purée powder powdered " +
		"paste chopped dried " +
		"unsweetened cuttlefish squid leaves frozen thawed room temperature at cold warm lukewarm free range organic " +
		"sifted fine milled remilled " +
		"rimacinata di grano duro heaped heaping level scant generous about approximately approx ca roughly good big " +
		"hen's hens egg eggs yolk " +
		"yolks white whites water milk oil salt in all purpose for dough pasta from with divided each or so plus more " +
		"il la lo le gli del della dei delle d'uovo d'oliva extravergine fino fresche freschi intere circa e " +
		"vom von der die das mit frische frischen und etwa fein feines gestrichene gehäufte " +
		"du de des d' l' les au aux d'olive d'oeuf d'œuf d'oeufs d'œufs fine fin frais t environ et ka ki ke aur taza")...)
	for _, list := range [][]named{flours} {
		for _, x := range list {
			all(x.words...)
		}
	}
	all(justFlour...)
	all(powders...)
	for _, x := range kinds {
		all(x.words...)
	}
	for _, x := range extras {
		all(x.words...)
	}
	for _, s := range sizes {
		all(s.word)
	}
}

// inOrder puts a table's longest names first, so that the more telling one is found.
func inOrder(list []named) []named {
	var out []named
	for _, x := range list {
		for _, w := range x.words {
			out = append(out, named{x.key, []string{w}})
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		return len(strings.Fields(out[i].words[0])) > len(strings.Fields(out[j].words[0]))
	})
	return out
}

// find returns the key of the first of a table whose name stands in s, and that name.
func find(list []named, s string) (key, word string) {
	for _, x := range list {
		if hasWord(s, x.words[0]) {
			return x.key, x.words[0]
		}
	}
	return "", ""
}

// hasAny says whether any of the words stands in s.
func hasAny(s string, words []string) bool {
	for _, w := range words {
		if hasWord(s, w) {
			return true
		}
	}
	return false
}

// hasWord says whether w stands in s as a word of its own.
func hasWord(s, w string) bool {
	letter := func(r rune) bool { return unicode.IsLetter(r) || unicode.IsMark(r) || unicode.IsDigit(r) }
	for from := 0; ; {
		i := strings.Index(s[from:], w)
		if i < 0 {
			return false
		}
		i += from
		before, _ := utf8.DecodeLastRuneInString(s[:i])
		after, _ := utf8.DecodeRuneInString(s[i+len(w):])
		if (i == 0 || !letter(before)) && (i+len(w) == len(s) || !letter(after)) {
			return true
		}
		from = i + 1
	}
}
