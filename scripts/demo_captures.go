//go:build ignore

// Writes the captured responses of the demo: go run scripts/demo_captures.go
//
// They span three weeks in which the API drifts as APIs do. Everything in them is
// invented; the same seed gives the same bytes.
package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"log"
	"math/rand/v2"
	"os"
	"path/filepath"
	"time"
)

const dir = "demo/saltmere/captures"

// object keeps its keys in the order in which they were put in.
type object []member

type member struct {
	key   string
	value any
}

func (o object) MarshalJSON() ([]byte, error) {
	var b bytes.Buffer
	b.WriteByte('{')
	for i, m := range o {
		if i > 0 {
			b.WriteByte(',')
		}
		k, _ := json.Marshal(m.key)
		v, err := json.Marshal(m.value)
		if err != nil {
			return nil, err
		}
		b.Write(k)
		b.WriteByte(':')
		b.Write(v)
	}
	b.WriteByte('}')
	return b.Bytes(), nil
}

var r = rand.New(rand.NewPCG(2026, 3))

var (
	ports   = []string{"SAL", "MER", "TOR", "WYK", "HOL"}
	vessels = []struct {
		name  string
		knots any
	}{{"Tern", 14}, {"Gull", 12}, {"Curlew", 18}, {"Plover", 11}}
)

func write(name string, value any) {
	data, err := json.MarshalIndent(value, "", "  ")
	if err != nil {
		log.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, name), append(data, '\n'), 0o644); err != nil {
		log.Fatal(err)
	}
}

func sailings(day time.Time, week int) object {
	var list []object
	for i := range 8 {
		v := vessels[r.IntN(len(vessels))]
		departs := day.Add(time.Duration(6+i*2) * time.Hour)
		from := r.IntN(len(ports))
		key := "departs_at"
		if week == 3 && day.Weekday() >= time.Thursday {
			key = "departure_time" // the API renames the key in the third week
		}
		status := []string{"on_time", "on_time", "on_time", "delayed", "full"}[r.IntN(5)]
		if week >= 2 && r.IntN(10) == 0 {
			status = "boarding"
		}
		knots := v.knots
		if v.name == "Gull" && week >= 2 {
			knots = 12.5 // it was refitted
		}
		vessel := object{{"name", v.name}, {"knots", knots}}
		o := object{
			{"id", 4100 + week*100 + int(day.Weekday())*10 + i}, {"from", ports[from]}, {"to", ports[(from+1+r.IntN(4))%5]},
			{key, departs.Format(time.RFC3339)}, {"arrives_at", departs.Add(95 * time.Minute).Format(time.RFC3339)},
			{"vessel", vessel}, {"status", status}, {"seats_left", r.IntN(180)},
		}
		var gate any = fmt.Sprintf("%c%d", 'A'+r.IntN(3), 1+r.IntN(6))
		if r.IntN(14) == 0 {
			gate = nil // not assigned yet
		}
		o = append(o, member{"gate", gate})
		notice := object{{"text", "Low tide: use the upper ramp"}, {"severity", 1 + r.IntN(3)}}
		switch {
		case r.IntN(4) > 0:
			o = append(o, member{"notices", []object{}})
		case week == 3 && r.IntN(2) == 0:
			o = append(o, member{"notices", notice}) // one of them, without its list
		default:
			o = append(o, member{"notices", []object{notice}})
		}
		if r.IntN(3) == 0 {
			o = append(o, member{"stops", []string{ports[r.IntN(5)]}})
		}
		if week >= 2 {
			o = append(o, member{"wheelchair_spaces", 2 + r.IntN(4)})
		}
		list = append(list, o)
	}
	return object{{"sailings", list}, {"page", object{{"number", 1}, {"of", 1}}}}
}

func portList(week int) []object {
	names := map[string]string{"SAL": "Saltmere", "MER": "Merrow Point", "TOR": "Torrin", "WYK": "Wyke Sands", "HOL": "Holm Island"}
	var list []object
	for i, code := range ports {
		o := object{
			{"code", code}, {"name", names[code]}, {"depth", []any{4, 5.5, 3.2, 6, 4.8}[i]},
			{"berths", []object{{{"number", 1}, {"length", 42}}, {{"number", 2}, {"length", 55.5}}}},
			{"image_url", "https://img.saltmere.example/ports/" + code + ".jpg"}, {"timezone", "Europe/London"},
		}
		if i%2 == 0 {
			o = append(o, member{"open_since", 1921 + 7*i})
		}
		if week == 3 {
			o = append(o, member{"has_lift", i != 2})
		}
		list = append(list, o)
	}
	return list
}

func vesselList(week int) []object {
	var list []object
	for i, v := range vessels {
		o := object{
			{"name", v.name}, {"call_sign", fmt.Sprintf("MSF%d", 11+i)}, {"tonnage", []any{480, 620, 1250, 300}[i]},
			{"capacity", object{{"passengers", 120 + 60*i}, {"cars", 8 * i}}}, {"built", 1998 + 3*i},
			{"website", "https://saltmere.example/fleet/" + v.name}, {"crew", object{{"deck", 3 + i}, {"engine", 2}}},
		}
		if week == 3 && v.name == "Plover" {
			o[5].value = "" // sold: its page is gone
		}
		list = append(list, o)
	}
	return list
}

func fares(week int, sailing int) object {
	var list []object
	for i, ticket := range []string{"adult", "child", "bicycle", "car"} {
		o := object{{"ticket", ticket}, {"amount", []any{12.5, 6.25, 3, 38.9}[i]}, {"tax_included", true}}
		if week == 3 && ticket == "car" {
			o[1].value = "38.90" // as text since the price engine changed
		}
		if i == 0 {
			o = append(o, member{"valid_until", "2026-09-30T23:59:59Z"})
		}
		list = append(list, o)
	}
	return object{{"sailing_id", sailing}, {"currency", "EUR"}, {"fares", list}, {"discounts", object{{"return", 0.15}, {"group", 0.2}}}}
}

func notices(day time.Time, week int) object {
	var list []object
	for i := range 2 {
		published := day.Add(time.Duration(7+i) * time.Hour).Format(time.RFC3339)
		if week == 3 && i == 1 {
			published = day.Add(8 * time.Hour).Format("2006-01-02 15:04:05") // from the new editor
		}
		list = append(list, object{
			{"id", fmt.Sprintf("7d9f1c%02d-3b2a-4c5d-8e6f-%012d", day.Day(), i+1)}, {"title", []string{"Engine works", "Harbour festival"}[i]},
			{"body", "Ask at the kiosk."}, {"published", published}, {"link", nil},
		})
	}
	return object{{"notices", list}, {"updated", day.Add(9 * time.Hour).Format(time.RFC3339)}}
}

func pass(n, week int) object {
	o := object{{"id", fmt.Sprintf("SP-%04d", n)}, {"holder", []string{"R. Alder", "M. Finch", "T. Rowan"}[n%3]}, {"rides_left", n % 9}, {"active", n%4 != 0}, {"zones", []string{"inner"}}}
	if week == 3 {
		o[3].value = fmt.Sprint(n%4 != 0) // "true": a word where a bool was
	}
	if n%3 == 1 {
		o = append(o[:4], o[5:]...)
	}
	return append(o, member{"email", fmt.Sprintf("holder%d@saltmere.example", n)})
}

func main() {
	os.RemoveAll(dir)
	if err := os.MkdirAll(dir, 0o755); err != nil {
		log.Fatal(err)
	}
	start := time.Date(2026, 3, 2, 0, 0, 0, 0, time.UTC) // a Monday
	n := 0
	for week := 1; week <= 3; week++ {
		for _, d := range []int{0, 1, 3, 4} {
			day := start.AddDate(0, 0, 7*(week-1)+d)
			write("sailings-"+day.Format("2006-01-02")+".json", sailings(day, week))
		}
		day := start.AddDate(0, 0, 7*(week-1))
		write("ports-"+day.Format("2006-01-02")+".json", portList(week))
		write("vessels-"+day.Format("2006-01-02")+".json", vesselList(week))
		for k := range 2 {
			id := 4100 + week*100 + k
			write(fmt.Sprintf("fares-%d.json", id), fares(week, id))
			write("notices-"+day.AddDate(0, 0, 2*k).Format("2006-01-02")+".json", notices(day.AddDate(0, 0, 2*k), week))
			n++
			write(fmt.Sprintf("pass-SP-%04d.json", 100+n), pass(100+n, week))
		}
	}
}
