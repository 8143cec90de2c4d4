module vetta

go 1.26.0

require (
	github.com/BurntSushi/toml v1.6.0
	github.com/andybalholm/brotli v1.3.0
	github.com/bmatcuk/doublestar/v4 v4.10.4
	github.com/fsnotify/fsnotify v1.10.1
	github.com/go-json-experiment/json v1.27.2
	github.com/klauspost/compress v1.20.4
	github.com/santhosh-tekuri/jsonschema/v6 v6.0.3
	github.com/schollz/progressbar/v3 v3.19.1
	golang.org/x/term v0.48.0
	golang.org/x/text v0.44.0
)

require (
	github.com/mitchellh/colorstring v0.0.0-20190213212951-d06e56a500db // indirect
	github.com/rivo/uniseg v0.4.7 // indirect
	golang.org/x/sys v0.50.0 // indirect
)
