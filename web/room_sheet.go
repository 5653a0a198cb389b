package web

// sheetRoom is the result on paper.
var sheetRoom = Room{
	Key: "sheet", NoEditor: true,
	Figure: func(*Desk) string { return "draft" },
	Fill: func(d *Desk) (any, error) {
		s := makeSheet(d.Rig, d.Report, d.Ref, d.Inches)
		return s, s.choose(d)
	},
}
