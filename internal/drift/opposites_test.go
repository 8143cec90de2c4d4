package drift

import "testing"

// TestOpposites: words that say the opposite are no other names of each other.
func TestOpposites(t *testing.T) {
	for _, pair := range [][2]string{{"toStop", "from_stop"}, {"minPrice", "maxPrice"}, {"startsAt", "endsAt"}, {"arrivalPort", "departurePort"}, {"created_at", "updated_at"}} {
		if score, _ := likeness(pair[0], pair[1]); score > 0 {
			t.Errorf("%s and %s are alike: %v", pair[0], pair[1], score)
		}
	}
	for _, pair := range [][2]string{{"toStop", "to_stop"}, {"startsAt", "starts_at"}, {"fromTo", "from_to"}, {"departsAt", "departs"}} {
		if score, _ := likeness(pair[0], pair[1]); score < 0.6 {
			t.Errorf("%s and %s are not alike: %v", pair[0], pair[1], score)
		}
	}
}
