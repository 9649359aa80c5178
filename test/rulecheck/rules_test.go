package rulecheck

import (
	"testing"

	"nexdal/test/server"
)

func TestMain(m *testing.M) { server.Main(m) }

// TestRules plays the scripts of all rules, in one program: each area by itself would start
// servers of its own.
func TestRules(t *testing.T) { Folder(t, "../../internal/rule") }
