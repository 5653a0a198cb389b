// Package cells writes texts into tables so that a spreadsheet does not run them: a cell that
// begins with a sign of a formula gets an apostrophe before it, and loses it when it is read.
package cells

import (
	"strconv"
	"strings"
)

// signs begin what a spreadsheet runs.
const signs = "=+-@\t\r\n"

// Safe is a text as a cell has it. Numbers stay numbers.
func Safe(text string) string {
	if runs(text) {
		return "'" + text
	}
	return text
}

// Text is what was written into a cell.
func Text(cell string) string {
	if text, quoted := strings.CutPrefix(cell, "'"); quoted && runs(text) {
		return text
	}
	return cell
}

// Row makes every cell of a row safe.
func Row(texts []string) []string {
	row := make([]string, len(texts))
	for i, text := range texts {
		row[i] = Safe(text)
	}
	return row
}

// Rows makes every row safe.
func Rows(texts [][]string) [][]string {
	rows := make([][]string, len(texts))
	for i, row := range texts {
		rows[i] = Row(row)
	}
	return rows
}

// runs reports a text that is no number and, apostrophes before it apart, begins with a sign.
func runs(text string) bool {
	bare := strings.TrimLeft(text, "'")
	if bare == "" || !strings.ContainsRune(signs, rune(bare[0])) {
		return false
	}
	_, err := strconv.ParseFloat(text, 64)
	return err != nil
}
