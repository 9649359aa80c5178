package translate

import (
	"testing"

	"nexdal/internal/engine/sqllex"
)

func TestSpelling(t *testing.T) {
	capitals, small, either := sqllex.Dialect{Capitals: true}, sqllex.Dialect{Small: true}, sqllex.Dialect{}
	for _, c := range []struct {
		from, to   sqllex.Dialect
		name, want string
	}{
		{small, capitals, "raft_no", "RAFT_NO"},
		{small, capitals, "RaftNo", "RaftNo"}, // quoted in the one, so quoted in the other
		{small, capitals, "raft no", "raft no"},
		{small, capitals, "_raft", "_raft"}, // which the other would not take bare
		{small, capitals, "tidé", "tidé"},
		{either, capitals, "RaftNo", "RAFTNO"}, // whose capitals mean nothing
		{capitals, small, "RAFT_NO", "raft_no"},
		{capitals, small, "Raft_No", "Raft_No"},
		{capitals, either, "RAFT_NO", "raft_no"},
		{small, either, "Raft", "Raft"},
		{capitals, capitals, "raft", "raft"},
	} {
		if got := spelling(c.from, c.to)(c.name); got != c.want {
			t.Errorf("%q from %+v to %+v is %q, want %q", c.name, c.from, c.to, got, c.want)
		}
	}
}
