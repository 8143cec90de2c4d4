package model

import "strings"

// SimpleName is a name without what it stands in: Port of com.saltmere.Port and of Sailing.Port.
func SimpleName(name string) string { return name[strings.LastIndexByte(name, '.')+1:] }

// Accessors are the names that the virtual machine has for the getter and the setter of a property of Kotlin; is says
// whether the property is named by is, whose getter is called as it is itself (kotlinlang.org, "Calling Kotlin from
// Java", Properties). Letters are those of ASCII alone (measured with kotlinc 1.9.24).
func Accessors(property string) (get, set string, is bool) {
	lower := func(s string) bool { return s != "" && s[0] >= 'a' && s[0] <= 'z' }
	if rest, ok := strings.CutPrefix(property, "is"); ok && rest != "" && !lower(rest) {
		return property, "set" + rest, true
	}
	if lower(property) {
		property = strings.ToUpper(property[:1]) + property[1:]
	}
	return "get" + property, "set" + property, false
}
