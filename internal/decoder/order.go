package decoder

import "slices"

// misplaced says of the members that the order of elements loses, which have been read for themselves, that nothing is
// seen of them.
func (r *run) misplaced() {
	for k := range r.changes {
		change := &r.changes[k]
		for i := len(r.reads) - 1; i >= 0 && change.lost != nil; i-- {
			within := len(change.Place) - 1
			if read := &r.reads[i]; read.Field == change.lost && len(read.Place) > within && slices.Equal(read.Place[:within], change.Place[:within]) {
				read.Seen, read.Err = change.Seen, nil
				change.Place, change.Sent, change.lost = clone(read.Place), read.Sent, nil
			}
		}
	}
}
