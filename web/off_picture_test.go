package web_test

import (
	"image"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func somePicture(t *testing.T) string {
	path := filepath.Join(t.TempDir(), "label.png")
	file, err := os.Create(path)
	require.NoError(t, err)
	require.NoError(t, png.Encode(file, image.NewGray(image.Rect(0, 0, 800, 400))))
	require.NoError(t, file.Close())
	return path
}

// TestMeasureOffAPicture with the pointer and with keys: two presses on what is known, two on what
// is wanted; another wanted length is one press away from the last.
func TestMeasureOffAPicture(t *testing.T) {
	t.Parallel()
	v, _ := serve(t)
	defer v.stop()
	p := somebody(t, "http://"+v.addr)
	p.open("/off-picture")
	p.find("#off-file").MustSetFiles(somePicture(t))
	require.True(t, p.until(`() => document.querySelector('.off-stage img').naturalWidth === 800`))
	says := func(words string) {
		assert.True(t, p.until(`(w) => document.querySelector('.off-says').textContent.includes(w)`, words), words)
	}
	box := p.find(".off-stage img").MustShape().Box()
	press := func(x, y float64) {
		require.NoError(t, p.page.Mouse.MoveTo(proto.NewPoint(box.X+x*box.Width, box.Y+y*box.Height)))
		require.NoError(t, p.page.Mouse.Click(proto.InputMouseButtonLeft, 1))
	}
	press(0.25, 0.5)
	says("Press its other end.")
	press(0.5, 0.5)
	says("Say how long that is.")
	p.find("#off-known").MustInput("nonsense")
	press(0.25, 0.25)
	press(0.75, 0.25)
	says("How long is what you know?")
	p.find("#off-known").MustSelectAllText().MustInput("100 mm")
	says("200 mm ± ")
	p.find(".off-frame").MustFocus()
	p.page.Keyboard.MustType(input.Enter)
	says("Press its other end.")
	for range 10 {
		p.page.KeyActions().Press(input.ShiftLeft).Type(input.ArrowLeft).MustDo()
	}
	p.page.Keyboard.MustType(input.Enter)
	says(" mm ± ")
}

// TestAPictureStandsBesideWhatIsTyped, and stays there when the run is added.
func TestAPictureStandsBesideWhatIsTyped(t *testing.T) {
	t.Parallel()
	v, _ := serve(t)
	defer v.stop()
	p := somebody(t, "http://"+v.addr)
	p.open("/rigs/1/proof")
	p.page.MustEval(`() => { document.querySelector('#add-run').open = true }`)
	p.find("#beside-run input").MustSetFiles(somePicture(t))
	stands := `() => document.querySelector('#beside-run img').naturalWidth === 800`
	require.True(t, p.until(stands))
	p.find("#add-run input[name=average_hz]").MustInput("88")
	p.find("#add-run button.strong").MustClick()
	require.True(t, p.until(`() => document.body.textContent.includes('88')`))
	p.settle()
	assert.True(t, p.until(stands), "it is there for the next")
}
