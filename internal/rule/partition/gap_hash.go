package partition

import (
	"fmt"
	"strconv"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/change"
	"nexdal/internal/phrase"
	"nexdal/internal/rule"
)

// hashGap reports remainders that no partition takes.
func hashGap(p *rule.Pass, t *catalog.Table, list []piece) {
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
		Message: fmt.Sprintf("no partition takes rows whose hash leaves %s of %d: about %.0f %% of all rows are refused", phrase.List(says), of, 100*float64(len(missing))/float64(of)),
		Advice:  "create the partitions of these remainders"}
	m := making{p: p, t: t, list: list}
	if why := m.whole(true); why == "" && len(missing) <= most {
		naming := numbering(t, list)
		var changes []change.Change
		for _, r := range missing {
			changes = append(changes, m.add(naming+strconv.Itoa(r), p.Abilities.HashBounds(of, r), noEnd))
		}
		found.Advice, found.Fixes = "", []rule.Fix{{ID: "fill", Title: "add the partitions that are missing", Changes: changes}}
	}
	p.Report(found)
}

// remainders are those that no part takes, of the largest modulus: each modulus divides
// the next larger one.
func remainders(list []piece) (missing []int, of int) {
	for _, x := range list {
		of = max(of, x.bounds.Modulus)
	}
	taken := make([]bool, of)
	for _, x := range list {
		for r := x.bounds.Remainder; x.bounds.Modulus > 0 && r < of; r += x.bounds.Modulus {
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
func numbering(t *catalog.Table, list []piece) string {
	counts, best := map[string]int{}, t.Name+"_p"
	for _, x := range list {
		if before, ok := strings.CutSuffix(x.name, strconv.Itoa(x.bounds.Remainder)); ok && x.bounds.Modulus > 0 {
			if counts[before]++; counts[before] > counts[best] {
				best = before
			}
		}
	}
	return best
}
