package jvm

import "vetta/internal/model"

// functionAround is the function whose body a token is in, nil where it is in none.
func functionAround(f *File, at int) (found *model.Method) {
	within := func(all []*model.Method) {
		for _, m := range all {
			if m.Body[0] <= at && at < m.Body[1] {
				found = m
			}
		}
	}
	within(f.Functions)
	for c := range classesAround(f, at) {
		within(c.Methods)
	}
	return found
}

// ofDecoder says whether a token is in a function that extends a decoder, so that what it calls
// may be the decoder's own.
func ofDecoder(f *File, at int) bool {
	m := functionAround(f, at)
	return m != nil && (builders[m.Receiver] != "" || m.Receiver == "ObjectReader")
}

func isWordByte(b byte) bool {
	return b == '_' || b >= '0' && b <= '9' || b|0x20 >= 'a' && b|0x20 <= 'z'
}
