// Package web holds the built studio application.
package web

import (
	"embed"
	"io/fs"
)

// The folder is there before anything is built, so that Go code compiles.
//
//go:embed all:dist
var dist embed.FS

// Application is the built application: index.html and its assets.
func Application() fs.FS {
	built, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is named in the line above
	}
	return built
}
