package mariadb

import (
	"time"

	"nexdal/internal/catalog"
)

// notShown is why the figures that only some may read are missing.
const notShown = "the server does not show them to this account"

// reads reads how often each index was read, where the server counts it, and since when.
func (r *reader) reads() {
	if r.Reads == "" {
		return
	}
	r.ask(r.Reads, "OBJECT_SCHEMA", func(scan func(...any) error) error {
		var ref catalog.Ref
		var index string
		var times int64
		err := scan(&ref.Schema, &ref.Table, &index, &times)
		if t := r.tables[ref]; t != nil {
			if x := t.Index(index); x != nil {
				x.Scans = &times
			}
		}
		return err
	})
	var up int64
	r.ask(`SELECT VARIABLE_VALUE FROM performance_schema.global_status WHERE VARIABLE_NAME = 'Uptime'`, "", func(scan func(...any) error) error { return scan(&up) })
	if r.err != nil && !r.over() { // only some may read them
		r.catalog.Gaps = append(r.catalog.Gaps, catalog.Gap{What: "how often indexes were read", Reason: notShown, Figures: true})
		r.err = nil
		return
	}
	r.catalog.Settings = append(r.catalog.Settings, catalog.Setting{Name: "statistics_since", Value: time.Now().UTC().Add(-time.Duration(up) * time.Second).Format(time.RFC3339)})
}
