package partition

import (
	"fmt"
	"strings"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
	"nexdal/internal/text"
	"nexdal/internal/upkeep"
)

var DefaultFilled = &rule.Rule{
	ID:          "partition/default-filled",
	Title:       "default partition that holds rows",
	Severity:    rule.Warning,
	Consequence: rule.Slow,
	Applies:     func(can catalog.Abilities) bool { return can.Bounds != nil },
	Needs:       []rule.Need{rule.Statistics},
	Doc: `The default partition, or the one without an end behind ranges of time, holds rows: they lie outside the bounds of all others. It grows without anybody planning for it; searches by the partition columns read it in vain; and a partition for those rows can only be added once they are out of the way, by a scan of the default under a lock.

No fix is in the script of corrections, since the data has to be asked which rows there are: nexdal script partitions SOURCE TABLE --empty-rest counts them by period, or by value, and writes the script that gives them partitions of their own without losing one.`,
	Check: func(p *rule.Pass) error {
		for _, whole := range p.Owned {
			list, _ := upkeep.Partitions(in(p), whole)
			for _, x := range list {
				if rest(list, x) && x.Rows != nil && *x.Rows > 0 {
					p.Report(defaultFilled(p, whole, x))
				}
			}
		}
		return nil
	},
}

// rest reports whether the partition takes what no other does: a default, or a range without an
// end behind ranges of time. Behind others it may well be one like them.
func rest(list []upkeep.Partition, x upkeep.Partition) bool {
	if x.Bounds.Default {
		return true
	}
	_, byTime := upkeep.Period(upkeep.Ranges(list))
	return byTime && x.Endless()
}

func defaultFilled(p *rule.Pass, whole *catalog.Table, x upkeep.Partition) rule.Finding {
	advice, command := "move them to partitions of their own", rule.Command{"script", "partitions", rule.TheSource, whole.Ref().String(), "--empty-rest", "-o", "partitions.sql"}
	known := upkeep.Of(in(p), whole)
	why := known.Refused
	if upkeep.Method(whole) == "list" {
		why = known.NoValues
	}
	if why != "" {
		advice, command = "move them to partitions of their own by hand: "+why, nil
	}
	exact := x.Table != nil && x.Table.Stats.Exact
	return rule.Finding{Table: whole.Ref(), Object: x.Name, Certainty: rule.ByStatistics, Advice: advice, Command: command,
		Message: fmt.Sprintf("its default partition \"%s\" holds %s that no other partition takes", x.Name, strings.TrimPrefix(text.Rows(x.Rows, exact), "about "))}
}
