package run

import (
	"fmt"
	"time"
)

func (m *Machine) madeDate(name string, a Args, pos codePos) (Value, error) {
	arg := a.at(0)
	t := &Type{Name: "DateTime"}
	switch name {
	case "now", "timestamp":
		return Value{Kind: Unknown, Static: t, Out: &Outside{}}, nil
	case "fromMillisecondsSinceEpoch", "fromMicrosecondsSinceEpoch":
		v, err := m.coerce(arg, intType, &frame{}, false)
		if err != nil {
			return v, err
		}
		if v.isUnknown() {
			return unknown(t, v), nil
		}
		n := v.N
		limit := int64(8640000000000000)
		if name == "fromMicrosecondsSinceEpoch" {
			limit *= 1000
		}
		if n > limit || n < -limit {
			return v, &Thrown{Class: "ArgumentError", Message: fmt.Sprintf("RangeError (millisecondsSinceEpoch): Invalid value: Not in inclusive range -8640000000000000..8640000000000000: %d", n), At: arg.At, Pos: pos}
		}
		if name == "fromMillisecondsSinceEpoch" {
			n *= 1000
		}
		utc, _ := a.named("isUtc")
		return hostOf(Date{Micros: n, UTC: utc.Kind == Bool && utc.N == 1}), nil
	case "", "utc":
		n := []int{1970, 1, 1, 0, 0, 0, 0, 0}
		for i, v := range a.plain() {
			if v.isUnknown() {
				return unknown(t, a.List...), nil
			}
			v, err := m.coerce(v, intType, &frame{}, false)
			if err != nil {
				return v, err
			}
			if i < len(n) {
				n[i] = int(v.N)
			}
		}
		at := time.Date(n[0], time.Month(n[1]), n[2], n[3], n[4], n[5], 0, time.UTC).UnixMicro() + int64(n[6])*1000 + int64(n[7])
		return hostOf(Date{Micros: at, UTC: name == "utc"}), nil
	}
	return arg, unfollowed("DateTime."+name, pos)
}

func (m *Machine) madeSpan(a Args, pos codePos) (Value, error) {
	per := map[string]int64{"days": 86400e6, "hours": 3600e6, "minutes": 60e6, "seconds": 1e6, "milliseconds": 1e3, "microseconds": 1}
	var sum int64
	for i, name := range a.Names {
		v := a.List[len(a.plain())+i]
		v, err := m.coerce(v, intType, &frame{}, false)
		if err != nil {
			return v, err
		}
		if v.isUnknown() {
			return unknown(&Type{Name: "Duration"}, a.List...), nil
		}
		sum += v.N * per[name]
	}
	return hostOf(Span{sum}), nil
}
