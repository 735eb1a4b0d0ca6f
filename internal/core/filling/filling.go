// Package filling answers: what goes into a filling, for how much of it, and what does that bring: allergens, price,
// energy, and how long it keeps? And what does a name say of what is in it? A name in English, Italian, German, French,
// Spanish or Hindi is searched for words of food that a label must name, and for words of meat and fish that go in raw.
// A word may be meant otherwise: what it says is shown, and a maker's own word stands before it.
//
//	g of a line = g of the filling · g of the line ÷ g the lines make
package filling

import (
	"slices"
	"strings"
	"unicode"

	"hollen/internal/core/measure"
)

// The allergens a name may speak of, as a label names them. Source: the lists food authorities publish.
const (
	Milk        = "milk"
	Egg         = "egg"
	Wheat       = "wheat"
	Nuts        = "nuts"
	Peanut      = "peanut"
	Fish        = "fish"
	Crustaceans = "crustaceans"
	Molluscs    = "molluscs"
	Celery      = "celery"
	Mustard     = "mustard"
	Sesame      = "sesame"
	Soya        = "soya"
	Sulphites   = "sulphites"
)

// words are what a name may say, by allergen: whole words, accents left off; one that ends in * begins a word, one that
// begins with * ends
// one.
var words = []struct{ allergen, words string }{
	{
		Milk,
		`milk butter buttered buttermilk cream creme creamy cheese* ricotta* mascarpone mozzarella burrata parmesan* parmigian* pecorino grana padano
		gorgonzola taleggio fontina stracchino stracciatella caprino asiago provolone scamorza robiola feta halloumi paneer curd* yoghurt yogurt ghee
		formaggi* latte burro panna toma besciamella bechamel* milch* *milch kase *kase quark topfen rahm sahne schmand frischkase* butter joghurt
		fromage* lait beurre creme chevre brebis comte gruyere roquefort brie queso* leche mantequilla nata requeson manchego cuajada
		doodh makhan malai dahi khoya mawa दूध मक्खन मलाई दही पनीर घी खोया मावा चीज़ मिल्क`,
	},
	{
		Egg,
		`egg eggs yolk* uov* tuorl* albume ei eier eigelb* eiweiss dotter* *eier oeuf* œuf* jaune huevo* yema* clara anda ande अंडा अंडे अण्डा`,
	},
	{
		Wheat,
		`bread* crumb* panko flour wheat semolina couscous seitan pane pangrattato farina mollica brot* *brot brosel semmel* mehl *mehl weizen*
		pain chapelure farine mie ble pan harina trigo migas rusk* maida atta suji sooji आटा मैदा सूजी ब्रेड गेहूं gluten`,
	},
	{
		Nuts,
		`nut nuts walnut* almond* hazelnut* pistachio* cashew* pecan* macadamia* amarett* noci noce nocciol* mandorl* pistacch* anacard* nuss nusse
		*nuss *nusse mandel* pistazie* noix noisette* amande* pistache* nuez nueces almendra* avellana* pistacho* anacardo* akhrot badam kaju pista
		pesto अखरोट बादाम काजू पिस्ता`,
	},
	{Milk, `pesto`},
	{Peanut, `peanut* arachid* erdnuss* erdnusse cacahuet* cacahouet* mungfali moongphali मूंगफली`},
	{
		Fish,
		`fish *fish cod salmon tuna anchov* trout bass bream monkfish sole sardine* mackerel haddock pike eel pesce pesci baccala salmone tonno
		acciug* alici branzino orata trota luccio merluzzo sgombro fisch* *fisch lachs* kabeljau thunfisch forelle* sardelle* zander hecht dorsch
		poisson* saumon thon morue anchois truite cabillaud brochet lotte pescado* bacalao salmon atun anchoa* merluza trucha lubina dorada
		machli machhli मछली रोहू`,
	},
	{
		Crustaceans,
		`shrimp* prawn* crab* lobster* crayfish langoustine* scampi gamber* granchi* granseola aragosta astice garnele* krabbe* krebs* hummer
		crevette* crabe* homard langouste* ecrevisse* gamba* camaron* cangrejo* langosta* bogavante langostino* jhinga kekda झींगा केकड़ा`,
	},
	{
		Molluscs,
		`mussel* clam* scallop* squid* octopus cuttlefish oyster* snail* cozz* vongol* capesant* calamar* polpo polpi seppi* ostric* lumach*
		muschel* *muschel tintenfisch* auster* moule* palourde* coquille* poulpe* seiche* huitre* escargot* mejillon* almeja* vieira* pulpo* sepia*
		ostra*`,
	},
	{Celery, `celery celeriac sedano sellerie* celeri apio`},
	{Mustard, `mustard* senap* mostarda senf* moutarde* mostaza sarson सरसों`},
	{Sesame, `sesam* tahin* ajonjoli तिल`},
	{Soya, `soy soya soja soia tofu miso edamame सोया`},
	{Sulphites, `sulphite* sulfite* solfiti sulfit* wine marsala weisswein rotwein`},
}

// plants turn what else would be milk or egg into something else.
const plants = "vegan* plant* pflanzlich* vegetal* vegetale"

// raw are words of meat and fish as they go in raw, cooked words that say the opposite.
const (
	raw = `raw uncooked mince* minced tartare tartar sausage* sausagemeat crudo cruda crudi crude macinat* trit* salsicc* roh rohe rohes rohem rohen
		*hack hack* mett brat* gehackt* cru crue crus crues hache* saucisse* picad* salchich* crudos crudas keema kima कीमा कच्चा कच्चे`
	cooked = `cooked roast* braised stewed boiled poached confit smoked cott* brasat* arrost* stufat* bollit* lessat* affumicat* gekocht* geschmort*
		gebraten* gebacken* gerauchert* bratapfel* bratwurst cuit* braise* roti* mijote* fume* asado asada cocid* guisad* estofad* ahumad* पका पकी भुना`
)

// Allergens are what a name, or a list of allergens, speaks of, each once, in the order of the list above.
func Allergens(name string) (out []string) {
	said := tokens(name)
	plant := anyOf(said, plants)
	for _, x := range words {
		if plant && (x.allergen == Milk || x.allergen == Egg) || slices.Contains(out, x.allergen) {
			continue
		}
		if anyOf(said, x.words) || slices.Contains(said, x.allergen) {
			out = append(out, x.allergen)
		}
	}
	return out
}

// Unsaid are the allergens a filling's name speaks of that its list leaves out. A list in any of the languages is
// understood.
func Unsaid(name, list string) (out []string) {
	listed := Allergens(list)
	for _, a := range Allergens(name) {
		if !slices.Contains(listed, a) {
			out = append(out, a)
		}
	}
	return out
}

// SoundsRaw says whether a name speaks of something that goes in raw.
func SoundsRaw(name string) bool {
	said := tokens(name)
	return anyOf(said, raw) && !anyOf(said, cooked)
}

// anyOf says whether any of what is said is among the words of a list.
func anyOf(said []string, list string) bool {
	for _, w := range strings.Fields(list) {
		for _, s := range said {
			head, begins := strings.CutSuffix(w, "*")
			tail, ends := strings.CutPrefix(w, "*")
			if s == w || begins && strings.HasPrefix(s, head) || ends && strings.HasSuffix(s, tail) {
				return true
			}
		}
	}
	return false
}

// tokens are the words of a name in small letters without marks.
func tokens(name string) []string {
	return strings.FieldsFunc(measure.Plain(name), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.Is(unicode.Mn, r) && !unicode.Is(unicode.Mc, r)
	})
}
