package web

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"hollen/internal/web/cabinet"
	"hollen/internal/web/page"
	"hollen/internal/web/static"
)

// routes lists every address Hollen answers.
func (s *Server) routes(e *gin.Engine) {
	get := func(path string, p page.Page) { e.GET(path, s.Answers(p)) }
	post := func(path string, p page.Page) { e.POST(path, s.Answers(p)) }
	e.GET("/healthz", s.alive)
	e.GET("/readyz", s.ready)
	e.GET("/static/*path", gin.WrapH(static.Serve()))
	e.HEAD("/static/*path", gin.WrapH(static.Serve()))

	get("/sign-in", s.sign.OpenSign) // where accounts are asked for
	post("/sign-in", s.sign.Sign)
	post("/sign-out", s.sign.SignOut)
	post("/lock", s.sign.Lock) // until the PIN is typed
	get("/unlock", s.sign.OpenUnlock)
	post("/unlock", s.sign.Unlock)
	get("/first/:token", s.sign.OpenFirst) // makes the first account
	post("/first/:token", s.sign.MakeFirst)
	get("/accounts", s.sign.OpenAccounts) // and who did what
	post("/accounts", s.sign.ChangeAccounts)
	get("/account", s.sign.OpenOwn) // one's own
	post("/account", s.sign.ChangeOwn)

	get("/", s.batch.ShowToday) // a question, its answer, and what goes on
	get("/batches", s.batch.ListBatches)
	post("/units", s.ChooseUnits) // the other system, remembered in the browser

	post("/guide", s.PutGuideAway)        // what is said at the first of a thing
	get("/help", s.help.ShowHelp)         // what is on a page
	get("/glossary", s.help.ShowGlossary) // the words of the craft

	get("/recipe", s.recipetext.OpenRecipe)
	post("/recipe", s.recipetext.CheckRecipe)        // reads it, keeps nothing
	post("/recipe/batch", s.recipetext.WeighRecipe)  // makes the batch weighed to its aim
	post("/recipe/written", s.recipetext.KeepRecipe) // makes it at its word

	get("/compare", s.batch.Compare) // two batches, or two days of one

	get(cabinet.ImportPath, s.cabinet.OpenImport)
	post(cabinet.ImportPath, s.cabinet.PreviewImport)      // says what it would do, does nothing
	post(cabinet.ImportPath+"/take", s.cabinet.TakeImport) // does it

	get("/cabinet", s.cabinet.OpenCabinet)
	get("/cabinet/export.json", s.cabinet.ExportCabinet)
	get("/cabinet/:shelf/export.json", s.cabinet.ExportShelf) // what the workshop keeps on it
	get("/cabinet/house", s.cabinet.OpenHouse)                // what new batches start from
	post("/cabinet/house", s.cabinet.SaveHouse)
	get("/backup", s.cabinet.DownloadBackup)    // everything, one file
	post("/backup", s.cabinet.BackUp)           // one of the nightly ones, now
	get("/cabinet/:shelf", s.cabinet.OpenShelf) // flours, lots, eggs, additions, powders
	get("/cabinet/:shelf/new", s.cabinet.NewThing)
	get("/cabinet/:shelf/:id", s.cabinet.EditThing)
	get("/cabinet/:shelf/:id/calibrate", s.cabinet.OpenCalibrate) // of a machine
	post("/cabinet/:shelf/:id/calibrate", s.cabinet.Calibrate)    // fits, and keeps when asked
	get("/cabinet/:shelf/:id/measure", s.cabinet.OpenSack)        // of a lot: what it holds, and what would help
	post("/cabinet/:shelf/:id/measure", s.cabinet.MeasureSack)    // its weight, a sample dried, where it went
	get("/cabinet/:shelf/:id/doughs", s.cabinet.OpenDoughs)       // three small ones of a lot
	post("/cabinet/:shelf/:id/doughs", s.cabinet.SayDoughs)
	post("/cabinet/:shelf", s.cabinet.SaveThing) // keeps one, new or not
	post("/cabinet/:shelf/:id/retire", s.cabinet.RetireThing)
	post("/cabinet/:shelf/:id/restore", s.cabinet.RestoreThing)

	get("/rooms", s.batch.ListRooms)
	post("/rooms", s.batch.SaveRoom) // keeps one, new or not
	post("/rooms/:id/delete", s.batch.DeleteRoom)

	get("/batches/new", s.batch.NewBatch)
	post("/batches", s.batch.CreateBatch)

	get("/batches/:id", s.batch.OpenBatch)
	get("/batches/:id/work", s.batch.BackToBatch)                 // a page that was worked out by POST, asked for again
	post("/batches/:id/work", s.batch.WorkBatch)                  // works the form out, saves nothing
	get("/batches/:id/edits", s.batch.EditsOf)                    // the same, over a socket that stays open
	get("/batches/:id/save", s.batch.BackToBatch)                 // likewise
	post("/batches/:id/keep/:of", s.batch.KeepWay)                // keeps a way of working in the cabinet
	post("/batches/:id/save", s.batch.SaveBatch)                  // saves the form as the next version
	get("/batches/:id/versions", s.batch.ListVersions)            // every one that was saved
	get("/batches/:id/versions/:version", s.batch.OpenVersion)    // as it was; saving makes it the newest
	post("/batches/:id/versions/:version/take", s.batch.TakeBack) // saves it once more
	get("/batches/:id/again", s.batch.AskAgain)                   // for which day, and from what
	post("/batches/:id/again", s.batch.AskAgain)
	get("/batches/:id/duplicate", s.batch.BackToBatch)
	post("/batches/:id/duplicate", s.batch.DuplicateBatch)
	post("/batches/:id/partner", s.batch.PartnerBatch) // makes a second dough for it
	post("/batches/:id/part", s.batch.PartBatch)       // ends the link; both stay
	post("/batches/:id/delete", s.batch.DeleteBatch)
	post("/batches/:id/restore", s.batch.RestoreBatch)
	get("/batches/:id/request.json", s.batch.DownloadRequest)  // as saved
	post("/batches/:id/request.json", s.batch.DownloadRequest) // as the form stands
	get("/batches/:id/sheet", s.print.ShowSheet)               // for the bench, printed
	post("/batches/:id/sheet", s.print.ShowSheet)
	get("/batches/:id/foretold", s.print.ShowForetold) // to try it by, printed
	post("/batches/:id/foretold", s.print.ShowForetold)
	get("/batches/:id/label", s.print.ShowLabel)
	post("/batches/:id/label", s.print.ShowLabel)
	get("/batches/:id/cut.svg", s.batch.DownloadCut) // in mm, true to scale
	post("/batches/:id/cut.svg", s.batch.DownloadCut)
	get("/batches/:id/beside/:what", s.batch.ShowBeside) // by another tool, or as worked out
	post("/batches/:id/beside/:what", s.batch.ShowBeside)
	get("/batches/:id/ladder.svg", s.batch.DownloadLadder)
	post("/batches/:id/ladder.svg", s.batch.DownloadLadder)
	get("/batches/:id/recipe.json", s.batch.DownloadRecipe) // schema.org JSON-LD
	post("/batches/:id/recipe.json", s.batch.DownloadRecipe)
	get("/batches/:id/plan.json", s.batch.DownloadPlan)
	post("/batches/:id/plan.json", s.batch.DownloadPlan)

	post("/batches/:id/bench", s.batch.BeginMaking) // as its form stands
	get("/batches/:id/makings", s.log.ListMakings)  // each time it was made
	get("/bench/:id", s.bench.ShowBench)            // a making, step by step
	get("/bench/:id/line", s.bench.BenchLine)       // its taps and news, over a socket
	post("/bench/:id/events", s.bench.PostEvents)   // the same by request
	post("/bench/:id/tap", s.bench.TapBench)        // without scripts
	get("/bench/:id/made", s.log.ShowMade)          // how it went
	post("/bench/:id/again", s.bench.BeginAgain)    // once more, as it was begun
	get("/bench/:id/screens", s.bench.ShowScreens)  // its address, for another device
	get("/batches/:id/log", s.log.OpenLog)          // made without the bench
	post("/batches/:id/log", s.log.SaveLog)
	get("/bench/:id/beside", s.log.ShowBesideMade) // two of them side by side
	post("/bench/:id/pictures", s.log.AddPicture)  // a JPEG, small
	get("/bench/:id/pictures/:n", s.log.ShowPicture)
	post("/bench/:id/pictures/:n/remove", s.log.RemovePicture)
	get("/bench/:id/log", s.log.OpenMadeLog) // more of a making
	post("/bench/:id/log", s.log.SaveMadeLog)
	get("/bench/:id/made.json", s.log.DownloadMadeJSON)
	get("/bench/:id/made.csv", s.log.DownloadMadeCSV)

	get("/recipes", s.recipes.ListRecipes)                  // what we make, apart from the day we make it
	post("/recipes", s.batch.KeepQuestion)                  // what is asked, as one
	get("/recipes/recipes.json", s.recipes.DownloadRecipes) // all in one file
	get("/recipes/:id/recipe.json", s.recipes.DownloadRecipe)
	get("/recipes/gather", s.recipes.AskGather) // what was made before there were recipes
	post("/recipes/gather", s.recipes.Gather)
	get("/recipes/:id", s.recipes.ShowRecipe)
	post("/recipes/:id", s.recipes.ChangeRecipe)         // its names
	get("/recipes/:id/compare", s.recipes.CompareRecipe) // beside another, or a version of before
	get("/recipes/:id/stations", s.batch.OpenBatch)      // as a batch is worked out, without its day
	get("/recipes/:id/stations/work", s.batch.BackToBatch)
	post("/recipes/:id/stations/work", s.batch.WorkBatch)
	get("/recipes/:id/stations/edits", s.batch.EditsOf)
	get("/recipes/:id/stations/save", s.batch.BackToBatch)
	post("/recipes/:id/stations/save", s.batch.SaveBatch)
	post("/recipes/:id/make", s.recipes.MakeRecipe)                 // so much, for a day
	post("/recipes/:id/versions/:version/take", s.recipes.TakeBack) // makes it the newest
	post("/recipes/:id/retire", s.recipes.RetireRecipe)
	post("/recipes/:id/restore", s.recipes.RestoreRecipe)
	get("/batches/:id/recipe", s.recipes.AskKeep) // keeps a batch as one
	post("/batches/:id/recipe", s.recipes.KeepRecipe)
	get("/batches/:id/into", s.recipes.ShowInto) // what it has otherwise, into the recipe
	post("/batches/:id/into", s.recipes.TakeInto)
	get("/batches/:id/newer", s.recipes.ShowNewer) // what the recipe changed since
	post("/batches/:id/newer", s.recipes.TakeNewer)

	get("/practice", s.practice.OpenPractice) // the judgement calls, on a dough nobody can see into
	post("/practice", s.practice.BeginPractice)
	post("/practice/forget", s.practice.ForgetPractice)
	post("/practice/log", s.practice.OpenLogToAll)
	get("/practice/lumps", s.practice.ShowLumps) // three to knead, printed
	get("/practice/:id", s.practice.ShowRound)
	post("/practice/:id/act", s.practice.Act)
	post("/practice/:id/open", s.practice.Open) // before it is done
	get("/practice/:id/opened", s.practice.ShowOpened)

	get("/days", s.day.ListDays)
	get("/days/:date", s.day.OpenDay) // who does what when, and how it stands
	post("/days/:date", s.day.ChangeDay)
	get("/days/:date/stamp", s.day.StampDay) // whether it has moved
	get("/days/:date/own", s.day.OpenOwn)    // the room, eggs, hands and lots of all its batches at once
	post("/days/:date/own", s.day.SetOwn)
	get("/days/:date/orders", s.day.OpenOrders)
	post("/days/:date/orders", s.day.ChangeOrders)
	get("/days/:date/orders.csv", s.day.DownloadOrders) // as they are read again
	get("/customers", s.day.ListCustomers)
	get("/customers/card", s.day.ShowCustomer)
	post("/customers/card", s.day.SaveCustomer)
	post("/customers/forget", s.day.ForgetCustomer) // takes a name out everywhere
	get("/days/:date/slips", s.day.ShowSlips)       // one for each customer, printed
	get("/days/:date/wall", s.day.ShowWall)         // the list by the clock, printed
	get("/days/:date/now", s.day.ShowPhone)         // now, next, then
	get("/days/:date/what-if", s.day.BesideDay)     // the same day with something more
	get("/days/:date/ways", s.day.ShowWays)         // out of danger
	get("/days/:date/set-out", s.day.SetOut)        // what it needs
	get("/days/:date/day.json", s.day.DownloadDay)  //
	get("/days/:date/day.ics", s.day.DownloadCalendar)
	get("/orders/week", s.day.OpenWeek) // every week
	post("/orders/week", s.day.ChangeWeek)

	get("/log", s.log.ShowLog)                // what was made, by day and by what is looked for
	get("/log.csv", s.log.DownloadLogCSV)     // the same, a making a line
	get("/log.json", s.log.DownloadLogJSON)   //
	get("/log/ledger", s.log.ShowLedger)      // what went in and what came out
	get("/log/learned", s.log.ShowLearned)    // what it has learned, with what stands behind it
	post("/log/learned", s.log.ChangeLearned) // leaves one out, switches off, begins anew

	post("/devices/:name/readings", s.bench.TakeReadings) // of a scale or a room sensor, by its token

	e.NoRoute(func(c *gin.Context) {
		s.Fail(s.Visit(c), http.StatusNotFound, "There is nothing at this address.",
			"It may have been typed wrong, or moved.")
	})
	e.NoMethod(func(c *gin.Context) {
		s.Fail(s.Visit(c), http.StatusMethodNotAllowed, "That cannot be done at this address.", "")
	})
}
