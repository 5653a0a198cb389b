package tables

// Taken says what a column of a table was taken for.
type Taken struct {
	Name  string `json:"name"`
	Index int    `json:"index"` // from 0
	As    string `json:"as"`
	Unit  string `json:"unit,omitzero"`
}
