// Package test drives the built program on files in temporary folders and on
// throwaway servers.
package test

// The program that is driven, so that the go command sees when it has changed. Imported here and not
// by the tests: a profile for the compiler goes to what a package imports itself, and what tests alone
// import would be compiled once more with it.
import _ "nexdal/internal/cli"
