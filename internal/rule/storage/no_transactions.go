package storage

import (
	"fmt"

	"nexdal/internal/catalog"
	"nexdal/internal/rule"
)

var NoTransactions = &rule.Rule{
	ID:          "storage/no-transactions",
	Title:       "storage without transactions",
	Severity:    rule.Warning,
	Consequence: rule.Unprotected,
	Applies:     func(can catalog.Abilities) bool { return can.WithoutTransactions != nil },
	Doc: `The table is kept by a storage engine without transactions and foreign keys, among tables that have both. A transaction that is rolled back leaves the rows of this table as they are; a crash may leave a statement carried out in part; a foreign key that is declared on it is dropped without a word; a backup that relies on one snapshot does not hold it.

Where no table of the schema has transactions, or the engine keeps rows in memory alone, it is a notice.

Leave it alone where the rows can be made again, as those of a cache.

Not scripted: the conversion copies the table under a lock, and the programs that use it meet deadlocks and waits that they did not know before. ALTER TABLE ... ENGINE = InnoDB does it.`,
	Check: func(p *rule.Pass) error {
		kept := map[string]bool{} // schemas in which some table has transactions
		for _, t := range p.Owned {
			if name, _ := p.Abilities.WithoutTransactions(t); name == "" {
				kept[t.Schema] = true
			}
		}
		for _, t := range p.Owned {
			name, better := p.Abilities.WithoutTransactions(t)
			if name == "" {
				continue
			}
			found := rule.Finding{Table: t.Ref(), Object: t.Name, Part: "storage", Message: fmt.Sprintf("uses %s, without transactions and foreign keys, which other tables of %s have", name, t.Schema),
				Advice: "convert it to " + better + " when nobody needs it"}
			if !kept[t.Schema] {
				found.Severity, found.Message = rule.Notice, fmt.Sprintf("uses %s, without transactions and foreign keys", name)
			}
			if better == "" {
				found.Severity, found.Advice = rule.Notice, "see that its rows are made again after every start"
				found.Message = fmt.Sprintf("uses %s: its rows are gone when the server stops", name)
			}
			p.Report(found)
		}
		return nil
	},
}
