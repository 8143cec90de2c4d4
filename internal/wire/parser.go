package wire

// Parser parses one document after another and keeps its memory: a document is only good until the next
// one is parsed. The zero Parser is ready.
type Parser struct {
	r       Reader
	values  slab[Value]
	elems   slab[*Value]
	members slab[Member]
	// Of containers that are not at their end yet.
	openElems   []*Value
	openMembers []Member
	names       map[string]string // as they are written, with what they mean
}

// slab is memory that is given out in stretches, and taken back all at once.
type slab[T any] struct {
	blocks [][]T
	at     int // the block that is given out of
	used   int // of it
}

// How much memory is made at once: little at first, since most documents are small.
const (
	firstSlab   = 16
	largestSlab = 1024
)

// take is room for n.
func (s *slab[T]) take(n int) []T {
	for ; s.at < len(s.blocks); s.at, s.used = s.at+1, 0 {
		if block := s.blocks[s.at]; len(block)-s.used >= n {
			s.used += n
			return block[s.used-n : s.used : s.used]
		}
	}
	s.blocks = append(s.blocks, make([]T, max(n, min(firstSlab<<len(s.blocks), largestSlab))))
	s.used = n
	return s.blocks[s.at][:n:n]
}

func (s *slab[T]) reset() { s.at, s.used = 0, 0 }

// mostNames bounds the names that are kept from one document to the next.
const mostNames = 4096

// ParseNext reads one document that starts at offset or behind white space there, and answers it with the
// offset behind it.
func (p *Parser) ParseNext(data []byte, offset int) (*Value, int, error) {
	p.values.reset()
	p.elems.reset()
	p.members.reset()
	p.openElems, p.openMembers = p.openElems[:0], p.openMembers[:0]
	if p.names == nil || len(p.names) > mostNames {
		p.names = map[string]string{}
	}
	p.r.Reset(data, offset)
	ev, err := p.r.Next()
	if err != nil {
		return nil, 0, err
	}
	v, err := p.build(ev)
	return v, p.r.Offset(), err
}

// build makes the value that ev begins. The Reader bounds its depth.
func (p *Parser) build(ev Event) (*Value, error) {
	v := &p.values.take(1)[0]
	*v = Value{Start: ev.Start, End: ev.End, Kind: ev.Kind.Of()}
	switch ev.Kind {
	case BeginArray:
		from := len(p.openElems)
		for {
			next, err := p.r.Next()
			if err != nil {
				return nil, err
			}
			if next.Kind == EndArray {
				v.End = next.End
				if all := p.openElems[from:]; len(all) > 0 {
					v.Elems = p.elems.take(len(all))
					copy(v.Elems, all)
				}
				p.openElems = p.openElems[:from]
				return v, nil
			}
			elem, err := p.build(next)
			if err != nil {
				return nil, err
			}
			p.openElems = append(p.openElems, elem)
		}
	case BeginObject:
		from := len(p.openMembers)
		for {
			key, err := p.r.Next()
			if err != nil {
				return nil, err
			}
			if key.Kind == EndObject {
				v.End = key.End
				if all := p.openMembers[from:]; len(all) > 0 {
					v.Members = p.members.take(len(all))
					copy(v.Members, all)
				}
				p.openMembers = p.openMembers[:from]
				return v, nil
			}
			next, err := p.r.Next()
			if err != nil {
				return nil, err
			}
			member, err := p.build(next)
			if err != nil {
				return nil, err
			}
			p.openMembers = append(p.openMembers, Member{Name: p.name(key), NameStart: key.Start, Value: member})
		}
	}
	v.Raw = p.r.data[ev.Start:ev.End]
	return v, nil
}

// name is what a key means.
func (p *Parser) name(key Event) string {
	written := p.r.data[key.Start:key.End]
	if name, known := p.names[string(written)]; known {
		return name
	}
	name, _ := Unquote(written)
	p.names[string(written)] = name
	return name
}
