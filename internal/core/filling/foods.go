package filling

import (
	"fmt"
	"strings"
)

// Food is what 100 g of something are made of, g. Energy follows from it.
type Food struct {
	Fat     float64 `json:"fat"`
	Carb    float64 `json:"carbohydrate"` // without fibre
	Protein float64 `json:"protein"`
	Salt    float64 `json:"salt"`
}

// The energy of a gram of fat, and of carbohydrate or protein: kcal and kJ. Source: the factors food authorities set.
const (
	fatKcal, leanKcal = 9, 4
	fatKJ, leanKJ     = 37, 17
)

// Kcal is its energy in 100 g, kcal.
func (f Food) Kcal() float64 { return fatKcal*f.Fat + leanKcal*(f.Carb+f.Protein) }

// KJ is its energy in 100 g, kJ.
func (f Food) KJ() float64 { return fatKJ*f.Fat + leanKJ*(f.Carb+f.Protein) }

// And is f with so much more of x, times what x says.
func (f Food) And(x Food, times float64) Food {
	return Food{f.Fat + times*x.Fat, f.Carb + times*x.Carb, f.Protein + times*x.Protein, f.Salt + times*x.Salt}
}

func (f Food) check() error {
	for _, x := range []float64{f.Fat, f.Carb, f.Protein, f.Salt} {
		if !(x >= 0 && x <= 100) {
			return fmt.Errorf("in 100 g: %.4g g; 0 to 100 is allowed", x)
		}
	}
	if sum := f.Fat + f.Carb + f.Protein + f.Salt; sum > 100.5 {
		return fmt.Errorf("in 100 g: %.4g g in all; 100 is the most", sum)
	}
	return nil
}

// foods are what fillings are made of most, in 100 g of what is eaten. What differs much from one maker to the next, as
// minced meat, sausage and hard sheep's cheese do, is not here: its pack says it. Source: published food composition
// tables, rounded.
var foods = []struct {
	words string
	Food
	not string // words by which the row says nothing of it
}{
	{"ricotta", Food{11, 3.5, 9, .25}, ""},
	{"mascarpone", Food{44, 4, 5, .1}, ""},
	{"mozzarella", Food{18, 1.5, 18, .5}, ""},
	{"parmesan* parmigian* grana", Food{29, 0, 33, 1.6}, ""},
	{"gorgonzola", Food{27, 1, 19, 1.8}, ""},
	{"quark topfen", Food{.3, 4, 12, .1}, ""},
	{"butter burro beurre mantequilla makhan मक्खन", Food{82, .7, .7, .02}, ""},
	{"cream panna rahm sahne creme crema", Food{33, 3, 2.2, .1}, ""},
	{"milk latte milch lait leche doodh दूध", Food{3.6, 4.8, 3.4, .1}, ""},
	{"egg eggs uovo uova ei eier oeuf oeufs œuf œufs huevo huevos anda ande अंडा अंडे", Food{9.5, .7, 12.6, .36},
		"yolk* tuorl* dotter eigelb yema* jaune* white whites"},
	{"yolk yolks tuorlo tuorli eigelb dotter yema yemas", Food{26.5, 3.6, 15.9, .12}, ""},
	{"breadcrumb breadcrumbs crumb crumbs pangrattato semmelbrosel brosel chapelure", Food{4, 70, 12.5, 1.3}, "fresh"},
	{"flour farina mehl farine harina maida मैदा", Food{1, 71, 10.5, 0}, ""},
	{"potato potatoes patata patate kartoffel kartoffeln aloo आलू", Food{.1, 17, 2, 0}, ""},
	{"pumpkin squash butternut zucca kurbis potiron courge calabaza kaddu कद्दू", Food{.2, 6, 1, 0}, ""},
	{"spinach spinaci spinat epinard epinards espinaca espinacas palak पालक", Food{.4, 1.5, 2.9, .15}, ""},
	{"chard bietola bietole mangold blette blettes acelga acelgas", Food{.2, 2, 1.8, .5}, ""},
	{"nettle nettles ortica ortiche brennnessel brennnesseln ortie orties", Food{.1, .6, 2.7, 0}, ""},
	{"mushroom mushrooms fungo funghi pilz pilze champignon champignons porcini seta setas", Food{.4, 2, 3, .02}, ""},
	{"onion onions cipolla cipolle zwiebel zwiebeln oignon oignons cebolla cebollas pyaz प्याज", Food{.1, 7, 1.1, 0},
		""},
	{"shallot shallots scalogno scalogni schalotte schalotten echalote echalotes", Food{.1, 12, 2, 0}, ""},
	{"garlic aglio knoblauch ail ajo lahsun लहसुन", Food{.4, 28, 6, .03}, ""},
	{"leek leeks porro porri lauch poireau poireaux puerro puerros", Food{.3, 6, 1.5, .02}, ""},
	{"carrot carrots carota carote karotte karotten mohre mohren carotte carottes zanahoria gajar गाजर",
		Food{.2, 7, .9, .15}, ""},
	{"celery celeriac sedano sellerie celeri apio", Food{.2, 2, .9, .2}, ""},
	{"beet beetroot barbabietola bete betterave remolacha", Food{.2, 7, 1.6, .2}, ""},
	{"tomato tomatoes pomodoro pomodori tomate tomaten tomates tamatar टमाटर", Food{.2, 3, .9, .01}, ""},
	{"artichoke artichokes carciofo carciofi artischocke artischocken artichaut artichauts", Food{.2, 3, 3.3, .2}, ""},
	{"asparagus asparago asparagi spargel asperge asperges esparrago esparragos", Food{.1, 2, 2.2, 0}, ""},
	{"pea peas pisello piselli erbse erbsen guisante guisantes matar मटर", Food{.5, 9, 5.5, 0}, ""},
	{"aubergine eggplant melanzana melanzane berenjena baingan बैंगन", Food{.2, 3, 1, 0}, ""},
	{"chestnut chestnuts castagna castagne marone maronen chataigne chataignes castana", Food{2, 36, 2.5, 0}, ""},
	{"lemon limone zitrone citron limon nimbu नींबू", Food{.3, 3, 1, 0}, ""},
	{"parsley prezzemolo petersilie persil perejil", Food{.8, 3, 3.6, .1}, ""},
	{"basil basilico basilikum basilic albahaca", Food{.6, 1, 3.2, 0}, ""},
	{"sage salvia salbei sauge", Food{13, 21, 11, 0}, ""},
	{"thyme timo thymian thym tomillo", Food{1.7, 10, 5.6, 0}, ""},
	{"chive chives schnittlauch ciboulette cebollino", Food{.7, 2, 3.3, 0}, ""},
	{"dill aneto aneth eneldo", Food{1.1, 5, 3.5, .15}, ""},
	{"nutmeg muskat muscade", Food{36, 28, 6, .04}, ""},
	{"pepper pepe pfeffer poivre pimienta", Food{3, 38, 10, .05}, ""},
	{"salt sale salz sel sal namak नमक", Food{0, 0, 0, 100}, ""},
	{"water acqua wasser eau agua pani पानी", Food{}, ""},
	{"oil olio ol huile aceite tel तेल", Food{100, 0, 0, 0}, ""},
	{"sugar zucchero zucker sucre azucar", Food{0, 100, 0, 0}, ""},
	{"honey miele honig miel shahad शहद", Food{0, 80, .4, 0}, ""},
	{"almond almonds mandorla mandorle mandel mandeln amande amandes almendra almendras badam बादाम",
		Food{51, 8, 21, 0}, ""},
	{"walnut walnuts noce noci walnuss walnusse noix nuez nueces akhrot अखरोट", Food{65, 7, 15, 0}, ""},
	{"hazelnut hazelnuts nocciola nocciole haselnuss haselnusse noisette noisettes avellana avellanas",
		Food{61, 7, 15, 0}, ""},
	{"pistachio pistachios pistacchio pistacchi pistazie pistazien pista पिस्ता", Food{45, 17, 20, 0}, ""},
	{"salmon salmone lachs saumon", Food{13, 0, 20, .1}, ""},
	{"cod merluzzo kabeljau cabillaud", Food{.7, 0, 18, .2}, ""},
	{"prawn prawns shrimp shrimps gambero gamberi garnele garnelen crevette crevettes gamba gambas", Food{1, .5, 18,
		.6}, ""},
	{"crab granchio krabbe krabben crabe cangrejo", Food{1, .5, 18, .9}, ""},
	{"chickpea chickpeas ceci kichererbse kichererbsen garbanzo garbanzos", Food{2.5, 18, 8, 0}, ""},
	{"lentil lentils lenticchia lenticchie linse linsen lentille lentilles dal दाल", Food{.4, 17, 9, 0}, ""},
	{"tofu", Food{7, 1.5, 12, .02}, ""},
}

// another are words that make of a food another one: a row says nothing of that.
const another = `cheese* formaggi* *kase kase fromage* queso* sheep* goat* buffalo* bufala pecora capra
	ziege* schaf* brebis chevre bean beans bohne* fagiol* chick starch stark* flake* ketchup passata
	concentrate* concentrat* jam
	marmalade jelly dry double single sour clotted bread brot pane pain pan soft smoked salted salty dried
	powder powdered fried roast* candied pickled salat* affumicat* secch* fritt* canned tinned bell chilli sweet
	condensed cooking vegan* plant* light lean low* peanut coconut almond* oat oats soya soy rice nut
	gerauchert* getrocknet* trocken* fume* seche* ahumad* seco* sauce broth stock brodo fond paste`

// FoodOf is what tables say of what a name names; false where no row or several do, or where the name says that it is
// something else again: "smoked ricotta", "salted lemon". "Almonds, salt" is two things, and none of them is taken.
func FoodOf(name string) (food Food, known bool) {
	said := tokens(strings.ReplaceAll(strings.ToLower(name), "bread crumb", "breadcrumb"))
	for _, row := range foods {
		if !anyOf(said, row.words) || anyOf(said, row.not) {
			continue
		}
		if known {
			return Food{}, false
		}
		food, known = row.Food, true
		if anyOf(except(said, row.words), another) {
			return Food{}, false
		}
	}
	return food, known
}

// except are the words that are not among those of a list.
func except(said []string, list string) (out []string) {
	for _, s := range said {
		if !anyOf([]string{s}, list) {
			out = append(out, s)
		}
	}
	return out
}

// water says whether a line is plain water, which has no price.
func water(name string) bool {
	said := tokens(name)
	return len(said) == 1 && strings.Contains(" water acqua wasser eau agua पानी ", " "+said[0]+" ")
}
