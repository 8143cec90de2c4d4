package capture

// foreign names what a document is in place of JSON, where its first bytes tell; "" where they do not.
func foreign(data []byte) string {
	switch is := look(data); is {
	case isPage:
		return "it is a web page, not JSON: an error or a login page, perhaps"
	case isMarkup:
		return "it is an XML document, not JSON"
	case isPicture:
		return "it is an image, not JSON"
	case isWide:
		return "it goes on in UTF-16 or UTF-32, not in UTF-8"
	}
	return ""
}
