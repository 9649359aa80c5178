package demo

import (
	"encoding/binary"
	"fmt"
	"math/rand/v2"
	"time"
)

// observations is how many there are in the store of documents.
const observations = 20_000

// objectID is an identifier as stores of documents make them: twelve bytes, the first of which say when.
func objectID(i int) [12]byte {
	var b [12]byte
	binary.BigEndian.PutUint32(b[:], uint32(start.Unix()))
	binary.BigEndian.PutUint32(b[8:], uint32(i+1))
	return b
}

// hexID is the like as a text.
func hexID(i int) string { id := objectID(i); return fmt.Sprintf("%x", id[:]) }

// Documents returns those of a store that declares nothing, by collection, with faults among them. A
// column with dots is a path; what is nil is left out; twelve bytes are an identifier.
func Documents() []Table {
	g := &generator{Rand: rand.New(rand.NewPCG(seed, seed+1))}
	return []Table{
		table("station", stations, []string{"_id", "code", "name", "section", "position.latitude", "position.longitude", "opened_on", "closed_on", "tags"}, func(i int) []any {
			name := stationNames[i%len(stationNames)]
			if i >= len(stationNames) {
				name += " Pier"
			}
			var closed any
			if i%13 == 12 {
				closed = g.moment(days)
			}
			return []any{objectID(i), stationCode(i), name, sectionCode(i % sections), 54 + float64(g.IntN(3000))/1000, 3 + float64(g.IntN(4000))/1000, start.AddDate(0, 0, -1000-g.IntN(8000)), closed, []any{"tide", []string{"old", "new"}[i%2]}}
		}),
		table("keeper", keepers, []string{"_id", "badge", "name", "phone", "stations"}, func(i int) []any {
			var of []any
			for k := range 1 + i%3 {
				of = append(of, objectID((i*7+k*11)%stations))
			}
			return []any{id(i), fmt.Sprintf("K%03d", 100+i*7), g.person(), g.maybe(0.8, fmt.Sprintf("0555 %04d", 1000+i*37)), of}
		}),
		table("gauge_model", models, []string{"_id", "maker", "name"}, func(i int) []any {
			return []any{id(i), []string{"Tern & Sons", "Holm", "Dunlin"}[i%3], fmt.Sprintf("%c%d", 'A'+i, 100+i*20)}
		}),
		table("spare_part", parts, []string{"_id", "part_number", "name", "gauge_model_id", "price"}, func(i int) []any {
			return []any{id(i), fmt.Sprintf("SP-%05d", 10000+i*31), partNames[i%len(partNames)], g.maybe(0.7, id(g.IntN(models))), float64(200+g.IntN(40000)) / 100}
		}),
		// The station is kept as a text, where the station itself has an identifier.
		table("gauge", gauges, []string{"_id", "serial_number", "model_id", "station", "installed_on"}, func(i int) []any {
			var on any = start.AddDate(0, 0, -800-g.IntN(1200))
			if i%9 == 4 {
				on = start.AddDate(0, 0, -i).Format(time.DateOnly) // a day as a text, among moments
			}
			return []any{id(i), fmt.Sprintf("SN%06d", 400000+i*1237), id(g.IntN(models)), hexID(i % stations), on}
		}),
		table("observation", observations, []string{"_id", "kind", "gauge_id", "at", "level_mm", "quality", "speed_ms", "direction", "height_m", "period_s", "seen_by"}, g.observation),
		table("storm_alert", alerts, []string{"_id", "issued_at", "level", "text", "stations"}, func(i int) []any {
			var level any = []string{"watch", "warning", "danger"}[min(g.IntN(6)/2, 2)]
			if i%30 == 17 {
				level = nil
			}
			return []any{id(i), g.moment(days).Format(time.DateTime), level, "Strong wind and high water are expected.", []any{hexID(i % stations), hexID((i * 7) % stations)}}
		}),
		// One of them keeps all that was ever sent to it.
		table("feed_subscriber", subscribers, []string{"_id", "name", "address", "active", "sent"}, func(i int) []any {
			n := 1 + i%5
			if i == 36 {
				n = 2400
			}
			var sent []any
			for k := range n {
				sent = append(sent, map[string]any{"alert_id": id((i + k) % alerts), "accepted": k%9 != 0})
			}
			return []any{id(i), g.person(), fmt.Sprintf("feed-%03d@saltmere.example", i+1), g.IntN(8) > 0, sent}
		}),
	}
}

// observation is of one of three kinds, each with fields of its own.
func (g *generator) observation(i int) []any {
	row := []any{id(i), []string{"tide", "wind", "wave"}[i%3], id(i % gauges), start.Add(time.Duration(i) * time.Minute), nil, nil, nil, nil, nil, nil, nil}
	if i%4000 == 700 {
		row[2] = int64(gauges + 40 + i/4000) // a gauge that is gone
	}
	switch i % 3 {
	case 0:
		if row[4] = int64(g.IntN(3000) - 1500); i%240 == 0 {
			row[4] = "n/a"
		}
		row[5] = int64(max(0, g.IntN(40)-37))
	case 1:
		row[6], row[7] = float64(g.IntN(300))/10, int64(g.IntN(360))
	default:
		row[8], row[9] = float64(g.IntN(80))/10, float64(20+g.IntN(100))/10
	}
	if i%11 == 3 {
		row[10] = []any{map[string]any{"keeper": id(i % keepers), "note": "by eye"}}
	}
	return row
}
