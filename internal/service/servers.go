package service

import (
	"net/http"
	"time"
)

// newServer serves a part of the program to whoever comes.
func newServer(part string, handler http.Handler) *http.Server {
	return &http.Server{
		Handler: logged(part, handler), ReadHeaderTimeout: 10 * time.Second, ReadTimeout: time.Minute, WriteTimeout: time.Minute,
		IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10,
	}
}

// newVisitorServer serves visitors, who send nothing but what a browser says of
// itself.
func newVisitorServer(handler http.Handler) *http.Server {
	server := newServer("public", handler)
	server.ReadTimeout, server.MaxHeaderBytes = 30*time.Second, 32<<10
	return server
}
