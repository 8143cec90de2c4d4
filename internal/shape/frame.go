package shape

import (
	"bytes"
	"encoding/binary"

	"vetta/internal/wire"
)

// frame is a container that is being read.
type frame struct {
	place *Place
	array bool
	index int      // of the array's current element
	start int      // where it begins in Data
	key   *Key     // of the object: the current one, nil in a map
	name  [2]int   // of a map: where the current key stands in Data, or
	named string   // the key, where it stood in a stretch before
	mask  uint64   // of the object: its keys so far, as bits by index of Place.Keys
	more  []uint64 // the same for indexes of 64 and more
	next  *[2]*Key // of the object: the keys that may come next, nil where nothing is known of them
}

// has says whether the object has had the key, and notes it.
func (f *frame) has(index int) bool {
	if index < 64 {
		bit := uint64(1) << index
		had := f.mask&bit != 0
		f.mask |= bit
		return had
	}
	word, bit := index/64-1, uint64(1)<<(index%64)
	for len(f.more) <= word {
		f.more = append(f.more, 0)
	}
	had := f.more[word]&bit != 0
	f.more[word] |= bit
	return had
}

// maskKey is a set of keys as a map key.
func maskKey(mask uint64, more []uint64) string {
	b := binary.LittleEndian.AppendUint64(make([]byte, 0, 16), mask)
	for _, m := range more {
		b = binary.LittleEndian.AppendUint64(b, m)
	}
	return string(bytes.TrimRight(b, "\x00"))
}

// bits are the keys of a form as bits.
func (f *Form) bits() (mask uint64, more []uint64) {
	var set frame
	for i, h := range f.Keys {
		if h {
			set.has(i)
		}
	}
	return set.mask, set.more
}

// open adds the container that ev begins to those that are being read.
func (r *Reader) open(place *Place, ev wire.Event) *frame {
	n := len(r.frames)
	if n == cap(r.frames) {
		r.frames = append(r.frames, frame{})
	} else {
		r.frames = r.frames[:n+1]
	}
	f := &r.frames[n]
	f.place, f.array, f.index, f.start, f.mask, f.more, f.key, f.named, f.next = place, false, 0, ev.Start, 0, f.more[:0], nil, "", nil
	return f
}

// closed drops the innermost container and answers the one around it.
func (r *Reader) closed() *frame {
	n := len(r.frames) - 1
	r.frames = r.frames[:n]
	if n == 0 {
		return nil
	}
	return &r.frames[n-1]
}
