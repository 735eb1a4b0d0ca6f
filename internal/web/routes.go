package web

import (
	"net/http"

	"github.com/gin-gonic/gin"
)

// routes lists every address Hollen answers.
func (s *Server) routes(e *gin.Engine) {
	e.GET("/healthz", s.alive)
	e.GET("/readyz", s.ready)
	e.GET("/static/*path", gin.WrapH(serveStatic()))
	e.HEAD("/static/*path", gin.WrapH(serveStatic()))

	e.GET("/sign-in", s.openSign) // where accounts are asked for
	e.POST("/sign-in", s.sign)
	e.POST("/sign-out", s.signOut)
	e.POST("/lock", s.lock) // until the PIN is typed
	e.GET("/unlock", s.openUnlock)
	e.POST("/unlock", s.unlock)
	e.GET("/first/:token", s.openFirst) // makes the first account
	e.POST("/first/:token", s.makeFirst)
	e.GET("/accounts", s.openAccounts) // and who did what
	e.POST("/accounts", s.changeAccounts)
	e.GET("/account", s.openOwn) // one's own
	e.POST("/account", s.changeOwn)

	e.GET("/", s.listBatches)
	e.POST("/units", s.chooseUnits) // the other system, remembered in the browser

	e.GET("/recipe", s.openRecipe)
	e.POST("/recipe", s.checkRecipe)        // reads it, keeps nothing
	e.POST("/recipe/batch", s.weighRecipe)  // makes the batch weighed to its aim
	e.POST("/recipe/written", s.keepRecipe) // makes it at its word

	e.GET("/compare", s.compare) // two batches, or two days of one

	e.GET(importPath, s.openImport)
	e.POST(importPath, s.previewImport)      // says what it would do, does nothing
	e.POST(importPath+"/take", s.takeImport) // does it

	e.GET("/cabinet", s.openCabinet)
	e.GET("/cabinet/export.json", s.exportCabinet)
	e.GET("/cabinet/:shelf/export.json", s.exportShelf) // what the workshop keeps on it
	e.GET("/cabinet/house", s.openHouse)                // what new batches start from
	e.POST("/cabinet/house", s.saveHouse)
	e.GET("/backup", s.downloadBackup)    // everything, one file
	e.POST("/backup", s.backUp)           // one of the nightly ones, now
	e.GET("/cabinet/:shelf", s.openShelf) // flours, lots, eggs, additions, powders
	e.GET("/cabinet/:shelf/new", s.newThing)
	e.GET("/cabinet/:shelf/:id", s.editThing)
	e.GET("/cabinet/:shelf/:id/calibrate", s.openCalibrate) // of a machine
	e.POST("/cabinet/:shelf/:id/calibrate", s.calibrate)    // fits, and keeps when asked
	e.POST("/cabinet/:shelf", s.saveThing)                  // keeps one, new or not
	e.POST("/cabinet/:shelf/:id/retire", s.retireThing)
	e.POST("/cabinet/:shelf/:id/restore", s.restoreThing)

	e.GET("/rooms", s.listRooms)
	e.POST("/rooms", s.saveRoom) // keeps one, new or not
	e.POST("/rooms/:id/delete", s.deleteRoom)

	e.GET("/batches/new", s.newBatch)
	e.POST("/batches", s.createBatch)

	e.GET("/batches/:id", s.openBatch)
	e.GET("/batches/:id/work", s.backToBatch)                 // a page that was worked out by POST, asked for again
	e.POST("/batches/:id/work", s.workBatch)                  // works the form out, saves nothing
	e.GET("/batches/:id/edits", s.editsOf)                    // the same, over a socket that stays open
	e.GET("/batches/:id/save", s.backToBatch)                 // likewise
	e.POST("/batches/:id/keep/:of", s.keepWay)                // keeps a way of working in the cabinet
	e.POST("/batches/:id/save", s.saveBatch)                  // saves the form as the next version
	e.GET("/batches/:id/versions", s.listVersions)            // every one that was saved
	e.GET("/batches/:id/versions/:version", s.openVersion)    // as it was; saving makes it the newest
	e.POST("/batches/:id/versions/:version/take", s.takeBack) // saves it once more
	e.GET("/batches/:id/again", s.askAgain)                   // for which day, and from what
	e.POST("/batches/:id/again", s.askAgain)
	e.GET("/batches/:id/duplicate", s.backToBatch)
	e.POST("/batches/:id/duplicate", s.duplicateBatch)
	e.POST("/batches/:id/partner", s.partnerBatch) // makes a second dough for it
	e.POST("/batches/:id/part", s.partBatch)       // ends the link; both stay
	e.POST("/batches/:id/delete", s.deleteBatch)
	e.POST("/batches/:id/restore", s.restoreBatch)
	e.GET("/batches/:id/request.json", s.downloadRequest)  // as saved
	e.POST("/batches/:id/request.json", s.downloadRequest) // as the form stands
	e.GET("/batches/:id/sheet", s.showSheet)               // for the bench, printed
	e.POST("/batches/:id/sheet", s.showSheet)
	e.GET("/batches/:id/label", s.showLabel)
	e.POST("/batches/:id/label", s.showLabel)
	e.GET("/batches/:id/cut.svg", s.downloadCut) // in mm, true to scale
	e.POST("/batches/:id/cut.svg", s.downloadCut)
	e.GET("/batches/:id/beside/:what", s.showBeside) // by another tool, or as worked out
	e.POST("/batches/:id/beside/:what", s.showBeside)
	e.GET("/batches/:id/ladder.svg", s.downloadLadder)
	e.POST("/batches/:id/ladder.svg", s.downloadLadder)
	e.GET("/batches/:id/recipe.json", s.downloadRecipe) // schema.org JSON-LD
	e.POST("/batches/:id/recipe.json", s.downloadRecipe)
	e.GET("/batches/:id/plan.json", s.downloadPlan)
	e.POST("/batches/:id/plan.json", s.downloadPlan)

	e.POST("/batches/:id/bench", s.beginMaking)  // as its form stands
	e.GET("/batches/:id/makings", s.listMakings) // each time it was made
	e.GET("/bench/:id", s.showBench)             // a making, step by step
	e.GET("/bench/:id/line", s.benchLine)        // its taps and news, over a socket
	e.POST("/bench/:id/events", s.postEvents)    // the same by request
	e.POST("/bench/:id/tap", s.tapBench)         // without scripts
	e.GET("/bench/:id/made", s.showMade)         // how it went
	e.POST("/bench/:id/again", s.beginAgain)     // once more, as it was begun
	e.GET("/bench/:id/screens", s.showScreens)   // its address, for another device
	e.GET("/batches/:id/log", s.openLog)         // made without the bench
	e.POST("/batches/:id/log", s.saveLog)
	e.GET("/bench/:id/beside", s.showBesideMade) // two of them side by side
	e.POST("/bench/:id/pictures", s.addPicture)  // a JPEG, small
	e.GET("/bench/:id/pictures/:n", s.showPicture)
	e.POST("/bench/:id/pictures/:n/remove", s.removePicture)
	e.GET("/bench/:id/log", s.openMadeLog) // more of a making
	e.POST("/bench/:id/log", s.saveMadeLog)
	e.GET("/bench/:id/made.json", s.downloadMadeJSON)
	e.GET("/bench/:id/made.csv", s.downloadMadeCSV)

	e.GET("/days", s.listDays)
	e.GET("/days/:date", s.openDay) // who does what when, and how it stands
	e.POST("/days/:date", s.changeDay)
	e.GET("/days/:date/stamp", s.stampDay) // whether it has moved
	e.GET("/days/:date/orders", s.openOrders)
	e.POST("/days/:date/orders", s.changeOrders)
	e.GET("/days/:date/orders.csv", s.downloadOrders) // as they are read again
	e.GET("/days/:date/wall", s.showWall)             // the list by the clock, printed
	e.GET("/days/:date/now", s.showPhone)             // now, next, then
	e.GET("/days/:date/what-if", s.besideDay)         // the same day with something more
	e.GET("/days/:date/ways", s.showWays)             // out of danger
	e.GET("/days/:date/set-out", s.setOut)            // what it needs
	e.GET("/days/:date/day.json", s.downloadDay)      //
	e.GET("/days/:date/day.ics", s.downloadCalendar)
	e.GET("/orders/week", s.openWeek) // every week
	e.POST("/orders/week", s.changeWeek)

	e.GET("/log", s.showLog)                // what was made, by day and by what is looked for
	e.GET("/log.csv", s.downloadLogCSV)     // the same, a making a line
	e.GET("/log.json", s.downloadLogJSON)   //
	e.GET("/log/ledger", s.showLedger)      // what went in and what came out
	e.GET("/log/learned", s.showLearned)    // what it has learned, with what stands behind it
	e.POST("/log/learned", s.changeLearned) // leaves one out, switches off, begins anew

	e.POST("/devices/:name/readings", s.takeReadings) // of a scale or a room sensor, by its token

	e.NoRoute(func(c *gin.Context) {
		s.fail(c, http.StatusNotFound, "There is nothing at this address.", "It may have been typed wrong, or moved.")
	})
	e.NoMethod(func(c *gin.Context) {
		s.fail(c, http.StatusMethodNotAllowed, "That cannot be done at this address.", "")
	})
}
