package finding

import "testing"

// TestInTime: names that tell when a capture was made, and such that only tell which thing it is of.
func TestInTime(t *testing.T) {
	for name, want := range map[string]bool{
		"captures/sailings-2026-03-09.json": true, "captures/20260309T0815.json": true, "captures/routes/6.json": true, "c/port-12.json": true, "c/fares (3).json": true,
		"captures/fares-4400.json": false, "captures/pass-SP-0105.json": false, "captures/ports.json": false, "c/7d9f1c02-3b2a-4c5d-8e6f-000000000001.json": false,
	} {
		if got := inTime(name); got != want {
			t.Errorf("%s: %v, want %v", name, got, want)
		}
	}
	for name, want := range map[string]string{"captures/sailings-2026-03-09.json": "sailings-2026-03-09", "captures/routes/6.json": "routes/6", "6.json": "6", "a/b/2026-03-09.ndjson": "b/2026-03-09"} {
		if got := captureName(name); got != want {
			t.Errorf("%s is called %s, want %s", name, got, want)
		}
	}
}
