package jvm

import "strings"

// packages are where the platform's classes are, by their simple names.
var packages = map[string]string{}

func init() {
	for pack, words := range map[string]string{
		"java.lang":                   "String Object Void Number Integer Long Short Byte Float Double Boolean Character CharSequence StringBuilder StringBuffer Iterable Throwable Exception RuntimeException Error IllegalArgumentException IllegalStateException NumberFormatException NullPointerException IndexOutOfBoundsException StringIndexOutOfBoundsException UnsupportedOperationException ArithmeticException ClassCastException",
		"java.io":                     "IOException EOFException FileNotFoundException UncheckedIOException",
		"java.math":                   "BigDecimal BigInteger",
		"java.net":                    "URL URI",
		"java.text":                   "ParseException",
		"java.time":                   "DateTimeException",
		"java.time.format":            "DateTimeParseException",
		"java.util":                   "NoSuchElementException Date Calendar EnumMap EnumSet UUID Optional Locale Currency List ArrayList LinkedList Collection AbstractList Queue Deque ArrayDeque Vector Stack Set HashSet LinkedHashSet TreeSet SortedSet NavigableSet AbstractSet Map HashMap LinkedHashMap TreeMap SortedMap NavigableMap Hashtable AbstractMap",
		"java.util.concurrent":        "ConcurrentHashMap ConcurrentMap CopyOnWriteArrayList",
		"java.util.concurrent.atomic": "AtomicInteger AtomicLong AtomicBoolean",
	} {
		for _, w := range strings.Fields(words) {
			packages[w] = pack + "."
		}
	}
}

// Package is the package of one of the platform's classes with the dot behind it, by the class's
// simple name; nothing where it is none of them.
func Package(class string) string { return packages[class] }
