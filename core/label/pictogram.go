package label

import "math"

// Colour is what something is drawn in.
type Colour uint8

// The colours of a label.
const (
	Black Colour = iota
	Red
	White
)

// Point is a place in mm from the top left.
type Point struct{ X, Y float64 }

// Polygon is a closed shape, filled, or drawn by its line where LineMM is above 0.
type Polygon struct {
	Points []Point
	Colour Colour
	LineMM float64
}

// Pictogram returns a hazard pictogram (Regulation (EC) 1272/2008, Annex V) with its
// point up in a square of so many mm: a red frame on white, and the symbol, redrawn here
// from simple shapes on a square of a hundred by a hundred.
func Pictogram(code string, x, y, side float64) []Polygon {
	unit := side / 100
	frame := []Point{{50, 2.5}, {97.5, 50}, {50, 97.5}, {2.5, 50}}
	shapes := []Polygon{{Points: frame, Colour: White}}
	for _, s := range symbols[code] { // a little smaller, clear of the frame
		inside := Polygon{Points: make([]Point, len(s.Points)), Colour: s.Colour}
		for i, at := range s.Points {
			inside.Points[i] = Point{50 + symbolScale*(at.X-50), 50 + symbolScale*(at.Y-51)}
		}
		shapes = append(shapes, inside)
	}
	shapes = append(shapes, Polygon{Points: frame, Colour: Red, LineMM: 4.5})
	out := make([]Polygon, len(shapes))
	for i, s := range shapes {
		p := Polygon{Points: make([]Point, len(s.Points)), Colour: s.Colour, LineMM: s.LineMM * unit}
		for k, at := range s.Points {
			p.Points[k] = Point{x + at.X*unit, y + at.Y*unit}
		}
		out[i] = p
	}
	return out
}

const symbolScale = 0.8

// Pictograms are the codes that can be drawn.
func Pictograms() []string {
	return []string{"GHS02", "GHS03", "GHS05", "GHS06", "GHS07", "GHS08", "GHS09"}
}

func fill(c Colour, points ...Point) Polygon { return Polygon{Points: points, Colour: c} }

func oval(c Colour, cx, cy, rx, ry float64) Polygon {
	const corners = 36
	p := Polygon{Colour: c}
	for i := range corners {
		s, co := math.Sincos(2 * math.Pi * float64(i) / corners)
		p.Points = append(p.Points, Point{cx + rx*co, cy + ry*s})
	}
	return p
}

// bar is a straight stroke of a width.
func bar(c Colour, x1, y1, x2, y2, width float64) Polygon {
	dx, dy := x2-x1, y2-y1
	l := math.Hypot(dx, dy)
	nx, ny := -dy/l*width/2, dx/l*width/2
	return fill(c, Point{x1 + nx, y1 + ny}, Point{x2 + nx, y2 + ny}, Point{x2 - nx, y2 - ny}, Point{x1 - nx, y1 - ny})
}

// smooth is a closed curve through points (Catmull and Rom), as a polygon.
func smooth(c Colour, points ...Point) Polygon {
	const steps = 6
	n := len(points)
	p := Polygon{Colour: c}
	for i := range n {
		a, b, d, e := points[(i+n-1)%n], points[i], points[(i+1)%n], points[(i+2)%n]
		for k := range steps {
			t := float64(k) / steps
			at := func(a, b, d, e float64) float64 {
				return b + 0.5*t*(d-a+t*(2*a-5*b+4*d-e+t*(3*(b-d)+e-a)))
			}
			p.Points = append(p.Points, Point{at(a.X, b.X, d.X, e.X), at(a.Y, b.Y, d.Y, e.Y)})
		}
	}
	return p
}

// flame stands on a point, so many high.
func flame(cx, base, high float64) []Polygon {
	at := func(x, y float64) Point { return Point{cx + x*high, base - y*high} }
	return []Polygon{
		smooth(Black, at(-0.06, 0.02), at(-0.32, 0.14), at(-0.36, 0.42), at(-0.24, 0.62), at(-0.2, 0.46), at(-0.08, 0.66), at(-0.02, 0.98), at(0.14, 0.72), at(0.18, 0.5),
			at(0.26, 0.62), at(0.36, 0.38), at(0.3, 0.14), at(0.08, 0.02)),
		smooth(White, at(-0.05, 0.05), at(-0.16, 0.17), at(-0.1, 0.32), at(-0.03, 0.24), at(0.02, 0.44), at(0.13, 0.25), at(0.13, 0.13), at(0.05, 0.05)),
	}
}

var symbols = map[string][]Polygon{
	"GHS02": append(flame(50, 72, 48), bar(Black, 30, 76, 70, 76, 4)),
	"GHS03": append([]Polygon{oval(Black, 50, 62, 15, 15), oval(White, 50, 62, 10.5, 10.5), bar(Black, 32, 80, 68, 80, 4)}, flame(50, 52, 36)...),
	"GHS05": {
		// two vessels that are tipped, drops, a hand and a bar that are eaten
		bar(Black, 22, 44, 48, 34, 7), bar(White, 25, 43, 46, 35, 3), bar(Black, 52, 34, 78, 44, 7), bar(White, 54, 35, 75, 43, 3),
		oval(Black, 27, 52, 2, 3.4), oval(Black, 28, 60, 2, 3.4), oval(Black, 73, 52, 2, 3.4), oval(Black, 72, 60, 2, 3.4),
		fill(Black, Point{18, 68}, Point{24, 68}, Point{27, 72}, Point{31, 68}, Point{46, 68}, Point{46, 75}, Point{18, 75}),
		smooth(Black, Point{54, 75}, Point{55, 69}, Point{64, 68}, Point{68, 71}, Point{70, 69}, Point{74, 67}, Point{82, 70}, Point{82, 75}, Point{68, 76}),
	},
	"GHS06": {
		bar(Black, 28, 58, 72, 78, 6), bar(Black, 72, 58, 28, 78, 6), oval(Black, 27, 57, 4.5, 4.5), oval(Black, 73, 57, 4.5, 4.5), oval(Black, 27, 79, 4.5, 4.5), oval(Black, 73, 79, 4.5, 4.5),
		oval(Black, 50, 38, 18, 18), fill(Black, Point{39, 50}, Point{61, 50}, Point{60, 64}, Point{40, 64}),
		oval(White, 43, 40, 4.6, 5), oval(White, 57, 40, 4.6, 5), fill(White, Point{50, 45}, Point{53, 51}, Point{47, 51}),
		bar(White, 46, 56, 46, 64, 1.4), bar(White, 50, 56, 50, 64, 1.4), bar(White, 54, 56, 54, 64, 1.4),
	},
	"GHS07": {
		smooth(Black, Point{50, 22}, Point{57, 26}, Point{56, 42}, Point{53, 61}, Point{50, 63}, Point{47, 61}, Point{44, 42}, Point{43, 26}),
		oval(Black, 50, 72, 6, 6),
	},
	"GHS08": {
		oval(Black, 50, 29, 9, 10), fill(Black, Point{45, 36}, Point{55, 36}, Point{58, 43}, Point{74, 50}, Point{77, 68}, Point{23, 68}, Point{26, 50}, Point{42, 43}),
		fill(Black, Point{33, 66}, Point{67, 66}, Point{63, 81}, Point{37, 81}),
		fill(White, Point{50, 43}, Point{53, 54}, Point{61, 49}, Point{57, 58}, Point{68, 61}, Point{57, 65}, Point{61, 74}, Point{53, 69}, Point{50, 79}, Point{47, 69}, Point{39, 74}, Point{43, 65}, Point{32, 61}, Point{43, 58}, Point{39, 49}, Point{47, 54}),
	},
	"GHS09": {
		// a bare tree on a bank, and a fish
		bar(Black, 38, 24, 38, 64, 5), bar(Black, 38, 44, 27, 32, 3), bar(Black, 38, 38, 48, 28, 3), bar(Black, 38, 50, 47, 40, 3), bar(Black, 33, 38, 29, 26, 2),
		fill(Black, Point{16, 62}, Point{42, 62}, Point{54, 68}, Point{36, 70}, Point{24, 70}),
		smooth(Black, Point{40, 77}, Point{48, 71}, Point{60, 71}, Point{67, 76}, Point{60, 81}, Point{48, 82}), fill(Black, Point{65, 76}, Point{74, 70}, Point{73, 82}),
		oval(White, 47, 76, 1.6, 1.6),
	},
}
