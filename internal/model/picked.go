package model

// PickedOf says of some calls which decode only some of what they are given, as far as code picks it: those that are said to
// be Picked, and those of one Part that is decoded as several types.
func PickedOf(calls []*Call) func(*Call) bool {
	first, several := map[string]string{}, map[string]bool{} // by Part
	for _, c := range calls {
		if c.Part == "" || c.Type == nil {
			continue
		}
		key := c.Type.Unwrapped().Key()
		if known, ok := first[c.Part]; ok && known != key {
			several[c.Part] = true
		}
		first[c.Part] = key
	}
	return func(c *Call) bool { return c.Part != "" && (c.Picked || several[c.Part]) }
}
