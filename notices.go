// Package kolvan holds what stands at the root of the repository and ships in the program.
package kolvan

import _ "embed"

// Notices are the licences of all that ships beside Kolvan's own code (THIRD_PARTY.md).
//
//go:embed THIRD_PARTY.md
var Notices string
