package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"
)

// A Table is one table's rows.
type Table struct {
	Name    string
	Columns []string
	Next    func() []any // the next row; nil at the end
}

// How much there is of everything.
const (
	sections    = 8
	stations    = 40
	models      = 6
	gauges      = 60
	keepers     = 25
	visits      = 3000
	parts       = 120
	alerts      = 90
	subscribers = 150
	deliveries  = 9000
	flags       = 4000
	days        = 15  // of readings
	perDay      = 240 // from each gauge
	perDayFew   = 60
)

// seed makes every machine build the same rows.
const seed = 1953

var start = time.Date(2026, 3, 1, 0, 0, 0, 0, time.UTC)

// Rows returns the rows of every table, in the order in which they can be
// added while foreign keys are enforced.
func Rows() []Table { return rows(perDay) }

// rows are those with so many readings a day from each gauge.
func rows(perDay int) []Table {
	g := &generator{Rand: rand.New(rand.NewPCG(seed, seed)), every: 24 * time.Hour / time.Duration(perDay)}
	readings := gauges * days * perDay
	return []Table{
		table("coast_section", sections, []string{"code", "name", "length_km"}, func(i int) []any {
			return []any{sectionCode(i), sectionNames[i], float64(20+g.IntN(600)) / 10}
		}),
		table("keeper", keepers, []string{"id", "badge", "name", "phone"}, func(i int) []any {
			return []any{id(i), fmt.Sprintf("K%03d", 100+i*7), g.person(), g.maybe(0.8, fmt.Sprintf("0555 %04d", 1000+i*37))}
		}),
		table("gauge_model", models, []string{"id", "maker", "name", "resolution_mm", "range_mm"}, func(i int) []any {
			return []any{id(i), []string{"Tern & Sons", "Holm", "Dunlin"}[i%3], fmt.Sprintf("%c%d", 'A'+i, 100+i*20), float64(1+i) / 2, int64(8000 + i*1000)}
		}),
		table("spare_part", parts, []string{"id", "part_number", "name", "gauge_model_id", "price"}, func(i int) []any {
			return []any{id(i), fmt.Sprintf("SP-%05d", 10000+i*31), partNames[i%len(partNames)], g.maybe(0.7, id(g.IntN(models))), float64(200+g.IntN(40000)) / 100}
		}),
		table("station", stations, []string{"id", "code", "name", "section_code", "latitude", "longitude", "opened_on", "closed_on", "replaced_by_station_id", "last_visit_on"}, g.station),
		table("datum_level", stations*2, []string{"station_id", "kind", "height_mm", "measured_on"}, func(i int) []any {
			return []any{id(i / 2), []string{"chart", "national"}[i%2], int64(g.IntN(4000) - 2000), g.day(-3000, 0)}
		}),
		table("gauge", gauges, []string{"id", "serial_number", "model_id", "station_id", "installed_on", "removed_on"}, func(i int) []any {
			return []any{id(i), fmt.Sprintf("SN%06d", 400000+i*1237), id(g.IntN(models)), id(i % stations), g.day(-2000, -800), g.maybe(0.1, g.day(-700, -10))}
		}),
		table("reading", readings, []string{"id", "gauge_id", "taken_at", "level_mm", "quality"}, g.reading),
		table("reading_flag", flags, []string{"reading_id", "flag", "set_by", "set_at"}, func(i int) []any {
			// Each eighth flag is a second one of the reading before.
			return []any{int64((i-i%8/7)*(readings/flags-1) + 1), []string{"spike", "gap", "stuck", "storm"}[i%4], g.maybe(0.4, id(g.IntN(keepers))), g.moment(days)}
		}),
		table("calibration", gauges*4, []string{"id", "gauge_id", "done_on", "offset_mm", "done_by"}, func(i int) []any {
			return []any{id(i), id(i % gauges), g.day(-700, 0), float64(g.IntN(80)-40) / 10, g.maybe(0.9, id(g.IntN(keepers)))}
		}),
		table("station_keeper", stations*2, []string{"station_id", "keeper_id", "since", "until"}, func(i int) []any {
			return []any{id(i % stations), id((i*7 + i/stations) % keepers), g.day(-2500, -900), g.maybe(0.5, g.day(-800, 0))}
		}),
		table("visit", visits, []string{"id", "station_id", "keeper_id", "calibration_id", "visited_on", "note"}, func(i int) []any {
			var calibration any // each was made on one visit, though nothing says so
			if i%12 == 5 && i/12 < gauges*4 {
				calibration = id(i / 12)
			}
			return []any{id(i), id(g.IntN(stations)), id(g.IntN(keepers)), calibration, g.day(-900, 0), g.maybe(0.2, "well cleaned")}
		}),
		table("visit_task", visits*2, []string{"visit_id", "position", "what", "part_id", "minutes"}, func(i int) []any {
			return []any{id(i / 2), int64(i%2 + 1), taskNames[g.IntN(len(taskNames))], g.maybe(0.3, id(g.IntN(parts))), g.maybe(0.9, int64(5+g.IntN(90)))}
		}),
		table("part_stock", parts*2, []string{"part_id", "store", "pieces"}, func(i int) []any {
			return []any{id(i / 2), []string{"north shed", "south shed"}[i%2], int64(g.IntN(30))}
		}),
		table("tide_table", stations*days*4, []string{"station_code", "predicted_at", "kind", "level_mm"}, func(i int) []any {
			s, n := i/(days*4), i%(days*4)
			return []any{stationCode(s), start.Add(time.Duration(n)*(6*time.Hour+13*time.Minute) + time.Duration(s)*time.Minute), []string{"high", "low"}[n%2], int64((1-2*(n%2))*1500 + g.IntN(300))}
		}),
		table("storm_alert", alerts, []string{"id", "issued_at", "level", "text"}, func(i int) []any {
			return []any{id(i), g.moment(days), []string{"watch", "warning", "danger"}[min(g.IntN(6)/2, 2)], "Strong wind and high water are expected."}
		}),
		table("alert_station", alerts*4, []string{"id", "alert_id", "station_id", "created_at"}, func(i int) []any {
			return []any{id(i), id(i / 4), id((i*11 + i/4) % stations), g.moment(days)}
		}),
		table("feed_subscriber", subscribers, []string{"id", "name", "address", "active"}, func(i int) []any {
			n := i + 1
			if n == subscribers {
				n = 37 // somebody who subscribed twice
			}
			return []any{id(i), g.person(), fmt.Sprintf("feed-%03d@saltmere.example", n), int64(min(1, g.IntN(8)))}
		}),
		table("feed_delivery", deliveries, []string{"subscriber_id", "alert_id", "sent_at", "accepted"}, func(i int) []any {
			to := id(g.IntN(subscribers))
			if i%1500 == 700 {
				to = int64(subscribers + 40 + i/1500) // a subscriber who was deleted: nothing declares the reference
			}
			return []any{to, id(g.IntN(alerts)), g.moment(days), g.maybe(0.95, int64(min(1, g.IntN(10))))}
		}),
	}
}

func table(name string, n int, columns []string, row func(i int) []any) Table {
	i := -1
	return Table{name, columns, func() []any {
		if i++; i >= n {
			return nil
		}
		return row(i)
	}}
}

type generator struct {
	*rand.Rand
	every time.Duration // from one reading of a gauge to the next
}

func id(i int) int64 { return int64(i + 1) }

func sectionCode(i int) string { return fmt.Sprintf("S%02d", i+1) }

func stationCode(i int) string {
	return string(stationNames[i%len(stationNames)][0]) + fmt.Sprintf("%03d", 10+i*3)
}

func (g *generator) station(i int) []any {
	name := stationNames[i%len(stationNames)]
	if i >= len(stationNames) {
		name += " Pier"
	}
	var closed, replaced any
	if i%13 == 12 {
		closed, replaced = g.day(-400, -100), id(i-5)
	}
	return []any{id(i), stationCode(i), name, sectionCode(i % sections), 54 + float64(g.IntN(3000))/1000, 3 + float64(g.IntN(4000))/1000, g.day(-9000, -1000), closed, replaced, g.day(-60, 0)}
}

// reading is the tide of one gauge at one moment: two waves and some noise.
func (g *generator) reading(i int) []any {
	gauge, n := i%gauges, i/gauges
	hours := float64(n) / (float64(time.Hour) / float64(g.every))
	level := 1400*math.Sin(hours*2*math.Pi/12.42+float64(gauge)) + 300*math.Sin(hours*2*math.Pi/25.8) + float64(g.IntN(60))
	return []any{id(i), id(gauge), start.Add(time.Duration(n) * g.every), int64(level), int64(max(0, g.IntN(40)-37))}
}

// day is a date so many days from the start of readings.
func (g *generator) day(from, to int) string {
	return start.AddDate(0, 0, from+g.IntN(to-from)).Format(time.DateOnly)
}

func (g *generator) moment(days int) time.Time {
	return start.Add(time.Duration(g.IntN(days*24*60)) * time.Minute)
}

func (g *generator) maybe(share float64, value any) any {
	if g.Float64() < share {
		return value
	}
	return nil
}

func (g *generator) person() string {
	return firstNames[g.IntN(len(firstNames))] + " " + lastNames[g.IntN(len(lastNames))]
}

var (
	sectionNames = []string{"Northern Skerries", "Amber Shore", "Saltmere Bight", "Long Sands", "Heron Flats", "Wreckers' Bay", "Lower Delta", "Southern Dunes"}
	stationNames = []string{"Ansholm", "Brackwater", "Cold Ness", "Drumlin Quay", "Eelmouth", "Fennel Point", "Grey Groyne", "Hallow Sluice", "Ister Lock", "Juniper Head", "Kelp Harbour", "Lantern Rock", "Marram", "Nettlewick", "Osier Creek", "Petrel Mole", "Quillon", "Reedgate", "Sandling", "Tern Island"}
	partNames    = []string{"float", "stilling-well mesh", "pulley", "pressure cell", "data cable", "battery", "antenna", "desiccant"}
	taskNames    = []string{"read the staff", "clean the well", "change the battery", "level the datum", "replace a part", "paint the hut"}
	firstNames   = []string{"Ada", "Bror", "Cilla", "Dagny", "Eskil", "Frida", "Gunnar", "Hedda", "Ivo", "Jorun"}
	lastNames    = []string{"Almskog", "Brandvik", "Dunmore", "Ekhaven", "Fjellner", "Gaastra", "Holmwood", "Ingersand"}
)
