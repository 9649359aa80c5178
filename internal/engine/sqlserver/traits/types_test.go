package traits

import (
	"testing"

	"nexdal/internal/catalog"
)

// TestTypes: a type as sys.columns describes it, in bytes, and as a statement writes it.
func TestTypes(t *testing.T) {
	const latin = "Latin1_General_CI_AS"
	for _, x := range []struct {
		base                     string
		length, precision, scale int
		want                     catalog.Type
	}{
		{"tinyint", 1, 3, 0, catalog.Type{Native: "tinyint", Family: catalog.Integer, Bits: 8, Unsigned: true}},
		{"bigint", 8, 19, 0, catalog.Type{Native: "bigint", Family: catalog.Integer, Bits: 64}},
		{"bit", 1, 1, 0, catalog.Type{Native: "bit", Family: catalog.Boolean}},
		{"decimal", 9, 12, 3, catalog.Type{Native: "decimal(12,3)", Family: catalog.Decimal, Precision: 12, Scale: 3}},
		{"numeric", 9, 18, 0, catalog.Type{Native: "numeric(18,0)", Family: catalog.Decimal, Precision: 18}},
		{"money", 8, 19, 4, catalog.Type{Native: "money", Family: catalog.Decimal, Precision: 19, Scale: 4}},
		{"smallmoney", 4, 10, 4, catalog.Type{Native: "smallmoney", Family: catalog.Decimal, Precision: 10, Scale: 4}},
		{"real", 4, 24, 0, catalog.Type{Native: "real", Family: catalog.Float, Bits: 32}},
		{"float", 8, 53, 0, catalog.Type{Native: "float", Family: catalog.Float, Bits: 64}},
		{"char", 5, 0, 0, catalog.Type{Native: "char(5)", Family: catalog.Text, Length: 5, Padded: true, Collation: latin}},
		{"nchar", 10, 0, 0, catalog.Type{Native: "nchar(5)", Family: catalog.Text, Length: 5, Padded: true, Collation: latin}},
		{"nvarchar", 80, 0, 0, catalog.Type{Native: "nvarchar(40)", Family: catalog.Text, Length: 40, Collation: latin}},
		{"nvarchar", -1, 0, 0, catalog.Type{Native: "nvarchar(max)", Family: catalog.Text, Collation: latin}},
		{"varchar", 8000, 0, 0, catalog.Type{Native: "varchar(8000)", Family: catalog.Text, Length: 8000, Collation: latin}},
		{"sysname", 256, 0, 0, catalog.Type{Native: "sysname", Family: catalog.Text, Length: 128, Collation: latin}},
		{"ntext", 16, 0, 0, catalog.Type{Native: "ntext", Family: catalog.Text, Collation: latin}},
		{"binary", 8, 0, 0, catalog.Type{Native: "binary(8)", Family: catalog.Binary, Length: 8, Padded: true}},
		{"varbinary", -1, 0, 0, catalog.Type{Native: "varbinary(max)", Family: catalog.Binary}},
		{"timestamp", 8, 0, 0, catalog.Type{Native: "rowversion", Family: catalog.Binary, Length: 8}},
		{"date", 3, 10, 0, catalog.Type{Native: "date", Family: catalog.Date}},
		{"time", 5, 16, 7, catalog.Type{Native: "time(7)", Family: catalog.Time}},
		{"datetime", 8, 23, 3, catalog.Type{Native: "datetime", Family: catalog.Timestamp}},
		{"datetime2", 8, 19, 0, catalog.Type{Native: "datetime2(0)", Family: catalog.Timestamp}},
		{"datetimeoffset", 10, 34, 7, catalog.Type{Native: "datetimeoffset(7)", Family: catalog.Timestamp, Zoned: true}},
		{"uniqueidentifier", 16, 0, 0, catalog.Type{Native: "uniqueidentifier", Family: catalog.UUID}},
		{"geography", -1, 0, 0, catalog.Type{Native: "geography", Family: catalog.Other}},
		{"hierarchyid", 892, 0, 0, catalog.Type{Native: "hierarchyid", Family: catalog.Other}},
	} {
		if got := TypeOf(x.base, x.length, x.precision, x.scale, latin); got != x.want {
			t.Errorf("%s(%d): %+v, want %+v", x.base, x.length, got, x.want)
		}
	}
}

// TestObsolete: what is advised against has a successor that holds all of its values, in the same
// collation; nothing else has one.
func TestObsolete(t *testing.T) {
	for base, want := range map[string]string{"text": "varchar(max)", "ntext": "nvarchar(max)", "image": "varbinary(max)", "datetime": "datetime2(3)", "smalldatetime": "datetime2(0)",
		"varchar": "", "datetime2": "", "date": "", "int": ""} {
		why, as := Obsolete(TypeOf(base, 16, 0, 0, "Latin1_General_BIN2"))
		if as.Native != want || (why == "") != (want == "") {
			t.Errorf("%s becomes %q: %s", base, as.Native, why)
		}
		if as.Family == catalog.Text && as.Collation != "Latin1_General_BIN2" {
			t.Errorf("%s loses its collation: %+v", base, as)
		}
	}
}

// TestUncompared: what can be neither grouped nor told apart.
func TestUncompared(t *testing.T) {
	for base, want := range map[string]bool{"text": true, "ntext": true, "image": true, "xml": true, "geometry": true, "varbinary": true, "timestamp": true, "sql_variant": true,
		"varchar": false, "int": false, "uniqueidentifier": false, "datetime": false, "bit": false} {
		if got := Uncompared(TypeOf(base, 8, 0, 0, "")); got != want {
			t.Errorf("%s: %v", base, got)
		}
	}
}
