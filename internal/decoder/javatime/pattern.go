package javatime

import "strings"

// Has says which parts of a date and a time a format reads.
type Has struct{ Date, Time, Offset bool }

// Pattern is the format of a pattern (DateTimeFormatter.ofPattern); nil for one with letters that are not followed: names
// of months and days, which go by the language, and the rarer ones.
func Pattern(pattern string) (f *Format, has Has) {
	parts, ok := parse(pattern, &has)
	if !ok {
		return nil, has
	}
	adjacent(parts)
	fields := map[field]bool{}
	noted(parts, fields)
	has.Date = fields[year] && fields[month] && fields[day]
	has.Time = fields[hour] || fields[halfed] && fields[half]
	return &Format{parts: parts}, has
}

func noted(parts []part, fields map[field]bool) {
	for _, p := range parts {
		switch p.kind {
		case number, reduced:
			fields[p.field] = true
		case halfDay:
			fields[half] = true
		}
	}
}

func parse(pattern string, has *Has) (parts []part, ok bool) {
	for i := 0; i < len(pattern); {
		c := pattern[i]
		switch {
		case c == '\'':
			end := i + 1
			var text strings.Builder
			for ; end < len(pattern); end++ {
				if pattern[end] == '\'' {
					if end+1 < len(pattern) && pattern[end+1] == '\'' {
						end++
					} else {
						break
					}
				}
				text.WriteByte(pattern[end])
			}
			if end >= len(pattern) {
				return nil, false
			}
			if text.Len() == 0 { // ''
				text.WriteByte('\'')
			}
			parts, i = append(parts, part{kind: literal, text: text.String()}), end+1
		case c == '[':
			depth, end := 1, i+1
			for ; end < len(pattern) && depth > 0; end++ {
				switch pattern[end] {
				case '[':
					depth++
				case ']':
					depth--
				}
			}
			if depth > 0 || strings.Contains(pattern[i:end], "'") { // which may be of a bracket
				return nil, false
			}
			inner, ok := parse(pattern[i+1:end-1], has)
			if !ok {
				return nil, false
			}
			adjacent(inner)
			parts, i = append(parts, part{kind: optional, inner: inner}), end
		case c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z':
			end := i
			for end < len(pattern) && pattern[end] == c {
				end++
			}
			p, ok := lettered(pattern[i:end])
			if !ok {
				return nil, false
			}
			has.Offset = has.Offset || p.kind == offsetX
			parts, i = append(parts, p), end
		case strings.IndexByte("]{}#", c) >= 0:
			return nil, false
		default:
			parts, i = append(parts, part{kind: literal, text: pattern[i : i+1]}), i+1
		}
	}
	return parts, true
}

// lettered is what letters of a kind stand for.
func lettered(letters string) (part, bool) {
	n := len(letters)
	plain := func(f field) (part, bool) {
		if n == 1 {
			return part{kind: number, field: f, min: 1, max: 19, sign: normal}, true
		}
		return two(f), n == 2
	}
	switch letters[0] {
	case 'y', 'u':
		switch {
		case n == 2:
			return part{kind: reduced, field: year, min: 2, max: 2}, true
		case n == 1:
			return part{kind: number, field: year, min: 1, max: 19, sign: normal, era: letters[0] == 'y'}, true
		case n == 4:
			return part{kind: number, field: year, min: 4, max: 19, sign: exceeds, era: letters[0] == 'y'}, true
		}
	case 'M', 'L':
		return plain(month)
	case 'd':
		return plain(day)
	case 'H':
		return plain(hour)
	case 'h':
		return plain(halfed)
	case 'a':
		return part{kind: halfDay}, n == 1
	case 'm':
		return plain(minute)
	case 's':
		return plain(second)
	case 'S':
		return part{kind: digits, field: nano, min: n, max: n}, n <= 9
	case 'X', 'x':
		return part{kind: offsetX, text: letters}, n <= 3
	case 'Z':
		return part{kind: offsetX, text: letters}, n <= 3 || n == 5
	}
	return part{}, false
}

// adjacent has a number leave digits to the numbers of a fixed width that stand right behind it.
func adjacent(parts []part) {
	for i := range parts {
		if parts[i].kind != number || parts[i].min == parts[i].max {
			continue
		}
		for k := i + 1; k < len(parts) && (parts[k].kind == number || parts[k].kind == reduced) && parts[k].min == parts[k].max; k++ {
			parts[i].reserve += parts[k].max
		}
	}
}
