package partition

import (
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/rule"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

// hashGap reports remainders that no partition takes.
func hashGap(p *rule.Pass, t *catalog.Table, list []upkeep.Partition) {
	if len(list) == 0 {
		return // partition/empty-parent tells
	}
	missing, of := remainders(list)
	if len(missing) == 0 {
		return
	}
	var says []string
	for _, r := range missing {
		says = append(says, strconv.Itoa(r))
	}
	found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: "remainder",
		Message: fmt.Sprintf("no partition takes rows whose hash leaves %s of %d: about %.0f %% of all rows are refused", text.List(says), of, 100*float64(len(missing))/float64(of)),
		Advice:  "create the partitions of these remainders"}
	m := upkeep.Plain(in(p), t, list)
	if why := m.Whole(true); why == "" && len(missing) <= most {
		naming := numbering(t, list)
		var changes []change.Change
		for _, r := range missing {
			changes = append(changes, m.Add(naming+strconv.Itoa(r), p.Abilities.HashBounds(of, r), upkeep.NoEnd))
		}
		found.Advice, found.Fixes = "", []rule.Fix{{ID: "fill", Title: "add the partitions that are missing", Changes: changes}}
	}
	p.Report(found)
}

// remainders are those that no part takes, of the largest modulus: each modulus divides
// the next larger one.
func remainders(list []upkeep.Partition) (missing []int, of int) {
	for _, x := range list {
		of = max(of, x.Bounds.Modulus)
	}
	taken := make([]bool, of)
	for _, x := range list {
		for r := x.Bounds.Remainder; x.Bounds.Modulus > 0 && r < of; r += x.Bounds.Modulus {
			taken[r] = true
		}
	}
	for r, is := range taken {
		if !is {
			missing = append(missing, r)
		}
	}
	return missing, of
}

// numbering is what stands before the remainder in the names of most parts.
func numbering(t *catalog.Table, list []upkeep.Partition) string {
	counts, best := map[string]int{}, catalog.InCaseOf(t.Name+"_p", t.Name)
	for _, x := range list {
		if before, ok := strings.CutSuffix(x.Name, strconv.Itoa(x.Bounds.Remainder)); ok && x.Bounds.Modulus > 0 {
			if counts[before]++; counts[before] > counts[best] {
				best = before
			}
		}
	}
	return best
}
