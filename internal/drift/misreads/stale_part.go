package misreads

import (
	"vetta/internal/decoder"
	"vetta/internal/drift/finding"
)

// StalePart is the kind stale-part: generated code that is older than its class.
var StalePart = &finding.Kind{
	Name:  "stale-part",
	Level: finding.Misreads,
	Title: "the generated part is older than the class",
	Text: `The class says that a field is read under another key, or as another type, than the
generated part of the file does: the class was changed, and the generator was not run
since. The app runs the old code, and what it does with the responses is told from that.`,
	Examples: []finding.Example{
		{In: "Dart", Code: `@JsonSerializable()
class Berth {
  @JsonKey(name: 'berth_no') final int no;
  Berth(this.no);
  factory Berth.fromJson(Map<String, dynamic> json) => _$BerthFromJson(json);
}
Berth _$BerthFromJson(Map<String, dynamic> json) => Berth((json['no'] as num).toInt());`, Sent: `{"berth_no": 3, "no": 3}`},
	},
	Fix:   `Run the generator again: dart run build_runner build.`,
	Takes: finding.Loss(decoder.StalePart),
	Suggest: func(*finding.Finding) finding.Change {
		return finding.Change{Code: "dart run build_runner build", Why: "and look what changes"}
	},
}
