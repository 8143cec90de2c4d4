package scan

import "testing"

// TestSlab: what comes from one is each value's own, as if it had been made by itself.
func TestSlab(t *testing.T) {
	for _, size := range []int{0, 1, 3, 8} {
		s := SlabOf[int](size)
		var all []*int
		for i := range 20 {
			all = append(all, s.New(i))
		}
		for i, p := range all {
			if *p != i {
				t.Errorf("of %d at once: value %d is %d", size, i, *p)
			}
			*p = -1
		}
		var rows [][]int
		for i := range 20 {
			row := s.Row(i % 4)
			for _, v := range row {
				if v != 0 {
					t.Errorf("of %d at once: row %d is not empty: %v", size, i, row)
				}
			}
			for k := range row {
				row[k] = i
			}
			rows = append(rows, append(row, -i)) // must not write into the next
		}
		for i, row := range rows {
			if len(row) != i%4+1 || row[len(row)-1] != -i {
				t.Errorf("of %d at once: row %d is %v", size, i, row)
			}
			for _, v := range row[:len(row)-1] {
				if v != i {
					t.Errorf("of %d at once: row %d is %v", size, i, row)
				}
			}
		}
		if one := s.One(7); len(one) != 1 || one[0] != 7 || cap(one) != 1 {
			t.Errorf("of %d at once: one is %v of %d", size, one, cap(one))
		}
	}
}

// TestRooms: no room is taken twice at a time, and one that is free is taken again.
func TestRooms(t *testing.T) {
	made := 0
	r := Rooms[int]{Make: func() *int { made++; return new(int) }}
	a, b := r.Take(), r.Take()
	if a == b || made != 2 {
		t.Error("one room for two")
	}
	r.Give(a)
	if c := r.Take(); c != a || made != 2 {
		t.Error("a free room was not taken")
	}
	if d := r.Take(); d == a || d == b || made != 3 {
		t.Error("a room was taken twice")
	}
	Each(100, func(int) {
		room := r.Take()
		*room++
		r.Give(room)
	})
}
