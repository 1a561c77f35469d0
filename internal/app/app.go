// Package app is the room for use cases: what people do with Jundle, one package for
// each kind of thing they do it with. A use case knows the rules (core) and the store,
// and nothing of HTTP: handlers decode, call one, and encode. Errors about what
// somebody wrote are *invalid.Error under the names of fields.
package app
