// Package words compares names that people write: for keys that were renamed, and for what was mistyped.
package words

import "fmt"

// Distance counts the letters to insert, remove, replace or swap with the next to
// make a of b.
func Distance(a, b string) int {
	prev2, prev, cur := make([]int, len(b)+1), make([]int, len(b)+1), make([]int, len(b)+1)
	for j := range prev {
		prev[j] = j
	}
	for i := 1; i <= len(a); i++ {
		cur[0] = i
		for j := 1; j <= len(b); j++ {
			cost := 1
			if a[i-1] == b[j-1] {
				cost = 0
			}
			cur[j] = min(prev[j]+1, cur[j-1]+1, prev[j-1]+cost)
			if i > 1 && j > 1 && a[i-1] == b[j-2] && a[i-2] == b[j-1] {
				cur[j] = min(cur[j], prev2[j-2]+1)
			}
		}
		prev2, prev, cur = prev, cur, prev2
	}
	return prev[len(b)]
}

// farthest is how many letters a word may be off to be suggested, or one less.
const farthest = 3

// Nearest words a suggestion for a mistyped word out of those that are known, to stand behind what is said of
// it; "" where none is near.
func Nearest(word string, known []string) string {
	best, distance := "", farthest
	for _, k := range known {
		if d := Distance(word, k); d < distance && d < len(k) {
			best, distance = k, d
		}
	}
	if best == "" {
		return ""
	}
	return fmt.Sprintf("; did you mean %s?", best)
}
