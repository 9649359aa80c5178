package routine_test

import (
	"testing"

	"nexdal/test/rulecheck"
	"nexdal/test/server"
)

func TestMain(m *testing.M) { server.Main(m) }

func TestRules(t *testing.T) { rulecheck.Folder(t) }
