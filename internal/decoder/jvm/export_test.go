package jvm

import "vetta/internal/decoder"

type seen = decoder.Seen

const (
	unknownKind = decoder.SeenUnknown
	decimalKind = decoder.SeenDecimal
)
