package pairing

import (
	"fmt"
	"strings"

	"rsc.io/qr"
)

// quiet is the margin of a code, in its squares (ISO/IEC 18004: four).
const quiet = 4

// Drawn is a text as a QR code: the length of its side with its margin, and the path of its dark
// squares.
type Drawn struct {
	Side int
	Path string
}

// Draw makes a code to be drawn.
func Draw(text string) (Drawn, error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return Drawn{}, fmt.Errorf("drawing the code: %w", err)
	}
	var path strings.Builder
	for y := range code.Size {
		for x := range code.Size {
			if code.Black(x, y) {
				fmt.Fprintf(&path, "M%d %dh1v1h-1z", x+quiet, y+quiet)
			}
		}
	}
	return Drawn{code.Size + 2*quiet, path.String()}, nil
}

// Print makes a code for a terminal, two rows of squares to a line: light on a dark ground, as
// most terminals are.
func Print(text string) (string, error) {
	code, err := qr.Encode(text, qr.M)
	if err != nil {
		return "", fmt.Errorf("drawing the code: %w", err)
	}
	light := func(x, y int) bool { return !code.Black(x, y) }
	var out strings.Builder
	for y := -2; y < code.Size+2; y += 2 {
		for x := -2; x < code.Size+2; x++ {
			switch above, below := light(x, y), light(x, y+1); {
			case above && below:
				out.WriteRune('█')
			case above:
				out.WriteRune('▀')
			case below:
				out.WriteRune('▄')
			default:
				out.WriteRune(' ')
			}
		}
		out.WriteByte('\n')
	}
	return out.String(), nil
}
