package report

import (
	"cmp"
	"fmt"
	"slices"

	"nexdal/internal/catalog"
	"nexdal/internal/text"
)

// A ColumnStorage is what one column takes where each is kept by itself.
type ColumnStorage struct {
	Column   string `json:"column"`
	Bytes    *int64 `json:"bytes"`  // null: not known
	Blocks   *int64 `json:"blocks"` // of a mebibyte each, on all slices
	Encoding string `json:"encoding"`
	// Suggested is what the engine's manual suggests for the type: no more than that, since nobody
	// has looked at the values.
	Suggested string `json:"suggested"`
}

// columnStorage lists the columns of a store that keeps them apart; of another, none.
func columnStorage(can catalog.Abilities, t *catalog.Table) []ColumnStorage {
	if can.Encoding == nil {
		return nil
	}
	var all []ColumnStorage
	for _, c := range t.Columns {
		one := ColumnStorage{Column: c.Name, Bytes: c.Stats.Bytes, Encoding: c.Encoding, Suggested: can.Encoding(c.Type)}
		if t.SortKey != nil && !t.SortKey.Interleaved && t.SortKey.Columns[0] == c.Name {
			one.Suggested = can.RawEncoding // what leads the order is looked through by its blocks
		}
		if c.Stats.Bytes != nil {
			blocks := *c.Stats.Bytes >> 20
			one.Blocks = &blocks
		}
		all = append(all, one)
	}
	return all
}

// storage shows what each column takes, the largest first.
func (p *Page) storage(columns []ColumnStorage) {
	if len(columns) == 0 {
		return
	}
	most := int64(0)
	for _, c := range columns {
		if c.Bytes != nil {
			most = max(most, *c.Bytes)
		}
	}
	p.heading("What its columns take")
	sorted := slices.Clone(columns)
	slices.SortStableFunc(sorted, func(a, b ColumnStorage) int { return cmp.Compare(bytesOf(b), bytesOf(a)) })
	var rows [][]string
	for _, c := range sorted {
		size, blocks := "not known", ""
		if c.Bytes != nil {
			size, blocks = text.Size(*c.Bytes), fmt.Sprint(*c.Blocks)
		}
		suggested := c.Suggested
		if suggested == c.Encoding {
			suggested = p.paint(dim, "as it is")
		}
		rows = append(rows, []string{text.Line(c.Column), size, blocks, text.Line(c.Encoding), suggested, p.paint(dim, bar(bytesOf(c), most))})
	}
	p.rows([]string{"", "size", "blocks", "encoded", "suggested", ""}, []int{2, 3}, rows)
}

func bytesOf(c ColumnStorage) int64 {
	if c.Bytes == nil {
		return 0
	}
	return *c.Bytes
}
