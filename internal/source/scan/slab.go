package scan

import "sync"

// Slab makes values of a type many at a time, for what a project declares very many of. The
// zero Slab makes each by itself, and may be shared.
type Slab[T any] struct {
	rest []T
	size int
}

// SlabOf is a slab that makes so many values at once.
func SlabOf[T any](size int) Slab[T] { return Slab[T]{size: size} }

// New is a value of its own that is v.
func (s *Slab[T]) New(v T) *T {
	if s.size == 0 {
		own := v
		return &own
	}
	if len(s.rest) == 0 {
		s.rest = make([]T, s.size)
	}
	p := &s.rest[0]
	s.rest = s.rest[1:]
	*p = v
	return p
}

// Row is a slice of so many values, with no room for more; nil for none.
func (s *Slab[T]) Row(n int) []T {
	if n == 0 {
		return nil
	}
	if n > s.size/4 { // else what is left behind would be much
		return make([]T, n)
	}
	if len(s.rest) < n {
		s.rest = make([]T, s.size)
	}
	row := s.rest[:n:n]
	s.rest = s.rest[n:]
	return row
}

// One is a slice of v alone, with no room for more.
func (s *Slab[T]) One(v T) []T {
	one := s.Row(1)
	one[0] = v
	return one
}

// Rooms are things that files are read in, one file at a time in each: as many as files are
// read side by side. They must go with what was read in them, which they lead to.
type Rooms[T any] struct {
	Make  func() *T
	mutex sync.Mutex
	free  []*T
}

// Take is a room that nothing is read in; Give gives it back.
func (r *Rooms[T]) Take() *T {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	n := len(r.free)
	if n == 0 {
		return r.Make()
	}
	room := r.free[n-1]
	r.free = r.free[:n-1]
	return room
}

// Give is described at Take.
func (r *Rooms[T]) Give(room *T) {
	r.mutex.Lock()
	defer r.mutex.Unlock()
	r.free = append(r.free, room)
}
