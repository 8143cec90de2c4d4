package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// RolledDate is the kind rolled-date: a date that is none, read as another one.
var RolledDate = &finding.Kind{
	Name:  "rolled-date",
	Level: finding.Misreads,
	Title: "a date that does not exist, read as another one",
	Text: `DateTime.parse takes months, days and hours beyond their range and counts on from
them: 2026-02-30 is 2 March, and the text of a number of seconds is a year of six digits.
Nothing is thrown, and the app shows a date that nobody sent.`,
	Examples: []finding.Example{
		{In: "Dart", Code: `class Sailing {
  final DateTime departs;
  Sailing.fromJson(Map<String, dynamic> json) : departs = DateTime.parse(json['departs']);
}`, Sent: `{"departs": "2026-02-30"}`},
	},
	Fix: `Read the form that is sent. What must be a date is checked by writing it again:
date.toIso8601String() begins with the text that was read.`,
	Takes: finding.Loss(decoder.RolledDate),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Say("read the form that is sent; DateTime.parse refuses no month, day or hour")
	},
}
