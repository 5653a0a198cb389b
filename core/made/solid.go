package made

import (
	"archive/zip"
	"bufio"
	"cmp"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"

	"kolvan/core/units"
)

// A Solid is a closed surface of triangles, seen from outside counter-clockwise, in
// millimetres.
type Solid struct {
	Name      string
	At        [][3]float64
	Triangles [][3]int
}

// Extrude lifts a simple loop, counter-clockwise, to a height.
func Extrude(name string, loop []Point, height units.Millimetre) (*Solid, error) {
	return ExtrudeRound(name, loop, nil, height)
}

// ExtrudeRound lifts a simple loop with holes, all counter-clockwise, to a height. Each
// hole is joined with the loop by a cut there and back, so that one loop is left.
func ExtrudeRound(name string, loop []Point, holes [][]Point, height units.Millimetre) (*Solid, error) {
	at := append([]Point(nil), loop...)
	rims, joined := [][]int{steps(0, len(loop))}, steps(0, len(loop))
	for _, hole := range holes {
		rim := steps(len(at), len(hole))
		at = append(at, hole...)
		slices.Reverse(rim)
		rims = append(rims, rim)
	}
	// From the hole that reaches furthest: the cut to it meets no other.
	order := slices.Clone(rims[1:])
	slices.SortFunc(order, func(a, b []int) int { return cmp.Compare(furthest(at, b), furthest(at, a)) })
	for _, rim := range order {
		var err error
		if joined, err = bridged(at, joined, rim, order); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
	}
	face, err := earsOf(at, joined)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	s, n := &Solid{Name: name}, len(at)
	for _, z := range []float64{0, float64(height)} {
		for _, p := range at {
			s.At = append(s.At, [3]float64{float64(p.X), float64(p.Y), z})
		}
	}
	for _, rim := range rims {
		for k, i := range rim {
			j := rim[(k+1)%len(rim)]
			s.Triangles = append(s.Triangles, [3]int{i, j, n + j}, [3]int{i, n + j, n + i})
		}
	}
	for _, t := range face {
		s.Triangles = append(s.Triangles, [3]int{t[2], t[1], t[0]}, [3]int{n + t[0], n + t[1], n + t[2]})
	}
	return s, nil
}

func steps(from, count int) []int {
	list := make([]int, count)
	for i := range list {
		list[i] = from + i
	}
	return list
}

func furthest(at []Point, rim []int) (x units.Millimetre) {
	x = at[rim[0]].X
	for _, i := range rim {
		x = max(x, at[i].X)
	}
	return x
}

// bridged takes a hole into a loop by the shortest cut that crosses neither of them nor
// another hole.
func bridged(at []Point, loop, rim []int, holes [][]int) ([]int, error) {
	least, from, to := math.Inf(1), -1, -1
	for i, a := range loop {
		for j, b := range rim {
			long := math.Hypot(float64(at[a].X-at[b].X), float64(at[a].Y-at[b].Y))
			if long < least && opensTo(at, loop, i, at[b]) && !crossesAny(at, a, b, append([][]int{loop}, holes...)) {
				least, from, to = long, i, j
			}
		}
	}
	if from < 0 {
		return nil, errCrossed
	}
	out := append([]int(nil), loop[:from+1]...)
	out = append(out, rim[to:]...)
	out = append(out, rim[:to+1]...)
	return append(out, loop[from:]...), nil
}

// opensTo reports a corner of a loop from which a point lies inward: a corner that comes
// twice looks another way each time.
func opensTo(at []Point, loop []int, i int, p Point) bool {
	a, b, c := around(loop, i)
	left, right := side(at[a], at[b], p), side(at[b], at[c], p)
	if side(at[a], at[b], at[c]) > 0 {
		return left > 0 && right > 0
	}
	return left > 0 || right > 0
}

// crossesAny reports a cut between two corners that passes through a side.
func crossesAny(at []Point, a, b int, rims [][]int) bool {
	for _, rim := range rims {
		for k, i := range rim {
			j := rim[(k+1)%len(rim)]
			if i == a || i == b || j == a || j == b {
				continue
			}
			if side(at[a], at[b], at[i])*side(at[a], at[b], at[j]) <= 0 && side(at[i], at[j], at[a])*side(at[i], at[j], at[b]) <= 0 {
				return true
			}
		}
	}
	return false
}

// Ring is a tube: outer and inner diameter, and height.
func Ring(name string, outer, inner, height units.Millimetre) *Solid {
	const sides = 64
	s := &Solid{Name: name}
	for _, z := range []float64{0, float64(height)} {
		for _, d := range []units.Millimetre{outer, inner} {
			for i := range sides {
				sin, cos := math.Sincos(2 * math.Pi * float64(i) / sides)
				s.At = append(s.At, [3]float64{float64(d) / 2 * cos, float64(d) / 2 * sin, z})
			}
		}
	}
	quad := func(a, b, c, d int) { s.Triangles = append(s.Triangles, [3]int{a, b, c}, [3]int{a, c, d}) }
	for i := range sides {
		j := (i + 1) % sides
		out, in, outUp, inUp := 0, sides, 2*sides, 3*sides
		quad(out+i, out+j, outUp+j, outUp+i)
		quad(in+j, in+i, inUp+i, inUp+j)
		quad(outUp+i, outUp+j, inUp+j, inUp+i)
		quad(out+j, out+i, in+i, in+j)
	}
	return s
}

// earsOf cuts a simple loop, counter-clockwise, into triangles, an ear at a time. Its
// corners are told by their places; one may come twice, where a cut goes there and back.
func earsOf(loop []Point, left []int) (triangles [][3]int, err error) {
	left = slices.Clone(left)
	for len(left) > 3 {
		ear := -1
		for i := range left {
			if isEar(loop, left, i) {
				ear = i
				break
			}
		}
		if ear < 0 {
			return nil, errCrossed
		}
		a, b, c := around(left, ear)
		triangles = append(triangles, [3]int{a, b, c})
		left = append(left[:ear:ear], left[ear+1:]...)
	}
	if side(loop[left[0]], loop[left[1]], loop[left[2]]) <= 0 {
		return nil, errCrossed
	}
	return append(triangles, [3]int{left[0], left[1], left[2]}), nil
}

var errCrossed = errors.New("the outline crosses itself, or runs clockwise")

func around(left []int, i int) (a, b, c int) {
	return left[(i+len(left)-1)%len(left)], left[i], left[(i+1)%len(left)]
}

// isEar reports a corner that turns left and whose triangle holds no other corner.
func isEar(loop []Point, left []int, i int) bool {
	a, b, c := around(left, i)
	if side(loop[a], loop[b], loop[c]) <= 0 {
		return false
	}
	for _, k := range left {
		p := loop[k]
		if p != loop[a] && p != loop[b] && p != loop[c] && side(loop[a], loop[b], p) >= 0 && side(loop[b], loop[c], p) >= 0 &&
			side(loop[c], loop[a], p) >= 0 {
			return false
		}
	}
	return true
}

// side is above zero where p lies to the left of the way from a to b.
func side(a, b, p Point) float64 {
	return float64((b.X-a.X)*(p.Y-a.Y) - (b.Y-a.Y)*(p.X-a.X))
}

// Fault says what keeps the surface from being closed: every edge is shared by two
// triangles, which run along it either way. It is nil for a sound one.
func (s *Solid) Fault() error {
	edges := map[[2]int]int{}
	for _, t := range s.Triangles {
		for i := range t {
			edges[[2]int{t[i], t[(i+1)%3]}]++
		}
	}
	for e, count := range edges {
		if count != 1 || edges[[2]int{e[1], e[0]}] != 1 {
			return fmt.Errorf("%s: the edge from %v to %v is not shared by two triangles", s.Name, s.At[e[0]], s.At[e[1]])
		}
	}
	return nil
}

// Volume is what the surface holds, in cubic millimetres; below zero when it is inside
// out.
func (s *Solid) Volume() (sum float64) {
	for _, t := range s.Triangles {
		a, b, c := s.At[t[0]], s.At[t[1]], s.At[t[2]]
		sum += a[0]*(b[1]*c[2]-b[2]*c[1]) + a[1]*(b[2]*c[0]-b[0]*c[2]) + a[2]*(b[0]*c[1]-b[1]*c[0])
	}
	return sum / 6
}

// normal is the direction a triangle faces, of length one.
func (s *Solid) normal(t [3]int) (n [3]float64) {
	a, b, c := s.At[t[0]], s.At[t[1]], s.At[t[2]]
	for i := range n {
		j, k := (i+1)%3, (i+2)%3
		n[i] = (b[j]-a[j])*(c[k]-a[k]) - (b[k]-a[k])*(c[j]-a[j])
	}
	long := math.Sqrt(n[0]*n[0] + n[1]*n[1] + n[2]*n[2])
	for i := range n {
		n[i] /= math.Max(long, 1e-12)
	}
	return n
}

// WriteSTL writes the solid as binary STL.
func (s *Solid) WriteSTL(to io.Writer) error {
	w := bufio.NewWriter(to)
	header := make([]byte, 80)
	copy(header, "made by Kolvan, in millimetres: "+s.Name)
	_, err := w.Write(header)
	if err == nil {
		err = binary.Write(w, binary.LittleEndian, uint32(len(s.Triangles)))
	}
	for _, t := range s.Triangles {
		var facet [12]float32
		for i, v := range s.normal(t) {
			facet[i] = float32(v)
		}
		for k, corner := range t {
			for i, v := range s.At[corner] {
				facet[3+3*k+i] = float32(v)
			}
		}
		if err == nil {
			err = binary.Write(w, binary.LittleEndian, facet)
		}
		if err == nil {
			_, err = w.Write([]byte{0, 0})
		}
	}
	if err != nil {
		return fmt.Errorf("writing STL: %w", err)
	}
	return w.Flush()
}

// The parts of a 3MF file beside its model.
const (
	contentTypes = `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`
	relationships = `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`
)

// Write3MF writes the solid as a 3MF package.
func (s *Solid) Write3MF(to io.Writer) error {
	z := zip.NewWriter(to)
	for _, part := range []struct {
		name  string
		write func(io.Writer) error
	}{
		{"[Content_Types].xml", func(w io.Writer) error { _, err := io.WriteString(w, contentTypes); return err }},
		{"_rels/.rels", func(w io.Writer) error { _, err := io.WriteString(w, relationships); return err }},
		{"3D/3dmodel.model", s.writeModel},
	} {
		w, err := z.Create(part.name)
		if err == nil {
			err = part.write(w)
		}
		if err != nil {
			return fmt.Errorf("writing 3MF, %s: %w", part.name, err)
		}
	}
	return z.Close()
}

func (s *Solid) writeModel(to io.Writer) error {
	w := bufio.NewWriter(to)
	fmt.Fprintf(w, `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources><object id="1" type="model" name="%s"><mesh><vertices>`, escaped(s.Name))
	for _, p := range s.At {
		fmt.Fprintf(w, `<vertex x="%.4f" y="%.4f" z="%.4f"/>`, p[0], p[1], p[2])
	}
	fmt.Fprint(w, `</vertices><triangles>`)
	for _, t := range s.Triangles {
		fmt.Fprintf(w, `<triangle v1="%d" v2="%d" v3="%d"/>`, t[0], t[1], t[2])
	}
	fmt.Fprint(w, `</triangles></mesh></object></resources><build><item objectid="1"/></build></model>`)
	return w.Flush()
}
