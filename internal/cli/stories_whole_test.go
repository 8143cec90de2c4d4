package cli_test

// wholeStories are about what must not vanish.
var wholeStories = []story{}
