package e2e

import (
	"os"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/demo"
)

func TestZZ(t *testing.T) {
	base, _ := serve(t)
	br := browser(t)
	b := open(t, br, base, wide, high)
	shot := func(name string) {
		png, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
		if err != nil {
			t.Fatal(err)
		}
		os.WriteFile("/tmp/zz-"+name+".png", png, 0o644)
	}
	b.toBench(demo.Saturday)
	b.button("#knuckles", "Linde")
	b.until("named", "document.querySelector('#maker').textContent === 'Linde'")
	shot("setout")
	to := func(head string) {
		for range 60 {
			if eval[bool](b, "document.querySelector('#head').textContent === '"+head+"'") {
				return
			}
			eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
		}
		t.Fatal(head)
	}
	to("Rest in the room")
	shot("rest")
	b.button("#knuckles", "Try it")
	shot("try")
	b.button("#more-keys", "Close")
	b.button("#knuckles", "More")
	shot("more")
	b.button("#more-keys", "Close")
	to("Piece 1 of 10")
	shot("pass1")
	for range 4 {
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	shot("pass5")
	b.button("#knuckles", "More")
	b.button("#more-keys", "Look at other steps")
	b.button("#knuckles", "Later")
	shot("look")
	b.button("#knuckles", "Back to what is on")
	for range 12 {
		eval[bool](b, again+"([...document.querySelectorAll('#knuckles .btn')].find((x)=>x.textContent==='Piece done')??document.querySelector('"+onward+"')).click(), true))")
	}
	to("Cut")
	shot("cut")
}
