package traffic

// What a body is called that holds no JSON.
const (
	Empty      = "empty body"
	Unsaved    = "body that was not saved"
	Unanswered = "request without an answer"
	WebPage    = "web page"
	XML        = "XML document"
	PlainText  = "plain text"
	Image      = "image"
	Sound      = "sound or film"
	Font       = "font"
	Stylesheet = "style sheet"
	Script     = "script"
	Other      = "body of another kind"
	Filtered   = "response left out by an option"
)
