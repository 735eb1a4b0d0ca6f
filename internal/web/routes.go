package web

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// routes lists every address Hollen answers.
func (s *Server) routes(e *gin.Engine) {
	get := func(path string, p page) { e.GET(path, s.answers(p)) }
	post := func(path string, p page) { e.POST(path, s.answers(p)) }
	e.GET("/healthz", s.alive)
	e.GET("/readyz", s.ready)
	e.GET("/static/*path", gin.WrapH(serveStatic()))
	e.HEAD("/static/*path", gin.WrapH(serveStatic()))

	get("/sign-in", s.openSign) // where accounts are asked for
	post("/sign-in", s.sign)
	post("/sign-out", s.signOut)
	post("/lock", s.lock) // until the PIN is typed
	get("/unlock", s.openUnlock)
	post("/unlock", s.unlock)
	get("/first/:token", s.openFirst) // makes the first account
	post("/first/:token", s.makeFirst)
	get("/accounts", s.openAccounts) // and who did what
	post("/accounts", s.changeAccounts)
	get("/account", s.openOwn) // one's own
	post("/account", s.changeOwn)

	get("/", s.listBatches)
	post("/units", s.chooseUnits) // the other system, remembered in the browser

	get("/recipe", s.openRecipe)
	post("/recipe", s.checkRecipe)        // reads it, keeps nothing
	post("/recipe/batch", s.weighRecipe)  // makes the batch weighed to its aim
	post("/recipe/written", s.keepRecipe) // makes it at its word

	get("/compare", s.compare) // two batches, or two days of one

	get(importPath, s.openImport)
	post(importPath, s.previewImport)      // says what it would do, does nothing
	post(importPath+"/take", s.takeImport) // does it

	get("/cabinet", s.openCabinet)
	get("/cabinet/export.json", s.exportCabinet)
	get("/cabinet/:shelf/export.json", s.exportShelf) // what the workshop keeps on it
	get("/cabinet/house", s.openHouse)                // what new batches start from
	post("/cabinet/house", s.saveHouse)
	get("/backup", s.downloadBackup)    // everything, one file
	post("/backup", s.backUp)           // one of the nightly ones, now
	get("/cabinet/:shelf", s.openShelf) // flours, lots, eggs, additions, powders
	get("/cabinet/:shelf/new", s.newThing)
	get("/cabinet/:shelf/:id", s.editThing)
	get("/cabinet/:shelf/:id/calibrate", s.openCalibrate) // of a machine
	post("/cabinet/:shelf/:id/calibrate", s.calibrate)    // fits, and keeps when asked
	post("/cabinet/:shelf", s.saveThing)                  // keeps one, new or not
	post("/cabinet/:shelf/:id/retire", s.retireThing)
	post("/cabinet/:shelf/:id/restore", s.restoreThing)

	get("/rooms", s.listRooms)
	post("/rooms", s.saveRoom) // keeps one, new or not
	post("/rooms/:id/delete", s.deleteRoom)

	get("/batches/new", s.newBatch)
	post("/batches", s.createBatch)

	get("/batches/:id", s.openBatch)
	get("/batches/:id/work", s.backToBatch)                 // a page that was worked out by POST, asked for again
	post("/batches/:id/work", s.workBatch)                  // works the form out, saves nothing
	get("/batches/:id/edits", s.editsOf)                    // the same, over a socket that stays open
	get("/batches/:id/save", s.backToBatch)                 // likewise
	post("/batches/:id/keep/:of", s.keepWay)                // keeps a way of working in the cabinet
	post("/batches/:id/save", s.saveBatch)                  // saves the form as the next version
	get("/batches/:id/versions", s.listVersions)            // every one that was saved
	get("/batches/:id/versions/:version", s.openVersion)    // as it was; saving makes it the newest
	post("/batches/:id/versions/:version/take", s.takeBack) // saves it once more
	get("/batches/:id/again", s.askAgain)                   // for which day, and from what
	post("/batches/:id/again", s.askAgain)
	get("/batches/:id/duplicate", s.backToBatch)
	post("/batches/:id/duplicate", s.duplicateBatch)
	post("/batches/:id/partner", s.partnerBatch) // makes a second dough for it
	post("/batches/:id/part", s.partBatch)       // ends the link; both stay
	post("/batches/:id/delete", s.deleteBatch)
	post("/batches/:id/restore", s.restoreBatch)
	get("/batches/:id/request.json", s.downloadRequest)  // as saved
	post("/batches/:id/request.json", s.downloadRequest) // as the form stands
	get("/batches/:id/sheet", s.showSheet)               // for the bench, printed
	post("/batches/:id/sheet", s.showSheet)
	get("/batches/:id/label", s.showLabel)
	post("/batches/:id/label", s.showLabel)
	get("/batches/:id/cut.svg", s.downloadCut) // in mm, true to scale
	post("/batches/:id/cut.svg", s.downloadCut)
	get("/batches/:id/beside/:what", s.showBeside) // by another tool, or as worked out
	post("/batches/:id/beside/:what", s.showBeside)
	get("/batches/:id/ladder.svg", s.downloadLadder)
	post("/batches/:id/ladder.svg", s.downloadLadder)
	get("/batches/:id/recipe.json", s.downloadRecipe) // schema.org JSON-LD
	post("/batches/:id/recipe.json", s.downloadRecipe)
	get("/batches/:id/plan.json", s.downloadPlan)
	post("/batches/:id/plan.json", s.downloadPlan)

	post("/batches/:id/bench", s.beginMaking)  // as its form stands
	get("/batches/:id/makings", s.listMakings) // each time it was made
	get("/bench/:id", s.showBench)             // a making, step by step
	get("/bench/:id/line", s.benchLine)        // its taps and news, over a socket
	post("/bench/:id/events", s.postEvents)    // the same by request
	post("/bench/:id/tap", s.tapBench)         // without scripts
	get("/bench/:id/made", s.showMade)         // how it went
	post("/bench/:id/again", s.beginAgain)     // once more, as it was begun
	get("/bench/:id/screens", s.showScreens)   // its address, for another device
	get("/batches/:id/log", s.openLog)         // made without the bench
	post("/batches/:id/log", s.saveLog)
	get("/bench/:id/beside", s.showBesideMade) // two of them side by side
	post("/bench/:id/pictures", s.addPicture)  // a JPEG, small
	get("/bench/:id/pictures/:n", s.showPicture)
	post("/bench/:id/pictures/:n/remove", s.removePicture)
	get("/bench/:id/log", s.openMadeLog) // more of a making
	post("/bench/:id/log", s.saveMadeLog)
	get("/bench/:id/made.json", s.downloadMadeJSON)
	get("/bench/:id/made.csv", s.downloadMadeCSV)

	get("/days", s.listDays)
	get("/days/:date", s.openDay) // who does what when, and how it stands
	post("/days/:date", s.changeDay)
	get("/days/:date/stamp", s.stampDay) // whether it has moved
	get("/days/:date/orders", s.openOrders)
	post("/days/:date/orders", s.changeOrders)
	get("/days/:date/orders.csv", s.downloadOrders) // as they are read again
	get("/days/:date/wall", s.showWall)             // the list by the clock, printed
	get("/days/:date/now", s.showPhone)             // now, next, then
	get("/days/:date/what-if", s.besideDay)         // the same day with something more
	get("/days/:date/ways", s.showWays)             // out of danger
	get("/days/:date/set-out", s.setOut)            // what it needs
	get("/days/:date/day.json", s.downloadDay)      //
	get("/days/:date/day.ics", s.downloadCalendar)
	get("/orders/week", s.openWeek) // every week
	post("/orders/week", s.changeWeek)

	get("/log", s.showLog)                // what was made, by day and by what is looked for
	get("/log.csv", s.downloadLogCSV)     // the same, a making a line
	get("/log.json", s.downloadLogJSON)   //
	get("/log/ledger", s.showLedger)      // what went in and what came out
	get("/log/learned", s.showLearned)    // what it has learned, with what stands behind it
	post("/log/learned", s.changeLearned) // leaves one out, switches off, begins anew

	post("/devices/:name/readings", s.takeReadings) // of a scale or a room sensor, by its token

	e.NoRoute(func(c *gin.Context) {
		s.fail(s.visit(c), http.StatusNotFound, "There is nothing at this address.", "It may have been typed wrong, or moved.")
	})
	e.NoMethod(func(c *gin.Context) {
		s.fail(s.visit(c), http.StatusMethodNotAllowed, "That cannot be done at this address.", "")
	})
}
