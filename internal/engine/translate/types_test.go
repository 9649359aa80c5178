package translate

import (
	"testing"

	"nexdal/internal/catalog"
)

func TestPick(t *testing.T) {
	likes := []Like{
		{Family: catalog.Integer, Unsigned: true, Bits: 8, Native: "tiny"},
		{Family: catalog.Integer, Bits: 16, Native: "small"},
		{Family: catalog.Integer, Bits: 64, Native: "big"},
		{Family: catalog.Integer, Native: "decimal(20)", As: catalog.Decimal, Why: "is no longer whole"},
		{Family: catalog.Decimal, Sized: true, Precision: 38, Scale: 30, Native: "decimal({precision},{scale})"},
		{Family: catalog.Decimal, Native: "decimal(38,10)", Why: "has 38 digits"},
		{Family: catalog.Text, Padded: true, Length: 10, Native: "char({length})"},
		{Family: catalog.Text, Length: 100, KeyLength: 50, Native: "varchar({length})"},
		{Family: catalog.Text, Keyed: true, Native: "varchar(50)", Why: "holds 50 letters"},
		{Family: catalog.Text, Native: "text"},
		{Family: catalog.Timestamp, Zoned: true, Native: "moment"},
		{Family: catalog.Timestamp, Native: "time and date"},
		{Family: catalog.JSON, Why: "holds text"},
	}
	free, points := Types{Likes: likes, Collation: "compares by letters"}, Types{Likes: likes, Collation: "compares by letters", Points: true}
	type kind = catalog.Type
	for _, c := range []struct {
		types Types
		from  kind
		keyed bool
		want  kind
		why   string
	}{
		{free, kind{Family: catalog.Integer, Bits: 8, Unsigned: true}, false, kind{Native: "tiny", Family: catalog.Integer, Bits: 8, Unsigned: true}, ""},
		{free, kind{Family: catalog.Integer, Bits: 8}, false, kind{Native: "small", Family: catalog.Integer, Bits: 16}, ""},
		{free, kind{Family: catalog.Integer, Bits: 16, Unsigned: true}, false, kind{Native: "big", Family: catalog.Integer, Bits: 64}, ""},
		{free, kind{Family: catalog.Integer, Bits: 64}, false, kind{Native: "big", Family: catalog.Integer, Bits: 64}, ""},
		{free, kind{Family: catalog.Integer, Bits: 64, Unsigned: true}, false, kind{Native: "decimal(20)", Family: catalog.Decimal, Precision: 20}, "is no longer whole"},
		{free, kind{Family: catalog.Decimal, Precision: 38, Scale: 30}, false, kind{Native: "decimal(38,30)", Family: catalog.Decimal, Precision: 38, Scale: 30}, ""},
		{free, kind{Family: catalog.Decimal, Precision: 39}, false, kind{Native: "decimal(38,10)", Family: catalog.Decimal, Precision: 38, Scale: 10}, "has 38 digits"},
		{free, kind{Family: catalog.Decimal, Precision: 38, Scale: 31}, false, kind{Native: "decimal(38,10)", Family: catalog.Decimal, Precision: 38, Scale: 10}, "has 38 digits"},
		{free, kind{Family: catalog.Decimal}, false, kind{Native: "decimal(38,10)", Family: catalog.Decimal, Precision: 38, Scale: 10}, "has 38 digits"},
		{free, kind{Family: catalog.Decimal, Precision: 3, Scale: 5}, false, kind{Native: "decimal(3,5)", Family: catalog.Decimal, Precision: 3, Scale: 5}, ""},
		{points, kind{Family: catalog.Decimal, Precision: 3, Scale: 5}, false, kind{Native: "decimal(5,5)", Family: catalog.Decimal, Precision: 5, Scale: 5}, ""},
		{points, kind{Family: catalog.Decimal, Precision: 3, Scale: -2}, false, kind{Native: "decimal(5,0)", Family: catalog.Decimal, Precision: 5}, ""},
		{points, kind{Family: catalog.Decimal, Precision: 37, Scale: -2}, false, kind{Native: "decimal(38,10)", Family: catalog.Decimal, Precision: 38, Scale: 10}, "has 38 digits"},
		{free, kind{Family: catalog.Text, Length: 10, Padded: true}, false, kind{Native: "char(10)", Family: catalog.Text, Length: 10, Padded: true}, ""},
		{free, kind{Family: catalog.Text, Length: 11, Padded: true}, false, kind{Native: "varchar(11)", Family: catalog.Text, Length: 11}, ""},
		{free, kind{Family: catalog.Text, Length: 10}, false, kind{Native: "varchar(10)", Family: catalog.Text, Length: 10}, ""},
		{free, kind{Family: catalog.Text, Length: 100}, false, kind{Native: "varchar(100)", Family: catalog.Text, Length: 100}, ""},
		{free, kind{Family: catalog.Text, Length: 101}, false, kind{Native: "text", Family: catalog.Text}, ""},
		{free, kind{Family: catalog.Text, Length: 50}, true, kind{Native: "varchar(50)", Family: catalog.Text, Length: 50}, ""},
		{free, kind{Family: catalog.Text, Length: 51, Collation: "de"}, true, kind{Native: "varchar(50)", Family: catalog.Text, Length: 50}, "compares by letters, and no longer by de; holds 50 letters"},
		{free, kind{Family: catalog.Text, Collation: "de"}, false, kind{Native: "text", Family: catalog.Text}, "compares by letters, and no longer by de"},
		{free, kind{Family: catalog.Timestamp, Zoned: true}, false, kind{Native: "moment", Family: catalog.Timestamp, Zoned: true}, ""},
		{free, kind{Family: catalog.Timestamp}, false, kind{Native: "time and date", Family: catalog.Timestamp}, ""},
		{free, kind{Family: catalog.JSON, Length: 3}, false, kind{Native: "text", Family: catalog.Text}, "holds text"},
		{free, kind{Family: catalog.JSON}, true, kind{Native: "varchar(50)", Family: catalog.Text, Length: 50}, "holds text; holds 50 letters"},
		{free, kind{Native: "point", Family: catalog.Other}, false, kind{Native: "text", Family: catalog.Text}, "holds text, since point has no like"},
	} {
		if got, why := c.types.Pick(c.from, c.keyed); got != c.want || why != c.why {
			t.Errorf("%+v, keyed %v:\n got %+v, %q\nwant %+v, %q", c.from, c.keyed, got, why, c.want, c.why)
		}
	}
	made := Types{Likes: likes, Make: func(native string) kind { return kind{Native: native, Family: "made"} }}
	if got, _ := made.Pick(kind{Family: catalog.Text, Length: 5}, false); got.Native != "varchar(5)" || got.Family != "made" {
		t.Errorf("what the engine makes of a declaration: %+v", got)
	}
}
