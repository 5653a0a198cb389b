// Package docs holds the documents; its tests keep them true.
package docs

import "embed"

// Guide holds the pages of the user guide, one a station, and their pictures.
//
//go:embed guide/*.md screenshots/*.png
var Guide embed.FS
